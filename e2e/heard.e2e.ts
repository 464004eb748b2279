import { spawnSync } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { describe, expect, it } from 'vitest'
import type { StoredDocument } from '../contract/documents'
import type { SendOrder } from '../contract/sends'
import { plainWords, quoteAt } from '../core/page/anchors'
import { spineOf, type Hanger, type Lane, type StoryStep } from '../core/page/story'
import { packer } from '../core/sound/wav'
import { listen } from './listen'
import { api, FERRY, fileOf, pieceOf, saved, sent, until, useBrowser, visit, AMBIENCE, QUAY } from './newsroom'
import { readWav } from './wav'

useBrowser()

const ORDER: Omit<SendOrder, 'what'> = {
  format: 'wav',
  rate: 48_000,
  bits: 24,
  channels: 1,
  kbps: 192,
  unrecorded: 'out',
  pattern: '{slug}',
}
const send = async (order: Partial<SendOrder> & Pick<SendOrder, 'what'>) => {
  await api('/sends', { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify({ ...ORDER, ...order }) })
  const receipt = await sent(order.what.id)
  expect(receipt.error).toBe('')
  return receipt
}

/** Lays a bed under the first line of copy and the actuality that follows it, by what the Page’s lanes will send. */
async function layBed(story: string): Promise<string> {
  const { body, revision } = await api<StoredDocument<'story'>>(`/documents/${story}`)
  const [line, actuality] = spineOf(body).filter(({ kind }) => kind === 'copy' || kind === 'actuality')
  const lane: Lane = { id: randomUUID(), kind: 'lane', name: 'Bed', colour: 'tape', order: 'a0', locked: false, muted: false, gain: -3 }
  const bed: Hanger = {
    id: randomUUID(),
    kind: 'hanger',
    lane: lane.id,
    aside: false,
    plays: { tape: AMBIENCE, from: 48_000, to: 48_000 * 30 },
    start: { block: line.id, at: quoteAt(plainWords(line.text), 3), offset: 0 },
    end: { block: actuality.id, at: 'end', offset: -24_000 },
    gain: -12,
    level: [
      { at: 0, dB: -30 },
      { at: 96_000, dB: 0 },
    ],
  }
  await act(story, revision, [
    { type: 'put', record: lane },
    { type: 'put', record: bed },
  ])
  return lane.id
}

const act = (story: string, base: number, steps: StoryStep[]) =>
  api(`/documents/${story}/steps`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ base, entries: [{ id: randomUUID(), author: randomUUID(), label: 'by the desk', steps }] }),
  })

describe('what is heard', () => {
  it('as sent, from the start, is the file, bit for bit', async () => {
    // a page of one's own without its last three blocks: it is listened to for as long as it lasts
    const { id } = await api<{ id: string }>(`/stories/${FERRY}/duplicate`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: '{}',
    })
    const lane = await layBed(id)
    const { page } = await visit(`/stories/${id}`)
    await page.getByTestId('page').getByText('tie her up.').waitFor()
    for (const kind of ['copy', 'actuality', 'copy']) {
      await page
        .locator(`[data-block=${kind}]`)
        .last()
        .getByText(kind === 'copy' ? 'Copy' : 'Actuality', { exact: true })
        .first()
        .click()
      await page.keyboard.press('Backspace')
    }
    await saved(page)
    await page.getByRole('button', { name: 'As sent' }).click()
    const [left, right] = await listen(page, () => page.keyboard.press('Space'))
    const stereo = () => send({ what: { kind: 'story', id }, channels: 2 })
    const wav = await fileOf(await stereo())
    expect(readWav(wav).frames).toBe(left.length)
    expect(left.length).toBeGreaterThan(15 * 48_000)
    // the WAV's samples, before they were made 24 bits wide, went out: made so, they are the file
    expect(Buffer.compare(readWav(wav).sound, Buffer.from(packer(24)([left, right])))).toBe(0)
    // what lies under the voices is in it
    const { revision } = await api<StoredDocument>(`/documents/${id}`)
    await act(id, revision, [{ type: 'set', id: lane, key: 'muted', value: true }])
    const without = readWav(await fileOf(await stereo())).channel(0)
    const under = readWav(wav)
      .channel(0)
      .map((sample, i) => sample - without[i])
    expect(under.subarray(0, 4800).every((sample) => sample === 0)).toBe(true)
    expect(under.subarray(5 * 48_000, 6 * 48_000).filter((sample) => sample !== 0).length).toBeGreaterThan(40_000)
  }, 120_000)

  it('of a piece is its file too, fades and joins and all', async () => {
    const piece = await pieceOf('No boat till six')
    const { page } = await visit(`/pieces/${piece.id}`)
    await page.getByTestId('joins').getByRole('button').first().waitFor()
    const [left] = await listen(page, () => page.keyboard.press('Space'))
    const wav = await fileOf(await send({ what: { kind: 'actuality', id: piece.id } }))
    expect(Buffer.compare(readWav(wav).sound, Buffer.from(packer(24)([left])))).toBe(0)
  }, 60_000)
})

/** How many frames a file decodes to: from a file, as a pipe does not show a decoder the end's padding. */
const decoded = (file: Buffer): number => decoding(file, 's16le').stdout.length / 2

function decoding(file: Buffer, as: 's16le' | 's24le') {
  const path = join(mkdtempSync(join(tmpdir(), 'plain-cut-mp3-')), 'sent.mp3')
  writeFileSync(path, file)
  const made = spawnSync('ffmpeg', ['-v', 'error', '-i', path, '-f', as, '-ac', '1', 'pipe:1'], { maxBuffer: 1 << 28 })
  rmSync(dirname(path), { recursive: true })
  return made
}

/** What the edit list of an MP4 file says of its sound (ISO 14496-12, 8.6.6): how long it is, and what is left out before it. */
function declared(file: Buffer): { samples: number; delay: number } {
  const at = file.indexOf('elst') + 12
  return { samples: file.readUInt32BE(at), delay: file.readInt32BE(at + 4) }
}

describe('what is sent', () => {
  it.each([
    ['wav', 48_000, 16, 2],
    ['wav', 44_100, 24, 1],
    ['wav', 44_100, 16, 1],
    ['flac', 48_000, 24, 1],
    ['flac', 44_100, 16, 2],
    ['m4a', 48_000, 24, 1],
    ['m4a', 44_100, 24, 2],
    ['opus', 48_000, 24, 1],
    ['mp3', 48_000, 24, 1],
    ['mp3', 48_000, 24, 2],
    ['mp3', 44_100, 24, 1],
  ] as const)('as %s at %i Hz, %i bit, %i channels is exact to the frame', async (format, rate, bits, channels) => {
    const { frames } = await api<{ frames: number }>('/sends/preview', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ ...ORDER, what: { kind: 'story', id: FERRY } }),
    })
    const receipt = await send({ what: { kind: 'story', id: FERRY }, format, rate, bits, channels })
    const wanted = Math.round((frames * rate) / 48_000)
    expect(receipt.frames).toBe(wanted)
    const file = await fileOf(receipt)
    expect(file.length).toBe(receipt.bytes)
    if (format === 'wav') {
      const wav = readWav(file)
      expect([wav.frames, wav.rate, wav.bits, wav.channels]).toEqual([wanted, rate, bits, channels])
    } else if (format === 'm4a') expect(declared(file)).toEqual({ samples: wanted, delay: 1024 })
    else expect(decoded(file)).toBe(wanted)
  })

  it('as FLAC holds the very samples of the WAV', async () => {
    const [wav, flac] = [
      await send({ what: { kind: 'story', id: FERRY } }),
      await send({ what: { kind: 'story', id: FERRY }, format: 'flac' }),
    ]
    const { stdout } = decoding(await fileOf(flac), 's24le')
    expect(Buffer.compare(stdout, readWav(await fileOf(wav)).sound)).toBe(0)
  })

  it('as MP2 is some milliseconds longer, which the last look says', async () => {
    const receipt = await send({ what: { kind: 'story', id: FERRY }, format: 'mp2' })
    const longer = decoded(await fileOf(receipt)) - receipt.frames
    expect(longer).toBeGreaterThan(0)
    expect(longer).toBeLessThan(0.06 * 48_000)
    expect(receipt.look.map(({ text }) => text).join()).toContain('MP2 can’t declare its length')
  })

  it('is the same each time, dither and all', async () => {
    const once = await send({ what: { kind: 'story', id: FERRY }, bits: 16 })
    const again = await send({ what: { kind: 'story', id: FERRY }, bits: 16 })
    const [one, other] = [await fileOf(once), await fileOf(again)]
    expect(Buffer.compare(readWav(one).sound, readWav(other).sound)).toBe(0)
    expect(once.sha256).toMatch(/^[0-9a-f]{64}$/)
  })

  it('holds unrecorded copy as room tone where that is chosen, never as digital silence', async () => {
    const out = readWav(await fileOf(await send({ what: { kind: 'story', id: FERRY } })))
    const toned = readWav(await fileOf(await send({ what: { kind: 'story', id: FERRY }, unrecorded: 'tone' })))
    expect(toned.frames - out.frames).toBeGreaterThan(4 * 48_000)
    const samples = toned.channel(0)
    for (let at = 0; at + 480 < samples.length; at += 480) expect(samples.subarray(at, at + 480).some((sample) => sample !== 0)).toBe(true)
  })

  it('is a selection or a whole tape as well', async () => {
    const some = await send({ what: { kind: 'tape', id: AMBIENCE, from: 48_000, to: 96_000 }, channels: 2 })
    const wav = readWav(await fileOf(some))
    expect([wav.frames, wav.channels]).toEqual([48_000, 2])
    expect(wav.channel(0)).not.toEqual(wav.channel(1))
    const tape = await send({ what: { kind: 'tape', id: QUAY } })
    const struck = 48_000 * 0.5
    const { frames } = await api<{ frames: number }>(`/tapes/${QUAY}`)
    expect(tape.frames).toBeLessThan(frames - struck) // the strike is left out
  })

  it('can be called off, and leaves nothing half-made', async () => {
    const placed = await api<{ id: string }>('/sends', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ ...ORDER, what: { kind: 'tape', id: QUAY }, format: 'mp3' }),
    })
    await api(`/sends/${placed.id}`, { method: 'DELETE' })
    const receipt = await until(
      () => api<{ state: string }>(`/sends/${placed.id}`),
      (one) => one.state !== 'working',
    )
    expect(receipt.state).toBe('cancelled')
    await new Promise((done) => setTimeout(done, 1500))
    await expect(api(`/sends/${placed.id}/file`)).rejects.toThrow('404')
  })

  it('is refused in plain words where there is nothing in it', async () => {
    const empty = (await api<{ stories: { id: string; slug: string }[] }>('/desk')).stories.find((story) => story.slug === 'Kelp prices')!
    await expect(
      api('/sends', {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ ...ORDER, what: { kind: 'story', id: empty.id } }),
      }),
    ).rejects.toThrow('nothing in it')
  })
})
