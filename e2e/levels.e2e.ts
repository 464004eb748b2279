import { expect, it } from 'vitest'
import type { StoredDocument } from '../contract/documents'
import { lineAt } from '../core/sound/level'
import { tapeLevel, type TapeDocument } from '../core/tape/tape'
import { api, bodyOf, ownPiece, pieces, press, QUAY, saved, selectWords, sheetDrawn, until, useBrowser } from './newsroom'

useBrowser()

it('a level is typed, a breath goes down by a figure of one’s own, and all comes off', async () => {
  const { page, id, complaints } = await ownPiece()
  const before = await bodyOf(id)
  await selectWords(page, 2)
  await press(page, 'Alt+v')
  const level = page.getByLabel('Level of what is selected, dB')
  await level.fill('−4.5')
  await page.keyboard.press('Enter')
  const typed = await until(() => bodyOf(id), (body) => body.spans.some((span) => span.level))
  expect(Math.min(...typed.spans.flatMap((span) => span.level?.map(({ dB }) => dB) ?? []))).toBe(-4.5)
  await page.getByLabel('Breath reduction, dB').fill('12')
  await page.keyboard.press('Enter')
  await press(page, 'Shift+b')
  await until(() => bodyOf(id), (body) => body.spans.some((span) => span.level?.some(({ dB }) => dB === -16.5)))
  await press(page, 'Escape')
  await press(page, 'Shift+v')
  expect((await until(() => bodyOf(id), (body) => !body.spans.some((span) => span.level))).spans).toEqual(before.spans)
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
  await until(() => bodyOf(id), (body) => body.gain === 1.5)
  expect(await until(figure, (now) => Number.isFinite(now) && now !== then)).toBeCloseTo(then - 1.5, 1)
  await page.getByLabel('Gain of all of the piece, dB').fill('24')
  await page.keyboard.press('Enter')
  await room.getByText(/dB over/).waitFor()
})

it('a phrase that is too soft is brought to its neighbours, as a suggestion that one takes or leaves', async () => {
  const { page, id } = await ownPiece('Nobody told us')
  await selectWords(page, 9, 3)
  await press(page, 'Control+,', 5)
  const softer = await until(() => bodyOf(id), (body) => body.spans.some((span) => span.level?.some(({ dB }) => dB === -7.5)))
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
  const even = await until(() => bodyOf(id), (body) => JSON.stringify(body.spans) !== JSON.stringify(softer.spans))
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
  const linesOf = async () => new Map((await pieces()).filter((row) => row.id !== id).map((row) => [row.id, row.body.spans.map(({ level }) => level)]))
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
