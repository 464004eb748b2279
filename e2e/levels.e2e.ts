import { expect, it } from 'vitest'
import type { StoredDocument } from '../contract/documents'
import type { Actuality } from '../core/edits/actuality'
import { levelPoints } from '../core/edits/levelPoints'
import { lineAt } from '../core/sound/level'
import { tapeLevel, type TapeDocument } from '../core/tape/tape'
import { api, bodyOf, ownPiece, pieces, press, QUAY, saved, selectWords, sheetDrawn, until, useBrowser, visit } from './newsroom'

useBrowser()

it('a level is typed, a breath goes down by a figure of one’s own, and all comes off', async () => {
  const { page, id, complaints } = await ownPiece()
  const before = await bodyOf(id)
  await selectWords(page, 2)
  await press(page, 'Alt+v')
  const level = page.getByLabel('Level of what is selected, dB')
  await level.fill('−4.5')
  await page.keyboard.press('Enter')
  const typed = await until(
    () => bodyOf(id),
    (body) => body.spans.some((span) => span.level),
  )
  expect(Math.min(...typed.spans.flatMap((span) => span.level?.map(({ dB }) => dB) ?? []))).toBe(-4.5)
  await page.getByLabel('Breath reduction, dB').fill('12')
  await page.keyboard.press('Enter')
  await press(page, 'Shift+b')
  await until(
    () => bodyOf(id),
    (body) => body.spans.some((span) => span.level?.some(({ dB }) => dB === -16.5)),
  )
  await press(page, 'Escape')
  await press(page, 'Shift+v')
  expect(
    (
      await until(
        () => bodyOf(id),
        (body) => !body.spans.some((span) => span.level),
      )
    ).spans,
  ).toEqual(before.spans)
  expect(complaints).toEqual([])
})

it('a passage that rumbles is cut below by a key, at a frequency that is typed, and is as recorded again by the same key', async () => {
  const { page, id, complaints } = await ownPiece()
  const before = await bodyOf(id)
  const cuts = (body: { spans: Actuality['spans'] }) => body.spans.flatMap(({ lowCut }) => lowCut ?? [])
  await selectWords(page, 2, 3)
  await press(page, 'Alt+Shift+V')
  expect(
    cuts(
      await until(
        () => bodyOf(id),
        (body) => cuts(body).length > 0,
      ),
    ),
  ).toEqual([80])
  await press(page, 'Alt+v')
  const figure = page.getByLabel('Low cut of what is selected, Hz')
  expect(await figure.inputValue()).toBe('80')
  await figure.fill('4')
  await page.keyboard.press('Enter')
  await page.getByText('“4” is not a low cut. Type it as a figure from 20 to 500.').waitFor()
  await figure.fill('120')
  await page.keyboard.press('Enter')
  const typed = await until(
    () => bodyOf(id),
    (body) => cuts(body)[0] === 120,
  )
  // what is painted is no edit: nothing went, and no join is there to be played
  expect(typed.spans.map(({ from, to }) => to - from).reduce((sum, length) => sum + length)).toBe(
    before.spans.map(({ from, to }) => to - from).reduce((sum, length) => sum + length),
  )
  await press(page, 'Alt+Shift+V')
  await until(
    () => bodyOf(id),
    (body) => JSON.stringify(body.spans) === JSON.stringify(before.spans),
  )
  expect(complaints).toEqual([])
})

it('the gain of the whole says how much room is left', async () => {
  const { page, id } = await ownPiece()
  await press(page, 'Alt+v')
  const room = page.getByTestId('headroom')
  const figure = async () => Number(/, ([\d.]+) dB headroom/.exec((await room.innerText()) ?? '')?.[1] ?? NaN)
  const then = await until(figure, Number.isFinite)
  await page.getByLabel('Gain of all of the piece, dB').fill('1.5')
  await page.keyboard.press('Enter')
  await until(
    () => bodyOf(id),
    (body) => body.gain === 1.5,
  )
  expect(await until(figure, (now) => Number.isFinite(now) && now !== then)).toBeCloseTo(then - 1.5, 1)
  await page.getByLabel('Gain of all of the piece, dB').fill('24')
  await page.keyboard.press('Enter')
  await room.getByText(/dB over/).waitFor()
})

it('a phrase that is too soft is brought to its neighbours, as a suggestion that one takes or leaves', async () => {
  const { page, id } = await ownPiece('Nobody told us')
  await selectWords(page, 9, 3)
  await press(page, 'Control+,', 5)
  const softer = await until(
    () => bodyOf(id),
    (body) => body.spans.some((span) => span.level?.some(({ dB }) => dB === -7.5)),
  )
  await press(page, 'Alt+l')
  const suggested = page.getByTestId('suggested')
  await suggested.waitFor()
  await page.getByRole('button', { name: /^Pause/ }).waitFor()
  await press(page, 'Escape')
  await suggested.waitFor({ state: 'detached' })
  expect((await bodyOf(id)).spans).toEqual(softer.spans)
  await press(page, 'Alt+l')
  await suggested.waitFor()
  await press(page, 'Enter')
  const even = await until(
    () => bodyOf(id),
    (body) => JSON.stringify(body.spans) !== JSON.stringify(softer.spans),
  )
  const middle = (body: typeof even) => {
    const span = body.spans.find(({ level }) => level)!
    const lowest = softer.spans.find(({ level }) => level)!.level!.filter(({ dB }) => dB === -7.5)
    return lineAt(span.level!, (lowest[0].at + lowest[lowest.length - 1].at) / 2)
  }
  expect(middle(even)).toBeGreaterThan(middle(softer) + 2)
})

it('a level line is applied to the tape, and pieces that are there stay as they are', async () => {
  const { page, id } = await ownPiece()
  await selectWords(page, 2)
  await press(page, 'Control+,')
  const linesOf = async () =>
    new Map((await pieces()).filter((row) => row.id !== id).map((row) => [row.id, row.body.spans.map(({ level }) => level)]))
  const others = await linesOf()
  await press(page, 'Alt+g')
  const line = async () => tapeLevel((await api<StoredDocument & { body: TapeDocument }>(`/documents/${QUAY}`)).body)?.points ?? []
  const points = await until(line, (all) => all.length > 0)
  expect(Math.min(...points.map(({ dB }) => dB))).toBe(-1.5)
  await saved(page)
  expect(await linesOf()).toEqual(others)
  // it is heard and seen on the tape, and taken off there
  await page.goto(page.url().replace(/\/pieces\/.*/, `/tapes/${QUAY}`))
  await sheetDrawn(page)
  await press(page, 'Shift+v')
  await until(line, (all) => all.every(({ dB }) => dB === 0))
})

it('single points are added, moved by key, typed and removed', async () => {
  const { page, id } = await ownPiece()
  const before = await bodyOf(id)
  const points = (body: typeof before) => levelPoints(body).map(({ at, dB }) => [at, dB])
  await press(page, 'Home')
  await press(page, 'Control+ArrowRight', 3)
  await press(page, 'Shift+p')
  const added = points(
    await until(
      () => bodyOf(id),
      (body) => points(body).length === 3,
    ),
  )
  const [, [at]] = added
  expect(added).toEqual([
    [at - 12_000, 0],
    [at, 0],
    [at + 12_000, 0],
  ])
  await press(page, 'Control+.', 2)
  await until(
    () => bodyOf(id),
    (body) => points(body)[1][1] === 3,
  )
  await press(page, 'Alt+.', 3)
  // it goes later with what comes and goes beside it
  expect(
    points(
      await until(
        () => bodyOf(id),
        (body) => points(body)[1][0] === at + 1440,
      ),
    ),
  ).toEqual([
    [at - 10_560, 0],
    [at + 1440, 3],
    [at + 13_440, 0],
  ])
  const point = page.getByTestId('level-point')
  await point.getByLabel('Level of the point, dB').fill('-4')
  await page.keyboard.press('Enter')
  await until(
    () => bodyOf(id),
    (body) => points(body)[1][1] === -4,
  )
  await page.getByRole('region', { name: /^Bench/ }).focus()
  await press(page, 'Alt+q')
  await press(page, 'Alt+w')
  await point.waitFor()
  await press(page, 'Alt+d')
  expect(
    (
      await until(
        () => bodyOf(id),
        (body) => points(body).length === 0,
      )
    ).spans,
  ).toEqual(before.spans)
})

it('level keys, points and measuring work on a tape too, also while the cursor is in the panel', async () => {
  const { page } = await visit(`/tapes/${QUAY}`)
  await sheetDrawn(page)
  const line = async () => tapeLevel((await api<StoredDocument & { body: TapeDocument }>(`/documents/${QUAY}`)).body)?.points ?? []
  const flat = await line()
  await selectWords(page, 4, 3)
  await press(page, 'Alt+v')
  await page
    .getByTestId('measured')
    .getByText(/LUFS, peak/)
    .waitFor()
  expect(await page.getByLabel('Level of what is selected, dB').evaluate((field) => field === document.activeElement)).toBe(true)
  await press(page, 'Control+,', 2)
  await until(line, (all) => all.some(({ dB }) => dB === -3))
  await page.getByRole('region', { name: /^Sheet/ }).focus()
  await press(page, 'Control+z', 2)
  await press(page, 'Escape')
  for (const steps of [2, 9]) {
    await press(page, 'Home')
    await press(page, 'Control+ArrowRight', steps)
    await press(page, 'Shift+p')
  }
  await press(page, 'Control+.')
  await until(line, (all) => all.length === flat.length + 6 && all.some(({ dB }) => dB === 1.5))
  await press(page, 'Control+z', 3)
  await until(line, (all) => JSON.stringify(all) === JSON.stringify(flat))
})
