import { expect, it } from 'vitest'
import type { Actuality } from '../core/edits/actuality'
import { random } from '../core/sound/random'
import { COMMAND_IDS, COMMANDS, type CommandId } from '../web/commands/table'
import { bodyOf, ownPiece, press, saved, until, useBrowser } from './newsroom'

/** Whatever is done on the Bench in whatever order: it goes on, it is kept as it is shown, and all of it can be undone and done again. */

useBrowser()

const DRAWS = 130
/** They ask something first, lead away, or reach beyond the piece. */
const APART: CommandId[] = ['edit.joinOn', 'edit.pull', 'join.fades', 'level.open', 'level.onTape']
/** A key of the table, as Playwright calls it. */
const asPressed = (key: string) =>
  (key.includes('Shift+') ? key : key.replace(/[A-Z]$/, (letter) => letter.toLowerCase())).replace('Ctrl', 'Control')
const keysOf = (...groups: string[]) =>
  COMMAND_IDS.filter((id) => groups.includes(COMMANDS[id].group) && !APART.includes(id)).map((id) => asPressed(COMMANDS[id].keys[0]))

const PLACES = keysOf('Playing', 'Selecting')
const ACTS = keysOf('Editing', 'Taking out', 'Patches', 'Ends and handles', 'Sides', 'Levels', 'Joins')

/** What a piece is, but for which joins were heard: that is nothing to be undone. */
const pieceIs = (body: Actuality): unknown =>
  JSON.parse(JSON.stringify(body), (key, value: unknown) => (key === 'heard' ? undefined : value))

it.each([
  [1, 'Nobody told us'],
  [2, 'No boat till six'],
])('goes on whatever is pressed, and leads back: %i', { timeout: 240_000 }, async (seed, of) => {
  const { page, id, complaints } = await ownPiece(of)
  const shown = () =>
    page.evaluate(
      (document) => (globalThis as unknown as { plainCutDocument: (id: string) => Promise<Actuality> }).plainCutDocument(document),
      id,
    )
  const start = await bodyOf(id)
  const next = random(seed)
  const pressed: string[] = []
  const fine = (): void => expect(complaints.map((complaint) => `${complaint} after ${pressed.join(' ')}`)).toEqual([])
  for (let i = 0; i < DRAWS; i++) {
    const from = next() < 0.6 ? PLACES : ACTS
    pressed.push(from[Math.floor(next() * from.length)])
    await page.keyboard.press(pressed.at(-1)!)
    if (next() < 0.2) await page.waitForTimeout(Math.floor(400 * next()))
    fine()
  }
  await press(page, 'k')
  await press(page, 'Escape')
  const allOf = async (key: string, end: string) => {
    const over = page.getByText(end)
    await until(
      () => over.count(),
      (said) => said === 0,
    )
    await until(
      async () => {
        await press(page, key)
        return over.count()
      },
      Boolean,
      60_000,
    )
    await saved(page)
    fine()
    return bodyOf(id)
  }
  const redone = () => allOf('Control+Shift+z', 'Nothing to redo.')
  const done = await redone()
  expect(pieceIs(await shown())).toEqual(pieceIs(done))
  expect(pieceIs(await allOf('Control+z', 'Nothing to undo.'))).toEqual(pieceIs(start))
  expect(pieceIs(await redone())).toEqual(pieceIs(done))
})
