import type { Page } from 'playwright-core'
import { expect, it } from 'vitest'
import type { Bringing } from '../contract/bringings'
import type { StoredDocument } from '../contract/documents'
import type { Receipt } from '../contract/sends'
import { clipLength, type Actuality } from '../core/edits/actuality'
import { cuts } from '../core/edits/editList'
import { pieceWords } from '../core/edits/pieceWords'
import { random } from '../core/sound/random'
import type { Word } from '../core/tape/words'
import { wordsOf, type Transcript } from '../core/transcript/transcript'
import { api, bring, fileOf, pieces, press, QUAY, saved, selectWords, sent, sheetDrawn, tabTo, until, useBrowser, visit } from './newsroom'
import { another, readWav, wavOf } from './wav'

/** Passages put in order and cut down, by keyboard alone. */

useBrowser()

const RATE = 48_000
const wordsOn = async (tape: string): Promise<Word[]> =>
  wordsOf((await api<StoredDocument & { body: Transcript }>(`/tapes/${tape}/words`)).body)
const piece = async (id: string) => (await api<StoredDocument & { body: Actuality }>(`/documents/${id}`)).body

/** Pulls what is selected and goes to its Bench at once, before the server has it; gives the piece's id. */
async function pullAndGo(page: Page): Promise<string> {
  const before = new Set((await pieces()).map(({ id }) => id))
  await press(page, 'p')
  await press(page, 'g')
  await page.waitForURL(/\/pieces\//)
  await page.getByTestId('length-total').waitFor()
  await sheetDrawn(page)
  const id = new URL(page.url()).pathname.split('/')[2]
  expect(before.has(id)).toBe(false)
  return id
}

/** Chooses words of the piece by how many stand before them. */
async function choose(page: Page, first: number, count: number): Promise<void> {
  await press(page, 'Escape')
  await selectWords(page, first + 1, count)
}

it(
  'six sailings read out in the wrong order, one of them begun twice, are put in order with natural gaps',
  { timeout: 120_000 },
  async () => {
    // each a tone of its own, so that their order can be measured in the file
    const SAILINGS = [
      [3, 'Three, at ten past noon.'],
      [1, 'One, at seven sharp.'],
      [2, 'Two, at'],
      [2, 'Two, at half past nine.'],
      [5, 'Five, at six.'],
      [4, 'Four, at twenty to five.'],
      [6, 'Six, the night boat.'],
    ] as const
    const next = random(21)
    const words: { text: string; start: number; end: number; hertz: number }[] = []
    const gaps: number[] = []
    let at = 0.5
    for (const [number, text] of SAILINGS) {
      for (const one of text.split(' ')) {
        words.push({ text: one, start: at, end: at + 0.26, hertz: 200 + 60 * number })
        at += 0.3
      }
      gaps.push(0.4 + 0.35 * next())
      at += gaps[gaps.length - 1] - 0.04
    }
    const noise = random(another())
    const file = wavOf(at, RATE, (t) => {
      const word = words.find(({ start, end }) => t >= start && t < end)
      const shape = word ? Math.min(1, (t - word.start) / 0.01, (word.end - t) / 0.01) : 0
      return 9000 * shape * Math.sin(2 * Math.PI * (word?.hertz ?? 0) * t) + 30 * (noise() - 0.5)
    })
    const tape = await bring('Six sailings.wav', file)
    await api(`/bringings/${tape.id}?name=sailings.json&author=${crypto.randomUUID()}`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/octet-stream' },
      body: JSON.stringify(words.map(({ text, start, end }) => ({ text, start, end }))),
    })
    await until(
      () => api<Bringing>(`/bringings/${tape.id}`),
      ({ state }) => state === 'done',
    )

    const { page } = await visit(`/tapes/${tape.id}`)
    await sheetDrawn(page)
    await press(page, 'Control+a')
    const id = await pullAndGo(page)
    const order = async () =>
      pieceWords((await piece(id)).spans, () => words_)
        .map(({ text }) => text)
        .join(' ')
    const words_ = await wordsOn(tape.id)
    const says = (text: string) => until(order, (now) => now === text)

    await choose(page, 9, 2)
    await press(page, 'Backspace')
    await says(
      'Three, at ten past noon. One, at seven sharp. Two, at half past nine. Five, at six. Four, at twenty to five. Six, the night boat.',
    )
    await saved(page)
    // of what was said twice, the other "Two, at" is as good: it is cut one word later, and reads the same
    const [cutAt] = cuts((await piece(id)).spans)
    await press(page, 'Shift+0')
    const [later] = cuts(
      (
        await until(
          () => piece(id),
          (now) => cuts(now.spans)[0].left.to > cutAt.left.to + 4800,
        )
      ).spans,
    )
    expect(later.right.from).toBeGreaterThan(cutAt.right.from + 4800)
    expect(await order()).toContain('sharp. Two, at half past nine.')
    await saved(page)
    await press(page, 'Shift+9')
    await until(
      () => piece(id),
      (now) => cuts(now.spans)[0].left.to < later.left.to - 4800,
    )
    // each is heard at once: hands are only moved on when it is still
    await press(page, 'k')
    await page.getByRole('button', { name: /^Play/ }).first().waitFor()
    await saved(page)
    for (const [first, count] of [
      [5, 4],
      [9, 5],
      [17, 5],
    ]) {
      await choose(page, first, count)
      const before = await order()
      await press(page, 'Alt+ArrowUp')
      await until(order, (now) => now !== before)
      await saved(page)
    }
    await says(
      'One, at seven sharp. Two, at half past nine. Three, at ten past noon. Four, at twenty to five. Five, at six. Six, the night boat.',
    )

    await press(page, 'Escape') // all of it, not what is selected
    const earlier = (await api<Receipt[]>(`/sends?of=${id}`)).length
    await press(page, 'Control+Enter')
    await page.getByRole('dialog').getByText('samples, nothing before or after').waitFor()
    await tabTo(page, /^Send$/)
    await press(page, 'Enter')
    await until(
      () => api<Receipt[]>(`/sends?of=${id}`),
      (list) => list.length > earlier,
    )
    const wav = readWav(await fileOf(await sent(id)))
    expect(wav.frames).toBe(clipLength(await piece(id)))
    const found = tones(wav.channel(0))
    expect(found.map(({ hertz }) => Math.round((hertz - 200) / 60))).toEqual([1, 2, 3, 4, 5, 6])
    const between = found.slice(1).map(({ from }, i) => (from - found[i].to) / RATE)
    for (const gap of between) {
      expect(gap).toBeGreaterThan(Math.min(...gaps) - 0.12)
      expect(gap).toBeLessThan(Math.max(...gaps) + 0.12)
    }
    expect(Math.max(...between) - Math.min(...between)).toBeGreaterThan(0.02)
  },
)

const ABOVE_NOISE = 300_000

/**
 * Runs of one tone in samples of 24 bits, with gaps within a sailing closed; the tone is told from where the wave goes up,
 * so that the pauses between words do not count.
 */
function tones(samples: Int32Array): { hertz: number; from: number; to: number }[] {
  const part = RATE / 50
  const runs: { from: number; to: number; cycles: number; frames: number }[] = []
  for (let at = 0; at + part <= samples.length; at += part) {
    const ups: number[] = []
    let high = 0
    for (let i = at + 1; i < at + part; i++) {
      if (samples[i - 1] < ABOVE_NOISE && samples[i] >= ABOVE_NOISE) ups.push(i)
      high = Math.max(high, Math.abs(samples[i]))
    }
    if (high < 1_000_000 || ups.length < 2) continue
    const last = runs[runs.length - 1]
    const [cycles, frames] = [ups.length - 1, ups[ups.length - 1] - ups[0]]
    if (last && at - last.to < 0.12 * RATE)
      Object.assign(last, { to: at + part, cycles: last.cycles + cycles, frames: last.frames + frames })
    else runs.push({ from: at, to: at + part, cycles, frames })
  }
  return runs.map(({ cycles, frames, ...run }) => ({ ...run, hertz: (cycles * RATE) / frames }))
}

it('a passage of 40 seconds becomes an actuality of 11', { timeout: 120_000 }, async () => {
  const words = await wordsOn(QUAY)
  const { page } = await visit(`/tapes/${QUAY}`)
  await sheetDrawn(page)
  const first = words.findIndex(({ from }) => from > 20 * RATE)
  const last = words.findIndex(({ to }) => to > words[first].from + 40 * RATE) - 1
  await press(page, 'Control+ArrowRight', first + (words[0].from > 0 ? 1 : 0))
  await press(page, 'Shift+ArrowRight', last - first + 1)
  const id = await pullAndGo(page)
  const start = await piece(id)
  expect(Math.abs(clipLength(start) / RATE - 40)).toBeLessThan(3)

  // from the middle on, a few words at a time, until what is left is short enough
  const seconds = async () => clipLength(await piece(id)) / RATE
  for (let turn = 0; turn < 12 && (await seconds()) > 11.5; turn++) {
    const kept = pieceWords((await piece(id)).spans, () => words)
    const over = (await seconds()) - 11
    const from = Math.floor(kept.length / 2) - 3
    let count = 1
    while (count < 14 && from + count < kept.length - 2 && (kept[from + count].end - kept[from].at) / RATE < over) count++
    const before = await seconds()
    await choose(page, from, count)
    await press(page, 'Backspace')
    await until(seconds, (now) => now < before, 20_000)
    await saved(page)
  }
  const done = await piece(id)
  expect(await seconds()).toBeLessThan(11.5)
  expect(await seconds()).toBeGreaterThan(9)
  // no word that is heard was cut into
  for (const { left, right } of cuts(done.spans))
    for (const edge of [left.to, right.from]) {
      const cutInto = words.find((word) => word.from + 480 < edge && word.to - 480 > edge)
      expect(cutInto?.text).toBeUndefined()
    }
})
