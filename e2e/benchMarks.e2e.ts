import { expect, it } from 'vitest'
import type { StoredDocument } from '../contract/documents'
import { marksOf } from '../core/tape/tape'
import { api, bodyOf, ownPiece, press, saved, until, useBrowser } from './newsroom'

useBrowser()

it('a mark that is dropped on the Bench is the tape’s, shows on the piece, is gone to by key, and undone', async () => {
  const { page, id, complaints } = await ownPiece()
  const [{ tape, from }] = (await bodyOf(id)).spans
  const marks = async () => marksOf((await api<StoredDocument<'tape'>>(`/documents/${tape}`)).body)
  const before = await marks()
  await press(page, 'End')
  await press(page, 'Home')
  await press(page, 'm')
  const list = page.getByTestId('marks')
  await list.getByLabel('Mark').last().waitFor()
  await page.keyboard.type('the ropes')
  await page.keyboard.press('Enter')
  const [made] = await until(
    async () => (await marks()).filter((mark) => !before.some((one) => one.id === mark.id)),
    (all) => all[0]?.text === 'the ropes',
  )
  expect(made.at).toBe(from)
  await saved(page)
  // back at it by key, it is starred in the same place
  await press(page, 'End')
  await press(page, 'PageUp')
  await press(page, 'Shift+M')
  const starred = await until(
    async () => (await marks()).find(({ star, at }) => star && at === from),
    (mark) => mark !== undefined,
  )
  expect(starred!.id).not.toBe(made.id)
  await saved(page)
  for (let undo = 0; undo < 3; undo++) await press(page, 'Control+z')
  await until(marks, (all) => all.length === before.length)
  expect(await list.locator(`[data-mark="${made.id}"]`).count()).toBe(0)
  expect(complaints).toEqual([])
})
