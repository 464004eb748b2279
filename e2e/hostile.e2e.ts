import { existsSync, readdirSync } from 'node:fs'
import { spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import type { TapeInfo } from '../contract/tapes'
import { here } from './here'
import { api, bring, until } from './newsroom'
import { another, makeWav } from './wav'

/** Files that are broken, that lie, or that mean harm: each ends in a tape or in a plain sentence. */

function encode(...args: string[]): Buffer {
  const path = join(mkdtempSync(join(tmpdir(), 'plain-cut-made-')), 'made')
  const { status, stderr } = spawnSync('ffmpeg', ['-v', 'error', ...args, path], { encoding: 'utf8' })
  if (status !== 0) throw new Error(stderr)
  const file = readFileSync(path)
  rmSync(dirname(path), { recursive: true })
  return file
}
const tone = (...args: string[]) => encode('-f', 'lavfi', '-i', `sine=f=${330 + another()}:d=4:r=44100`, ...args)

const wav = (seconds = 2, change: (file: Buffer) => void = () => undefined): Buffer => {
  const file = makeWav(seconds)
  change(file)
  return file
}
const cut = (file: Buffer, share: number) => file.subarray(0, Math.floor(file.length * share))
/** A stretch of some bytes taken out. */
const bitten = (file: Buffer, from: number, to: number) => Buffer.concat([file.subarray(0, from), file.subarray(to)])
const turned = (file: Buffer) => Buffer.concat([file.subarray(file.length / 2), file.subarray(0, file.length / 2)])

/** A WAV of 32-bit floats, a second long. */
function floats(sample: (i: number) => number): Buffer {
  const shift = another()
  const file = Buffer.alloc(44 + 4 * 48_000)
  wav(1).copy(file, 0, 0, 44)
  file.writeUInt32LE(file.length - 8, 4)
  file.writeUInt16LE(3, 20)
  file.writeUInt16LE(1, 22)
  file.writeUInt32LE(48_000, 24)
  file.writeUInt32LE(4 * 48_000, 28)
  file.writeUInt16LE(4, 32)
  file.writeUInt16LE(32, 34)
  file.writeUInt32LE(4 * 48_000, 40)
  for (let i = 0; i < 48_000; i++) file.writeFloatLE(sample(i) + shift / 1e6, 44 + 4 * i)
  return file
}

const longFlac = () => encode('-f', 'lavfi', '-i', `anoisesrc=d=6:r=48000:a=0.2:seed=${another()}`, '-f', 'flac')
/** Bytes in the middle of a file written over. */
function overwritten(file: Buffer, bytes: number): Buffer {
  const out = Buffer.from(file)
  out.fill(0x55, file.length >> 1, (file.length >> 1) + bytes)
  return out
}

/** A WAV whose recorder noted a day and a time. */
function withBext(day: string, time: string): Buffer {
  const body = wav(2)
  const bext = Buffer.alloc(8 + 602)
  bext.write('bext', 0)
  bext.writeUInt32LE(602, 4)
  bext.write(day, 8 + 320)
  bext.write(time, 8 + 330)
  const out = Buffer.concat([body.subarray(0, 36), bext, body.subarray(36)])
  out.writeUInt32LE(out.length - 8, 4)
  return out
}

type Ending = 'tape' | 'sentence' | 'either'
const m4a = () => tone('-c:a', 'aac', '-f', 'mp4')
const mp3 = () => tone('-f', 'mp3')
const flac = () => tone('-f', 'flac')
const ogg = () => tone('-c:a', 'libvorbis', '-f', 'ogg')
const picture = () => encode('-f', 'lavfi', '-i', 'color=c=teal:s=64x64', '-frames:v', '1', '-f', 'image2', '-c:v', 'png')
const film = () => encode('-f', 'lavfi', '-i', 'color=c=teal:s=64x64:d=2', '-f', 'mp4', '-c:v', 'mpeg4')
const filmWithSound = () =>
  encode(
    '-f',
    'lavfi',
    '-i',
    'color=c=teal:s=64x64:d=2',
    '-f',
    'lavfi',
    '-i',
    `sine=f=${250 + another()}:d=2`,
    '-c:v',
    'mpeg4',
    '-c:a',
    'aac',
    '-f',
    'mov',
  )

const cases: [what: string, name: string, file: () => Buffer, ending: Ending][] = [
  ['text named .wav', 'letter.wav', () => Buffer.from('Dear all, the ferry is cancelled.'), 'sentence'],
  ['much text named .mp3', 'minutes.mp3', () => Buffer.from('The council met on Monday. '.repeat(20_000)), 'sentence'],
  ['nothing but zeros', 'zeros.wav', () => Buffer.alloc(200_000), 'sentence'],
  ['one byte', 'b.wav', () => Buffer.from('R'), 'sentence'],
  ['the first four letters of a WAV', 'riff.wav', () => Buffer.from('RIFF'), 'sentence'],
  ['a WAV header and no more', 'head.wav', () => wav().subarray(0, 44), 'sentence'],
  ['half a WAV header', 'half.wav', () => wav().subarray(0, 30), 'sentence'],
  ['a WAV cut in a sample', 'cut.wav', () => wav().subarray(0, 100_001), 'tape'],
  ['a WAV cut after ten samples', 'ten.wav', () => wav().subarray(0, 64), 'either'],
  ['a WAV whose length is zero', 'unfilled.wav', () => wav(2, (file) => void file.writeUInt32LE(0, 40)), 'tape'],
  ['a WAV whose length is unknown', 'unknown.wav', () => wav(2, (file) => void file.writeUInt32LE(0xffffffff, 40)), 'tape'],
  ['a WAV that promises 4 GB', 'promise.wav', () => wav(2, (file) => void file.writeUInt32LE(0xfffffff0, 40)), 'tape'],
  ['a WAV that went on past its length', 'went on.wav', () => wav(2, (file) => void file.writeUInt32LE(1000, 40)), 'tape'],
  ['a WAV of no channels', 'none.wav', () => wav(2, (file) => void file.writeUInt16LE(0, 22)), 'sentence'],
  ['a WAV of 65,535 channels', 'many.wav', () => wav(2, (file) => void file.writeUInt16LE(0xffff, 22)), 'sentence'],
  ['a WAV at no rate', 'still.wav', () => wav(2, (file) => void file.writeUInt32LE(0, 24)), 'sentence'],
  ['a WAV at 4 GHz', 'fast.wav', () => wav(2, (file) => void file.writeUInt32LE(0xffffffff, 24)), 'either'],
  ['a WAV at 1 Hz', 'slow.wav', () => wav(0.01, (file) => void file.writeUInt32LE(1, 24)), 'either'],
  ['a WAV of 0 bits', 'bits.wav', () => wav(2, (file) => void file.writeUInt16LE(0, 34)), 'either'],
  ['a WAV of an unheard-of kind', 'kind.wav', () => wav(2, (file) => void file.writeUInt16LE(0x7777, 20)), 'either'],
  ['a WAV with a chunk that never ends', 'chunk.wav', () => wav(2, (file) => void file.write('junk', 36)), 'sentence'],
  ['an RF64 without its sizes', 'rf64.wav', () => wav(2, (file) => void file.write('RF64', 0)), 'either'],
  ['noise', 'noise.bin', () => Buffer.from(Array.from({ length: 300_000 }, (_, i) => (i * 2_654_435_761) >>> 24)), 'either'],
  ['an MP3 cut in a frame', 'cut.mp3', () => cut(mp3(), 0.61), 'tape'],
  ['an MP3 after a page of text', 'page.mp3', () => Buffer.concat([Buffer.from('<html>'.repeat(400)), cut(mp3(), 0.9)]), 'either'],
  [
    'an MP3 with a tag that claims 200 MB',
    'tag.mp3',
    () => Buffer.concat([Buffer.from([0x49, 0x44, 0x33, 4, 0, 0, 0x60, 0, 0, 0]), cut(mp3(), 0.8)]),
    'either',
  ],
  ['an M4A without its table of contents', 'cut.m4a', () => cut(m4a(), 0.5), 'sentence'],
  ['an M4A of its first bytes', 'first.m4a', () => m4a().subarray(0, 40), 'sentence'],
  ['a FLAC cut short', 'cut.flac', () => cut(flac(), 0.5), 'tape'],
  ['a FLAC with a bite taken out of it', 'bite.flac', () => bitten(flac(), 30_000, 34_000), 'either'],
  ['a FLAC header alone', 'head.flac', () => flac().subarray(0, 60), 'sentence'],
  ['an Ogg cut short', 'cut.ogg', () => cut(ogg(), 0.7), 'tape'],
  ['an Ogg whose pages were turned round', 'turned.ogg', () => turned(ogg()), 'either'],
  ['a playlist that points at a file', 'list.m3u8', () => Buffer.from('#EXTM3U\n#EXTINF:1,\nfile:///etc/hostname\n'), 'sentence'],
  ['a playlist that points at an address', 'web.m3u', () => Buffer.from('#EXTM3U\nhttp://127.0.0.1:1/x.mp3\n'), 'sentence'],
  ['a list of parts named .wav', 'parts.wav', () => Buffer.from("ffconcat version 1.0\nfile '/etc/hostname'\n"), 'sentence'],
  [
    'a session description',
    'call.sdp',
    () => Buffer.from('v=0\no=- 0 0 IN IP4 127.0.0.1\ns=x\nc=IN IP4 127.0.0.1\nm=audio 5004 RTP/AVP 0\n'),
    'sentence',
  ],
  ['a picture', 'quay.png', picture, 'sentence'],
  ['a picture named .mp3', 'quay.mp3', picture, 'sentence'],
  ['a film without sound', 'quay.mp4', film, 'sentence'],
  ['a film with sound', 'quay.mov', filmWithSound, 'tape'],
  ['a name with slashes', '../../../etc/passwd', () => wav(), 'tape'],
  ['a name that is a way up', '..', () => wav(), 'tape'],
  ['a name of two lines', 'quay\nwall.wav', () => wav(), 'tape'],
  ['a name that turns round', 'quay\u202evaw.exe', () => wav(), 'tape'],
  ['a name of 300 letters', `${'q'.repeat(296)}.wav`, () => wav(), 'tape'],
  ['a name of nothing to be seen', '\u200b\u200f', () => wav(), 'tape'],
  ['a name in other letters', 'Fähre – Überfahrt 深夜 🚢.wav', () => wav(), 'tape'],
  ['a header of one sample a second', 'one.wav', () => wav(2, (file) => file.writeUInt32LE(1, 24)), 'sentence'],
  ['a rate that is too low for speech', 'slow.wav', () => wav(2, (file) => file.writeUInt32LE(2000, 24)), 'sentence'],
  [
    'nine channels',
    'nine.wav',
    () =>
      encode(
        '-f',
        'lavfi',
        '-i',
        'anoisesrc=d=1:c=white',
        '-filter_complex',
        '[0]asplit=9[a][b][c][d][e][f][g][h][i];[a][b][c][d][e][f][g][h][i]amerge=inputs=9',
        '-f',
        'wav',
      ),
    'sentence',
  ],
  [
    'sixteen channels',
    'sixteen.wav',
    () =>
      wav(2, (file) => {
        file.writeUInt16LE(16, 22)
        file.writeUInt16LE(32, 32)
      }),
    'sentence',
  ],
  ['float that is no number', 'nan.wav', () => floats((i) => (i === 5000 ? NaN : 0.1 * Math.sin(i / 20))), 'tape'],
  ['float without end', 'infinite.wav', () => floats((i) => (i === 7000 ? Infinity : 0.1 * Math.sin(i / 21))), 'tape'],
  ['float beyond reason', 'absurd.wav', () => floats((i) => (i === 9000 ? 1e30 : 0.1 * Math.sin(i / 22))), 'tape'],
  ['off centre', 'offset.wav', () => floats((i) => 0.2 + 0.1 * Math.sin(i / 23)), 'tape'],
  ['FLAC with 40 bytes overwritten', 'bitten.flac', () => overwritten(longFlac(), 40), 'tape'],
  ['MP3 with 4,000 bytes overwritten', 'bitten.mp3', () => overwritten(mp3(), 4000), 'tape'],
  ['dated 9999-99-99', 'future.wav', () => withBext('9999-99-99', '99:99:99'), 'tape'],
  ['dated 2020-00-00', 'never set.wav', () => withBext('2020-00-00', '00:00:00'), 'tape'],
  ['a name with markup', '<img src=x onerror=alert(1)>.wav', () => wav(), 'tape'],
]

describe('a file that is', () => {
  const media = (folder: string) => readdirSync(join(here.data, 'media', folder))
  const before = new Set([...media('tapes'), ...media('uploads')])
  const made: string[] = []

  it.concurrent.each(cases)('%s', { timeout: 120_000 }, async (_what, name, file, ending) => {
    const tape = await bring(name, file(), 100_000)
    if (tape.state === 'failed') {
      expect(ending).not.toBe('tape')
      expect(tape.error).toMatch(
        new RegExp(
          '^(There is no sound to be read in “.*”|“.*” (is here already, as “.*”|has .*|would unpack .*))' +
            '\\. ?(Nothing was kept of it\\.)?$',
        ),
      )
      expect(tape.error).not.toMatch(/[\n\u202e]/)
      await until(
        () => existsSync(join(here.data, 'media', 'tapes', tape.id)),
        (kept) => !kept,
      )
      await fetch(`${here.address}/api/tapes/${tape.id}/arrival`, { method: 'DELETE' })
      expect((await fetch(`${here.address}/api/tapes/${tape.id}`)).status).toBe(404)
      return
    }
    expect(ending).not.toBe('sentence')
    made.push(tape.id)
    expect(tape.frames).toBeGreaterThan(0)
    expect(tape.name).toMatch(/^\P{Cc}{1,200}$/u)
    expect(tape.name).not.toMatch(/[\u200b\u200e\u200f\u202a-\u202e]/)
    const sound = await fetch(`${here.address}/api/tapes/${tape.id}/sound/sound/0?from=0&to=${Math.min(tape.frames, 48_000)}`)
    expect((await sound.arrayBuffer()).byteLength).toBe(4 * Math.min(tape.frames, 48_000))
  })

  it('says what was wrong with it', async () => {
    const named = async (name: string) =>
      (await api<TapeInfo[]>('/tapes')).find((tape) => tape.fileName === name)!.findings.map(({ what }) => what)
    expect(await named('cut.wav')).toContain('cutShort')
    expect(await named('cut.flac')).toContain('cutShort')
    for (const name of ['bitten.mp3', 'bitten.flac']) expect(await named(name)).toContain('damaged')
    expect(await named('offset.wav')).toContain('offset')
    for (const name of ['nan.wav', 'infinite.wav', 'absurd.wav']) expect(await named(name)).toContain('unreal')
    for (const name of ['unfilled.wav', 'unknown.wav', 'went on.wav']) expect(await named(name)).toContain('unfinished')
  })

  it('is whole though its decoder is killed in the midst of it', { timeout: 120_000 }, async () => {
    const seconds = 420
    const file = encode('-f', 'lavfi', '-i', `anoisesrc=d=${seconds}:r=16000:a=0.1:seed=${another()}`, '-f', 'flac')
    let kills = 0
    const killing = setInterval(() => {
      const { stdout } = spawnSync('pgrep', ['-f', `ffmpeg .*${here.data}`], { encoding: 'utf8' })
      for (const pid of stdout
        .split('\n')
        .filter(Boolean)
        .slice(0, 2 - kills)) {
        process.kill(Number(pid), 'SIGKILL')
        kills++
      }
      if (kills > 1) clearInterval(killing)
    }, 30)
    const tape = await bring('killed.flac', file, 100_000).finally(() => clearInterval(killing))
    made.push(tape.id)
    expect(kills).toBeGreaterThan(0)
    expect(tape.state).toBe('ready')
    expect(tape.frames).toBe(seconds * 48_000)
    expect(tape.findings.map(({ what }) => what)).not.toContain('cutShort')
  })

  it('empty is not even begun', async () => {
    await expect(bring('empty.mp3', Buffer.alloc(0))).rejects.toThrow('“empty.mp3” is empty. Nothing was kept of it.')
  })

  it('leaves nothing behind, and the server up', async () => {
    const left = (folder: string) => media(folder).filter((id) => !before.has(id))
    await until(
      () => left('uploads'),
      (ids) => !ids.length,
    )
    expect(left('tapes').sort()).toEqual([...made].sort())
    expect((await api<TapeInfo[]>('/tapes')).filter(({ id, state }) => !before.has(id) && state !== 'ready')).toEqual([])
  })

  // others count what there is
  afterAll(async () => {
    for (const id of made)
      await api(`/documents/${id}`, { method: 'PATCH', headers: { 'Content-Type': 'application/json' }, body: '{"aside":true}' }).catch(
        () => undefined,
      )
  })
})
