import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { describe, expect, it } from 'vitest'
import type { TapeInfo } from '../contract/tapes'
import { PER_BIN } from '../core/sound/peaks'
import { here } from './here'
import { api, bring, FERRY, sheetDrawn, until, useBrowser, visit, watchTapes } from './newsroom'
import { another, makeWav, readWav } from './wav'

useBrowser()

function encode(...args: string[]): Buffer {
  const path = join(mkdtempSync(join(tmpdir(), 'plain-cut-made-')), 'made')
  const { status, stderr } = spawnSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', ...args, path], { encoding: 'utf8' })
  if (status !== 0) throw new Error(stderr)
  const file = readFileSync(path)
  rmSync(dirname(path), { recursive: true })
  return file
}
const came = watchTapes()
const samples = async (tape: TapeInfo, channel: number, from: number, to: number) =>
  new Float32Array(await (await fetch(`${here.address}/api/tapes/${tape.id}/sound/sound/${channel}?from=${from}&to=${to}`)).arrayBuffer())

describe('a file that is brought in', () => {
  const sine = (seconds: number, rate: number, more = '') => [
    '-i',
    `sine=f=440:d=${seconds}:r=${rate},volume=${1 - another() / 1000}${more}`,
  ]
  it.each([
    ['memo.mp3', 44_100, ['-f', 'mp3']],
    ['memo.flac', 44_100, ['-f', 'flac']],
    ['memo.ogg', 44_100, ['-c:a', 'libvorbis', '-f', 'ogg']],
    ['memo.opus', 48_000, ['-c:a', 'libopus', '-f', 'opus']],
    ['memo.m4a', 44_100, ['-c:a', 'aac', '-f', 'mp4']],
    ['memo.aiff', 44_100, ['-f', 'aiff']],
    ['memo 8 kHz.wav', 8000, ['-c:a', 'pcm_mulaw', '-f', 'wav']],
    ['memo 96 kHz.wav', 96_000, ['-c:a', 'pcm_f32le', '-f', 'wav']],
  ])('%s is brought to 48 kHz whole', async (name, rate, args) => {
    const file = encode(...sine(3, rate), ...args)
    const tape = await bring(name, file)
    expect(tape.state).toBe('ready')
    expect(Math.abs(tape.frames - 3 * 48_000)).toBeLessThan(3000)
    expect(tape.sha256).toBe(createHash('sha256').update(file).digest('hex'))
    // it is the tone that it was
    const second = await samples(tape, 0, 48_000, 96_000)
    let crossings = 0
    for (let i = 1; i < second.length; i++) if (second[i - 1] < 0 && second[i] >= 0) crossings++
    expect(Math.abs(crossings - 440)).toBeLessThanOrEqual(1)
    const peaks = new Int16Array(await (await fetch(`${here.address}/api/tapes/${tape.id}/peaks/sound/0/1?from=100&to=101`)).arrayBuffer())
    expect(peaks).toHaveLength(PER_BIN)
    expect(peaks[1]).toBeGreaterThan(0)
  })

  it('keeps float above full scale unclipped', async () => {
    const tape = await bring('hot.wav', encode(...sine(2, 48_000, ',aformat=flt,volume=30dB'), '-c:a', 'pcm_f32le', '-f', 'wav'))
    expect(Math.max(...(await samples(tape, 0, 10_000, 12_000)))).toBeGreaterThan(1.5)
    const fast = await bring('hot and fast.wav', encode(...sine(2, 96_000, ',aformat=flt,volume=30dB'), '-c:a', 'pcm_f32le', '-f', 'wav'))
    for (const { findings } of [tape, fast]) expect(findings.map(({ what }) => what)).not.toContain('clipped')
  })

  it('with a speaker a channel becomes two sides, a stereo picture one', async () => {
    const talk = (offset: number) => `if(lt(mod(t+${offset},4),1.8),0.3*sin(2*PI*200*t),0)+0.0005*sin(2*PI*${1200 + another()}*t)`
    const twoWay = await bring('two-way.wav', encode('-i', `aevalsrc='${talk(0)}|${talk(2)}':d=16:s=48000`, '-f', 'wav'))
    expect(twoWay.sides).toEqual([
      { name: '', channels: [0] },
      { name: '', channels: [1] },
    ])
    const stereo = await bring(
      'band.wav',
      encode('-i', `aevalsrc=0.3*sin(2*PI*200*t)|0.25*sin(2*PI*${203 + another() / 100}*t):d=6:s=48000`, '-f', 'wav'),
    )
    expect(stereo.sides).toEqual([{ name: '', channels: [0, 1] }])
  })

  it('without a quiet moment gets room tone made from its noise floor, and says so', async () => {
    const tape = await bring('loud.wav', encode('-i', 'anoisesrc=d=6:c=pink:a=0.6:r=48000', '-f', 'wav'))
    expect(tape.tone.made).toBe(true)
    const tone = new Float32Array(await (await fetch(`${here.address}/api/tapes/${tape.id}/sound/tone/0?from=0&to=48000`)).arrayBuffer())
    expect(tone.every((sample) => sample === 0)).toBe(false)
    const { page } = await visit(`/tapes/${tape.id}`)
    await page.getByText('made from its noise floor').waitFor()
    // time held in a piece of it is never digital silence
    const piece = crypto.randomUUID()
    const body = {
      kind: 'actuality',
      slug: 'Held',
      speaker: '',
      role: '',
      story: null,
      head: 0,
      tail: 0,
      spans: [
        { tape: tape.id, from: 0, to: 48_000, sound: 'tape' },
        { tape: tape.id, from: 48_000, to: 144_000, sound: 'tone', join: { fade: 384, shape: 'power', origin: 'hand', heard: false } },
      ],
    }
    await api(`/documents/${piece}`, { method: 'PUT', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) })
    const order = {
      what: { kind: 'actuality', id: piece },
      format: 'wav',
      rate: 48_000,
      bits: 24,
      channels: 1,
      kbps: 192,
      unrecorded: 'out',
      pattern: '{slug}',
    }
    const { id } = await api<{ id: string }>('/sends', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(order),
    })
    await until(
      () => api<{ state: string }>(`/sends/${id}`),
      (receipt) => receipt.state === 'done',
    )
    const wav = readWav(Buffer.from(await (await fetch(`${here.address}/api/sends/${id}/file`)).arrayBuffer()))
    const sound = wav.channel(0)
    for (let at = 48_000; at + 4800 < sound.length; at += 4800)
      expect(sound.subarray(at, at + 4800).some((sample) => sample !== 0)).toBe(true)
  })
})

it('is dropped anywhere on the window, and has a name of its own choosing', async () => {
  const { page } = await visit('/')
  await page.getByText('Stories').waitFor()
  const bytes = [...makeWav(4)]
  await page.evaluate((file) => {
    const transfer = new DataTransfer()
    transfer.items.add(new File([new Uint8Array(file)], 'quay_wall.wav'))
    document.body.dispatchEvent(new DragEvent('dragover', { dataTransfer: transfer, bubbles: true, cancelable: true }))
    document.body.dispatchEvent(new DragEvent('drop', { dataTransfer: transfer, bubbles: true, cancelable: true }))
  }, bytes)
  await page.getByText('“quay_wall.wav” is ready.').waitFor()
  await page.keyboard.press('Alt+2')
  const [{ id }] = await came()
  await page.locator(`[data-testid=tapes] a[href="/tapes/${id}"]`).click()
  await sheetDrawn(page)
  await page.getByLabel('Name of the tape').fill('The quay wall')
  await page.keyboard.press('Enter')
  await until(came, ([tape]) => tape.name === 'The quay wall')
})

it('dropped on a story’s page joins the story', async () => {
  const { page } = await visit(`/stories/${FERRY}`)
  await page.getByTestId('story-tapes').getByText('Deckhand, on the quay').waitFor()
  await page.evaluate(
    (file) => {
      const transfer = new DataTransfer()
      transfer.items.add(new File([new Uint8Array(file)], 'harbour_bell.wav'))
      document.body.dispatchEvent(new DragEvent('dragover', { dataTransfer: transfer, bubbles: true, cancelable: true }))
    },
    [...makeWav(3)],
  )
  await page.getByText('Drop to import into this story.').waitFor()
  await page.evaluate(
    (file) => {
      const transfer = new DataTransfer()
      transfer.items.add(new File([new Uint8Array(file)], 'harbour_bell.wav'))
      document.body.dispatchEvent(new DragEvent('drop', { dataTransfer: transfer, bubbles: true, cancelable: true }))
    },
    [...makeWav(3)],
  )
  await page
    .getByTestId('story-tapes')
    .getByText(/harbour.bell/i)
    .waitFor()
})

it('that is no sound gets a plain sentence', async () => {
  const { page } = await visit('/tapes')
  await page.getByTestId('file-input').setInputFiles({ name: 'letter.wav', mimeType: 'audio/wav', buffer: Buffer.from('Dear all') })
  await page.getByText('There is no sound to be read in “letter.wav”').waitFor()
})
