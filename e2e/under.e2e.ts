import { beforeAll, describe, expect, it } from 'vitest'
import type { Page } from 'playwright-core'
import type { StoredDocument } from '../contract/documents'
import type { TapeInfo } from '../contract/tapes'
import { hangersOf, lanesOf, outputsOf, spineOf, type Hanger, type StoryDocument } from '../core/page/story'
import { RATE, toFrames } from '../core/time'
import { heardDuring } from './listen'
import { AMBIENCE, api, boxOf, FERRY, press, saved, send, sheetDrawn, soundOf, until, useBrowser, visit } from './newsroom'

useBrowser()

let page: Page
let id: string
const body = async () => (await api<StoredDocument>(`/documents/${id}`)).body as StoryDocument
const hangers = async () => hangersOf(await body()).filter(({ aside }) => !aside)
const rows = () => page.locator('[data-block]')
const hanger = () => page.getByTestId('hanger')
/** When the sound in the lanes begins and ends, in seconds. */
const ends = async (nth = 0): Promise<[number, number]> => {
  const label = (await hanger().nth(nth).getAttribute('aria-label'))!
  const [, from, to] = /(\d+:\d\d\.\d) to (\d+:\d\d\.\d)/.exec(label)!
  const seconds = (text: string) => Number(text.split(':')[0]) * 60 + Number(text.split(':')[1])
  return [seconds(from), seconds(to)]
}
const choose = async (nth: number) =>
  rows()
    .nth(nth)
    .click({ position: { x: 100, y: 12 } })
const file = async () => {
  await saved(page)
  return soundOf(id, 'story')
}

beforeAll(async () => {
  ;({ id } = await api<{ id: string }>(`/stories/${FERRY}/duplicate`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: '{}',
  }))
  // its lanes are empty to begin with
  const there = await api<StoredDocument>(`/documents/${id}`)
  const hung = hangersOf(there.body as StoryDocument)
  if (hung.length)
    await api(`/documents/${id}/steps`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({
        base: there.revision,
        entries: [
          { id: crypto.randomUUID(), author: crypto.randomUUID(), label: '', steps: hung.map((one) => ({ type: 'drop', id: one.id })) },
        ],
      }),
    })
  ;({ page } = await visit(`/stories/${id}`))
  await page.getByText('tie her up.').waitFor()
})

describe('sound under the words', () => {
  it('is laid under the chosen blocks by two keys, at a level for the speech over it', async () => {
    await choose(1)
    await press(page, 'Shift+ArrowDown')
    await press(page, 'Alt+o')
    await page.getByLabel('Find a tape').fill('Quay at night')
    await page.keyboard.press('Enter')
    await hanger().waitFor()
    // it and the speakers are listened to first
    const [one] = await until(hangers, ([first]) => Boolean(first?.gain), 30_000)
    expect(one).toMatchObject({ plays: { tape: AMBIENCE }, goesOn: true, start: { at: 'start', offset: -RATE } })
    // some 12 to 18 dB below the speech
    const below = await until(
      async () => Number(/(\d+) dB below/.exec(await page.getByTestId('hanger-panel').innerText())?.[1] ?? 0),
      (dB) => dB > 0,
      30_000,
    )
    expect(below).toBeGreaterThanOrEqual(12)
    expect(below).toBeLessThanOrEqual(18)
  })

  it('is heard in the file where it lies, under what is said, and nowhere else', async () => {
    const withIt = await file()
    await press(page, 'Alt+m')
    await until(body, (now) => lanesOf(now)[0].muted)
    const without = await file()
    await press(page, 'Alt+m')
    expect(withIt.frames).toBe(without.frames)
    const apart = (from: number, to: number) => {
      const [a, b] = [withIt.channel(0), without.channel(0)]
      let most = 0
      for (let i = Math.round(from * RATE); i < to * RATE; i++) most = Math.max(most, Math.abs(a[i] - b[i]))
      return most / 2 ** 23
    }
    const length = withIt.frames / RATE
    expect(apart(2, 20)).toBeGreaterThan(0.001)
    expect(apart(28, length - 1)).toBe(0)
  })

  it('is listened to by itself, which never reaches the file', async () => {
    const before = await file()
    /** The highest sample while the first line is spoken. */
    const peak = async () => {
      await choose(1)
      const [heard] = await heardDuring(page, async () => {
        await press(page, 'Shift+Space')
        await page.waitForTimeout(3000)
        await page.keyboard.press('Space')
      })
      return heard.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0)
    }
    expect(await peak()).toBeGreaterThan(0.15)
    await page
      .getByRole('button', { name: /^Lane / })
      .first()
      .click()
    await page.getByRole('menuitem', { name: 'Solo, for listening' }).click()
    await page.getByTestId('solo').waitFor()
    expect(await peak()).toBeLessThan(0.1)
    const after = await file()
    expect(after.channel(0).slice(100_000, 200_000)).toEqual(before.channel(0).slice(100_000, 200_000))
    await page
      .getByRole('button', { name: /^Lane / })
      .first()
      .click()
    await page.getByRole('menuitem', { name: 'End solo' }).click()
    await page.getByTestId('solo').waitFor({ state: 'detached' })
  })

  it('moves along with the words that it holds on to', async () => {
    const [from, to] = await ends()
    await choose(1)
    await press(page, 'Alt+ArrowUp')
    await until(ends, ([now]) => now < from - 3)
    await press(page, 'Control+z')
    await until(ends, ([now, end]) => now === from && end === to)
  })

  it('is lengthened by hand and by key, and holds on to the word where it was let go', async () => {
    const [from, to] = await ends()
    const box = await boxOf(hanger())
    const x = box.x + box.width / 2
    await page.mouse.move(x, box.y + box.height - 3)
    await page.mouse.down()
    await page.mouse.move(x, box.y + box.height + 60, { steps: 6 })
    await page.mouse.up()
    const [, later] = await until(ends, ([, end]) => end > to + 1)
    await press(page, '7')
    await until(ends, ([start, end]) => start === from && Math.abs(later - 0.1 - end) < 0.06)
    await press(page, 'Control+z', 2)
    await until(ends, ([, end]) => end === to)
  })

  it('comes up and goes under where it is told to', async () => {
    await press(page, 'Home')
    await press(page, 'ArrowRight', 7)
    await press(page, "'")
    await until(hangers, ([one]) => one.sections?.[0]?.is === 'up')
    await page.getByTestId('sections').getByText('up', { exact: true }).waitFor()
    await press(page, 'Control+z')
    await until(hangers, ([one]) => !one.sections?.length)
  })

  it('is set aside, and comes back', async () => {
    await press(page, 'Backspace')
    await until(hangers, (all) => !all.length)
    expect(await rows().count()).toBe(spineOf(await body()).length)
    await press(page, 'Control+z')
    await until(hangers, (all) => all.length === 1)
  })

  it('is laid under from a tape, with what is selected there', async () => {
    const tape = await visit(`/tapes/${AMBIENCE}?story=${id}`)
    await sheetDrawn(tape.page)
    await tape.page.keyboard.press('Home')
    await tape.page.keyboard.press('i')
    await press(tape.page, 'ArrowRight', 4)
    await tape.page.keyboard.press('o')
    await press(tape.page, 'Alt+o')
    await tape.page.getByText(/Laid under/).waitFor()
    const all = await until(hangers, (some) => some.length === 2)
    expect(all.map(({ plays }) => plays)).toContainEqual({ tape: AMBIENCE, from: 0, to: toFrames(8) })
    await tape.page.close()
  })

  it('repeats music that is too short, where it sounds alike, by one key, and no longer by the same', async () => {
    const music = (await api<TapeInfo[]>('/tapes')).find(({ name }) => name.startsWith('Bed'))!
    const there = await api<StoredDocument>(`/documents/${id}`)
    const [lane] = lanesOf(there.body as StoryDocument)
    const record: Hanger = {
      id: crypto.randomUUID(),
      kind: 'hanger',
      lane: lane.id,
      aside: false,
      plays: { tape: music.id, from: 0, to: music.frames },
      start: { at: 0 },
      end: { at: toFrames(55) },
      gain: -18,
    }
    await api(`/documents/${id}/steps`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({
        base: there.revision,
        entries: [{ id: crypto.randomUUID(), author: crypto.randomUUID(), label: '', steps: [{ type: 'put', record }] }],
      }),
    })
    const before = await rows().count()
    await hanger().and(page.getByLabel(/Bed/)).press('Enter')
    await page.getByText(/19.0 too short/).waitFor()
    await press(page, 'Alt+Shift+U')
    // the key was for the sound, not for the page
    expect(await rows().count()).toBe(before)
    const repeats = page.getByTestId('repeats')
    await repeats.waitFor()
    expect(await page.getByText(/too short$/).count()).toBe(0)
    const { back } = (await until(hangers, (all) => all.some((one) => one.back))).find((one) => one.back)!
    // its round is 26.87 s
    expect((back!.to - back!.from) / RATE).toBeCloseTo(26.87, 1)
    await press(page, 'Alt+Shift+U')
    await repeats.waitFor({ state: 'detached' })
    await page.getByText(/19.0 too short/).waitFor()
    await press(page, 'Control+z')
    await repeats.waitFor()
    await press(page, 'Backspace')
    await saved(page)
  })
})

describe('how loud it all is', () => {
  it('brings all speakers to one level by one key, and the whole to its target by another', async () => {
    await press(page, 'Control+e')
    const levels = page.getByTestId('block-level').getByRole('textbox')
    await until(
      () => levels.evaluateAll((all) => all.map((one) => (one as HTMLInputElement).value)),
      (values) => values.length >= 4 && values.every((value) => value === '−23.0'),
    )
    await page.getByTestId('mix').getByText('LUFS').waitFor()
    // away from it, and back
    const output = outputsOf(await body())[0]
    await press(page, 'Control+b')
    await until(
      () => page.getByTestId('mix').innerText(),
      (text) => text.startsWith('−23.0 LUFS'),
    )
    expect(output.slot).toBe(outputsOf(await body())[0].slot)
    await saved(page)
    const receipt = await send(id, 'story')
    expect(receipt.loudness!).toBeCloseTo(-23, 0)
    expect(receipt.truePeak!).toBeLessThanOrEqual(-0.9)
    await press(page, 'Control+z', 2)
  })

  it('shows where the whole is turned down because it is far too loud, and nothing in a good mix', async () => {
    const first = rows()
      .filter({ has: page.getByTestId('block-level') })
      .first()
    const level = first.getByTestId('block-level').getByRole('textbox')
    await page.getByTestId('mix').getByText('LUFS').waitFor()
    expect(await page.getByTestId('turned').count()).toBe(0)
    await level.fill('-5')
    await level.press('Enter')
    await page.getByTestId('turned').first().waitFor()
    const receipt = await send(id, 'story')
    expect(receipt.truePeak!).toBeLessThanOrEqual(-0.9)
    await press(page, 'Control+z')
    await page.getByTestId('turned').first().waitFor({ state: 'detached' })
  })
})
