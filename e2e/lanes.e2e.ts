import { beforeAll, describe, expect, it } from 'vitest'
import type { Locator, Page } from 'playwright-core'
import type { StoredDocument } from '../contract/documents'
import type { Receipt } from '../contract/sends'
import type { TapeInfo } from '../contract/tapes'
import { hangersOf, lanesOf, spineOf, type StoryDocument } from '../core/page/story'
import { RATE } from '../core/time'
import { heardDuring } from './listen'
import { api, boxOf, fileOf, ownFerry, press, saved, soundOf, until, useBrowser, visit } from './newsroom'
import { makeWav, readWav } from './wav'

useBrowser()

let page: Page
let id: string
const body = async () => (await api<StoredDocument>(`/documents/${id}`)).body as StoryDocument
const hangers = async () => hangersOf(await body()).filter(({ aside }) => !aside)
const ofTape = (name: string) => page.getByTestId('hanger').and(page.getByLabel(new RegExp(`^${name}`)))
const file = async (channels?: 1 | 2) => {
  await saved(page)
  return soundOf(id, 'story', channels)
}
/** Chooses a sound by clicking it, which plays from there; the sound is stopped again. */
const choose = async (sound: Locator) => {
  await sound.first().click()
  await page.getByTestId('hanger-panel').waitFor()
  await page.keyboard.press('Space')
}
/** Lets files go over the lanes, at a place of their picture. */
async function letGo(name: string, bytes: Buffer, across: number, down: number): Promise<void> {
  const transfer = await page.evaluateHandle(
    ({ name: file, data }) => {
      const made = new DataTransfer()
      made.items.add(new File([Uint8Array.from(data)], file))
      return made
    },
    { name, data: [...bytes] },
  )
  const lanes = page.getByTestId('lanes')
  const { x, y } = await boxOf(lanes)
  for (const type of ['dragover', 'drop'])
    await lanes.dispatchEvent(type, { dataTransfer: transfer, clientX: x + across, clientY: y + down })
}

beforeAll(async () => {
  id = await ownFerry()
  ;({ page } = await visit(`/stories/${id}`))
  await page.getByText('tie her up.').waitFor()
})

describe('a sound in a lane', () => {
  it('is heard from the left in the file once it is panned, and in the middle again', async () => {
    const before = await file(2)
    await choose(ofTape('Quay at night'))
    const pan = page.getByTestId('hanger-panel').getByLabel('Pan')
    await pan.fill('100 left')
    await pan.press('Enter')
    await until(hangers, (all) => all.some((one) => one.pan?.[0]?.to === -1))
    const panned = await file(2)
    /** The power of one side of the ambience alone: the file begins with it. */
    const power = (wav: typeof before, side: number) =>
      wav
        .channel(side)
        .subarray(0, 2 * RATE)
        .reduce((sum, sample) => sum + (sample / 2 ** 23) ** 2, 0)
    expect(power(panned, 0) / power(before, 0)).toBeCloseTo(2, 2)
    expect(power(panned, 1)).toBe(0)
    await pan.fill('middle')
    await pan.press('Enter')
    await until(hangers, (all) => all.every((one) => !one.pan))
    const [again, was] = [(await file(2)).channel(1), before.channel(1)]
    expect(again.every((sample, i) => sample === was[i])).toBe(true)
  })

  it('is split at the playhead without being heard, and duplicated', async () => {
    const before = await file()
    const count = (await hangers()).length
    await choose(ofTape('Quay at night'))
    await press(page, 'Shift+x')
    await until(hangers, (all) => all.length === count + 1)
    const [a, b] = [before.channel(0), (await file()).channel(0)]
    let most = 0
    for (let i = 0; i < Math.min(a.length, b.length); i++) most = Math.max(most, Math.abs(a[i] - b[i]))
    expect(b.length).toBe(a.length)
    expect(most / 2 ** 23).toBeLessThan(0.003)
    await press(page, 'Control+z')
    await until(hangers, (all) => all.length === count)
    await choose(ofTape('Bed, low water'))
    await press(page, 'Alt+Shift+d')
    await until(hangers, (all) => all.length === count + 1)
    await press(page, 'Control+z')
    await until(hangers, (all) => all.length === count)
  })

  it('is ridden by a point that is dragged, and goes deeper where its mark is dragged to', async () => {
    await choose(ofTape('Quay at night'))
    await press(page, 'Shift+p')
    const mark = page.getByTestId('level-mark')
    const at = await boxOf(mark)
    await page.mouse.move(at.x + at.width / 2, at.y + at.height / 2)
    await page.mouse.down()
    await page.mouse.move(at.x + at.width / 2 - 24, at.y + at.height / 2, { steps: 4 })
    await page.mouse.up()
    const [one] = await until(hangers, (all) => all.some(({ level }) => level?.[0] && level[0].dB < 0))
    expect((await hangers()).find(({ level }) => level)!.level![0].dB).toBe(-12)
    expect(one).toBeDefined()
    await press(page, '"')
    await until(hangers, (all) => all.some(({ sections }) => sections?.length))
    const section = page.getByTestId('section-mark')
    const line = await boxOf(section)
    const from = (await hangers()).find(({ sections }) => sections?.length)!.sections![0]
    expect(from.is).toBe('deep')
    await page.mouse.move(line.x + 3, line.y + line.height / 2)
    await page.mouse.down()
    await page.mouse.move(line.x + 3, line.y + line.height / 2 + 40, { steps: 4 })
    await page.mouse.up()
    await until(hangers, (all) => all.some(({ sections }) => sections?.[0] && JSON.stringify(sections[0]) !== JSON.stringify(from)))
    await press(page, 'Control+z', 4)
    await until(hangers, (all) => all.every(({ level, sections }) => !level && !sections?.length))
  })

  it('is exchanged where it lies, and music ends with its last note where it is told to', async () => {
    await choose(ofTape('Bed, low water'))
    const was = (await hangers()).find(({ goesOn }) => !goesOn)!
    await page.getByLabel('Ends with its last note').check()
    await until(hangers, (all) => all.some(({ by }) => by === 'end'))
    await page.getByLabel('Ends with its last note').uncheck()
    await press(page, 'Alt+Shift+x')
    await page.getByLabel('Find a tape').fill('Quay at night')
    await page.keyboard.press('Enter')
    const now = (
      await until(hangers, (all) => all.every(({ plays }) => !('tape' in plays && 'tape' in was.plays && plays.tape === was.plays.tape)))
    ).find((one) => one.id === was.id)!
    expect(now).toMatchObject({ start: was.start, end: was.end, dip: was.dip })
    await press(page, 'Control+z', 3)
    await until(hangers, (all) => JSON.stringify(all.find((one) => one.id === was.id)?.plays) === JSON.stringify(was.plays))
  })

  it('is put back from the offcuts', async () => {
    const count = (await hangers()).length
    await choose(ofTape('Bed, low water'))
    await press(page, 'Backspace')
    await until(hangers, (all) => all.length === count - 1)
    await page.getByTestId('offcuts').getByRole('listitem').filter({ hasText: 'Bed, low water' }).getByText('put back').click()
    await until(hangers, (all) => all.length === count)
  })
})

describe('what is let go over a lane', () => {
  it('lies there from that place on: a file, as soon as it is a tape', async () => {
    const [lane] = lanesOf(await body())
    await letGo('Foghorn.wav', makeWav(4), 30, 300)
    const all = await until(hangers, (some) => some.length === 3, 30_000)
    const there = all.find(({ plays }) => 'tape' in plays && plays.to === 4 * RATE)!
    expect(there.lane).toBe(lane.id)
    await ofTape('Foghorn').waitFor()
    await press(page, 'Control+z')
    await until(hangers, (some) => some.length === 2)
  })

  it('is said to be no sound where it is none, and nothing is lost', async () => {
    const before = JSON.stringify(await hangers())
    await letGo('Notes.wav', Buffer.from('a shopping list, not a sound'), 30, 300)
    await page
      .getByText(/Notes\.wav/)
      .first()
      .waitFor()
    expect(JSON.stringify(await hangers())).toBe(before)
  })

  it('is a piece from the list too, and stays out of a locked lane', async () => {
    const piece = page.getByTestId('pieces').getByRole('listitem').first()
    await piece.dragTo(page.getByTestId('lanes'), { targetPosition: { x: 90, y: 250 } })
    const all = await until(hangers, (some) => some.some(({ plays }) => 'piece' in plays))
    expect(all).toHaveLength(3)
    await press(page, 'Control+z')
    await until(hangers, (some) => some.length === 2)
    await page
      .getByRole('button', { name: /^Lane / })
      .first()
      .click()
    await page.getByRole('menuitem', { name: 'Lock', exact: true }).click()
    await piece.dragTo(page.getByTestId('lanes'), { targetPosition: { x: 20, y: 250 } })
    await page.getByText(/is locked/).waitFor()
    expect(await hangers()).toHaveLength(2)
    await press(page, 'Control+z')
  })

  it('goes into the running order below the block where it is let go', async () => {
    const count = spineOf(await body()).length
    const piece = page.getByTestId('pieces').getByRole('listitem').first()
    await piece.dragTo(page.locator('[data-block]').first(), { targetPosition: { x: 300, y: 10 } })
    const spine = spineOf(await until(body, (now) => spineOf(now).length === count + 1))
    expect(spine[1].kind).toBe('actuality')
    await press(page, 'Control+z')
    await until(body, (now) => spineOf(now).length === count)
  })

  it('or a block is duplicated with its voice track by one key', async () => {
    const spine = spineOf(await body())
    await page
      .locator('[data-block=copy]')
      .first()
      .click({ position: { x: 100, y: 12 } })
    await press(page, 'Alt+Shift+d')
    const now = spineOf(await until(body, (some) => spineOf(some).length === spine.length + 1))
    const first = now.findIndex(({ kind }) => kind === 'copy')
    expect(now[first + 1]).toMatchObject({ text: now[first].text, piece: now[first].piece })
    await press(page, 'Control+z')
    await until(body, (some) => spineOf(some).length === spine.length)
  })
})

describe('ordering by ear', () => {
  it('plays the actualities that are not placed, one after the other, and puts each next', async () => {
    const spine = spineOf(await body())
    const pieces = spine.flatMap(({ kind, piece }) => (kind === 'actuality' && piece ? piece : []))
    for (let i = 0; i < pieces.length; i++) {
      await page
        .locator('[data-block=actuality]')
        .first()
        .click({ position: { x: 100, y: 12 } })
      await press(page, 'Backspace')
      await until(body, (now) => spineOf(now).length === spine.length - i - 1)
    }
    await page.locator('[data-block=intro]').click({ position: { x: 100, y: 12 } })
    await press(page, 'Alt+Shift+o')
    const list = page.getByTestId('by-ear')
    await list
      .getByRole('listitem')
      .nth(pieces.length - 1)
      .waitFor()
    const [heard] = await heardDuring(page, async () => {
      await press(page, 'ArrowDown')
      await list.locator('[aria-current]').waitFor()
      await page.waitForTimeout(1500)
    })
    expect(heard.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0)).toBeGreaterThan(0.05)
    for (let i = 1; i <= pieces.length; i++) {
      await press(page, 'Enter')
      await until(body, (now) => spineOf(now).length === spine.length - pieces.length + i)
    }
    const placed = spineOf(await body())
    expect(new Set(placed.slice(1, 1 + pieces.length).map(({ piece }) => piece))).toEqual(new Set(pieces))
    await press(page, 'Escape')
    await press(page, 'Control+z', 2 * pieces.length)
    await until(body, (now) => spineOf(now).length === spine.length)
  })
})

describe('what leaves a page', () => {
  it('is each lane as a file, all equally long, together the mix', async () => {
    const whole = await file()
    const earlier = (await api<Receipt[]>(`/sends?of=${id}`)).length
    await press(page, 'Control+Enter')
    await page.getByText(/each lane as a file: 4 files/).click()
    await page.getByRole('button', { name: 'Send', exact: true }).last().click()
    const receipts = await until(
      () => api<Receipt[]>(`/sends?of=${id}`),
      (all) => all.length === earlier + 4 && all.every(({ state }) => state === 'done'),
      30_000,
    )
    const lanes = receipts.slice(0, 4)
    expect(lanes.map(({ fileName }) => fileName.split('_')[0].split('-').at(-1)).sort()).toEqual(['Ambience', 'Music', 'Tape', 'Voice'])
    expect(lanes.map(({ frames }) => frames)).toEqual(lanes.map(() => whole.frames))
    const sounds = (await Promise.all(lanes.map(fileOf))).map((bytes) => readWav(bytes).channel(0))
    const mix = whole.channel(0)
    let most = 0
    for (let i = 0; i < mix.length; i++) most = Math.max(most, Math.abs(mix[i] - sounds.reduce((sum, lane) => sum + lane[i], 0)))
    // each was brought to 24 bits by itself
    expect(most).toBeLessThanOrEqual(4)
  })

  it('becomes a tape of the story', async () => {
    const before = new Set((await api<TapeInfo[]>('/tapes')).map((tape) => tape.id))
    await page.getByTestId('receipts').getByRole('button', { name: 'Make a tape' }).first().click()
    const [made] = await until(
      async () => (await api<TapeInfo[]>('/tapes')).filter((tape) => !before.has(tape.id)),
      ([tape]) => tape?.state === 'ready',
      30_000,
    )
    expect(made.frames).toBe((await file()).frames)
    await page.keyboard.press('Escape')
    await page.getByTestId('story-tapes').getByText(made.name).waitFor()
  })
})
