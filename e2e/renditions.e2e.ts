import { randomUUID } from 'node:crypto'
import { expect, it } from 'vitest'
import type { StoredDocument } from '../contract/documents'
import type { SendPreview } from '../contract/sends'
import type { TapeInfo } from '../contract/tapes'
import type { Actuality } from '../core/edits/actuality'
import { PER_BIN } from '../core/sound/peaks'
import { tapeHead, type Rendition } from '../core/tape/tape'
import { here } from './here'
import { api, bring, saved, sheetDrawn, soundOf, until, useBrowser, visit } from './newsroom'
import { another, wavOf } from './wav'

/** What was done to the sound of a side lies beside what was recorded, and before and after is a switch, as far as into the file. */

useBrowser()

const json = (method: string, body: object) => ({ method, headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) })

/** Puts a rendition on a tape, and waits until it is made. */
async function make(tape: string, record: Rendition): Promise<void> {
  const { revision } = await api<StoredDocument>(`/documents/${tape}`)
  const entry = { id: randomUUID(), author: randomUUID(), label: 'treat', steps: [{ type: 'put', record }] }
  await api(`/documents/${tape}/steps`, json('POST', { base: revision, entries: [entry] }))
  await until(
    () => api<TapeInfo>(`/tapes/${tape}`),
    ({ renditions }) => renditions[0]?.state === 'ready',
  )
}

it('a side is heard as recorded or as treated, on the tape and in each piece, up to the file', async () => {
  const loud = 12_000 - another()
  // more above nought than below it, so that one sees which way it is
  const tape = await bring(
    'one way up.wav',
    wavOf(6, 48_000, (t) => (t % 1 < 0.6 ? loud * (Math.max(0, Math.sin(2 * Math.PI * 220 * t)) - 0.1) : 40 * Math.sin(t * 9999))),
  )
  const made: Rendition = { id: randomUUID(), kind: 'rendition', channels: [0], name: 'Turned over', treatment: { kind: 'polarity' } }
  await make(tape.id, made)
  const peaks = async (rendition: string) =>
    new Int16Array(await (await fetch(`${here.address}/api/tapes/${tape.id}/peaks/${rendition}/0/1?from=0&to=400`)).arrayBuffer())
  const [was, is] = [await peaks('sound'), await peaks(made.id)]
  expect(is.length).toBe(400 * PER_BIN)
  for (let bin = 0; bin < is.length; bin += PER_BIN) expect([is[bin], is[bin + 1]]).toEqual([-was[bin + 1], -was[bin]])

  const { page } = await visit(`/tapes/${tape.id}`)
  await sheetDrawn(page)
  const sidesNow = async () => tapeHead((await api<StoredDocument<'tape'>>(`/documents/${tape.id}`)).body).sides
  await page.keyboard.press('Alt+b')
  await saved(page)
  expect(await sidesNow()).toEqual([{ ...tape.sides[0], rendition: made.id }])
  await page.keyboard.press('Control+z')
  await saved(page)
  expect(await sidesNow()).toEqual(tape.sides)

  const id = randomUUID()
  const piece: Actuality = {
    kind: 'actuality',
    slug: 'one way up',
    speaker: '',
    role: '',
    story: null,
    head: 0,
    tail: 0,
    spans: [
      { tape: tape.id, from: 4800, to: 100_000, sound: 'tape' },
      // time that is held: its room is of the same rendition
      { tape: tape.id, from: 100_000, to: 150_000, sound: 'tone', join: { fade: 384, shape: 'power', origin: 'hand', heard: false } },
    ],
    sides: { [tape.id]: tape.sides },
  }
  await api(`/documents/${id}`, json('PUT', piece))
  const before = (await soundOf(id)).channel(0)
  const bench = (await visit(`/pieces/${id}`)).page
  await sheetDrawn(bench)
  await bench.keyboard.press('Alt+b')
  await saved(bench)
  const after = (await soundOf(id)).channel(0)
  expect(after.length).toBe(before.length)
  expect(before.some((sample) => sample > 1_000_000)).toBe(true)
  expect(after.every((sample, i) => Math.abs(sample + before[i]) <= 1)).toBe(true)
  await bench.keyboard.press('Alt+b')
  await saved(bench)
  expect((await soundOf(id)).channel(0)).toEqual(before)
}, 90_000)

it('an effect on somebody’s words is called one: in the fair-edit record, and before it is sent', async () => {
  const loud = 9000 - another()
  const tape = await bring(
    'a call that was none.wav',
    wavOf(5, 48_000, (t) => loud * Math.sin(2 * Math.PI * 440 * t) * (t % 1 < 0.7 ? 1 : 0.001)),
  )
  const step = { kind: 'telephone' as const, low: 300, high: 3400 }
  const made: Rendition = {
    id: randomUUID(),
    kind: 'rendition',
    channels: [0],
    name: 'Telephone',
    treatment: { kind: 'chain', steps: [step] },
  }
  await make(tape.id, made)
  const id = randomUUID()
  const piece: Actuality = {
    kind: 'actuality',
    slug: 'a call that was none',
    speaker: '',
    role: '',
    story: null,
    head: 0,
    tail: 0,
    spans: [{ tape: tape.id, from: 4800, to: 100_000, sound: 'tape' }],
    sides: { [tape.id]: [{ ...tape.sides[0], rendition: made.id }] },
  }
  await api(`/documents/${id}`, json('PUT', piece))
  const order = { what: { kind: 'actuality', id }, format: 'wav', rate: 48_000, bits: 24, channels: 1, kbps: 192, pattern: '{slug}' }
  const { look } = await api<SendPreview>('/sends/preview', json('POST', order))
  expect(look.map(({ text }) => text)).toContain('An effect lies on the sound of “a call that was none”: Telephone.')
  const { page } = await visit(`/pieces/${id}/record`)
  await page
    .getByTestId('mended')
    .getByText(/Effect on the words of .*: telephone colour\./)
    .waitFor()
})
