import { expect, it } from 'vitest'
import { clipLength } from '../core/edits/actuality'
import { cuts, listLength } from '../core/edits/editList'
import { muted } from '../core/edits/mute'
import { offcutsOf } from '../core/edits/offcuts'
import { patches } from '../core/edits/patch'
import { RATE } from '../core/time'
import { bodyOf, boxOf, ownPiece, pieces, press, saved, selectWords, soundOf, until, useBrowser, word } from './newsroom'

useBrowser()

it('a part is muted: it stays to be seen, and is not in the file', async () => {
  const { page, id, complaints } = await ownPiece()
  const before = await bodyOf(id)
  const loud = (samples: Int32Array) => samples.reduce((most, one) => Math.max(most, Math.abs(one)), 0)
  await selectWords(page, 2)
  await press(page, 'Alt+m')
  const [{ from, to }] = muted(
    await until(
      () => bodyOf(id),
      (body) => muted(body).length > 0,
    ),
  )
  await page.getByTestId('muted').getByText('mother').waitFor()
  await word(page, 'mother')
  await saved(page)
  const sound = await soundOf(id)
  expect(sound.frames).toBe(clipLength(before))
  const inside = sound.channel(0).subarray(from + 960, to - 960)
  expect(loud(inside)).toBeLessThan(loud(sound.channel(0)) / 20)
  expect(loud(inside)).toBeGreaterThan(0) // never digital silence
  await page.getByTestId('muted').getByRole('button', { name: 'unmute' }).click()
  expect(
    (
      await until(
        () => bodyOf(id),
        (body) => muted(body).length === 0,
      )
    ).spans,
  ).toEqual(before.spans)
  expect(complaints).toEqual([])
})

it('a passage is set aside and taken back elsewhere, by keyboard', async () => {
  const { page, id } = await ownPiece()
  const before = await bodyOf(id)
  await selectWords(page, 2)
  await press(page, 'Alt+Backspace')
  const without = await until(
    () => bodyOf(id),
    (body) => offcutsOf(body).length === 1 && clipLength(body) < clipLength(before),
  )
  await page.getByTestId('offcuts').getByText('mother').waitFor()
  await saved(page)
  await press(page, 'End')
  await press(page, 'Alt+Enter')
  const back = await until(
    () => bodyOf(id),
    (body) => offcutsOf(body).length === 0,
  )
  expect(clipLength(back)).toBeGreaterThan(clipLength(without) + listLength(offcutsOf(without)[0].spans) / 2)
  await until(
    async () => (await page.locator('[data-word]').allInnerTexts()).at(-1)?.trim(),
    (last) => last === 'mother',
  )
})

it('a passage is drawn to another place', async () => {
  const { page, id } = await ownPiece()
  const before = await bodyOf(id)
  const spans = () => bodyOf(id)
  await selectWords(page, 2)
  const grip = await boxOf(page.getByRole('button', { name: 'Draw what is selected to where it is to stand' }))
  const first = await word(page, 'my')
  await page.mouse.move(grip.x + 6, grip.y + 8)
  await page.mouse.down()
  await page.mouse.move(first.x + 30, first.y - 20, { steps: 4 })
  await page.mouse.move(first.x - 6, first.y - 20, { steps: 4 })
  await page.getByTestId('drop-place').waitFor()
  await page.mouse.up()
  const moved = await until(spans, (body) => body.spans.length > before.spans.length)
  expect(moved.spans.some((span, i) => i > 0 && span.from < moved.spans[i - 1].from)).toBe(true)
  await saved(page)
  await press(page, 'Control+z')
  expect((await until(spans, (body) => body.spans.length === before.spans.length)).spans).toEqual(before.spans)
})

it('what is split is joined again, and several pieces become one', async () => {
  const { page, id } = await ownPiece()
  const before = await bodyOf(id)
  await press(page, 'Home')
  await press(page, 'Control+ArrowRight', 4)
  await press(page, 'Shift+x')
  await until(
    () => bodyOf(id),
    (body) => cuts(body.spans).some(({ join }) => join.origin === 'split'),
  )
  await press(page, 'Alt+x')
  await until(
    () => bodyOf(id),
    (body) => body.spans.length === before.spans.length,
  )

  // another one that belongs to no story either
  const other = await ownPiece('Nobody told us', { slug: 'tried as well' })
  const [one, two] = [await bodyOf(id), await bodyOf(other.id)]
  await other.page.close()
  await page.reload()
  await page.waitForSelector('canvas[data-drawn=words]')
  await press(page, 'Alt+p')
  const dialog = page.getByRole('dialog', { name: 'Append pieces' })
  const row = dialog
    .getByRole('listitem')
    .filter({ hasText: /^tried as well/ })
    .filter({ hasText: ':15' })
    .first()
  await row.getByRole('checkbox').check()
  await dialog.getByRole('button', { name: 'Append 1 piece' }).click()
  await page.waitForURL((url) => url.pathname.startsWith('/pieces/') && !url.pathname.includes(id))
  const made = (await pieces()).find((piece) => piece.id === page.url().split('/pieces/')[1].split('?')[0])!
  expect(made.body.slug).toBe('tried, joined')
  // words on words: the handles between them are gone, and a natural gap is set
  expect(Math.abs(clipLength(made.body) - (clipLength(one) - one.tail + clipLength(two) - two.head))).toBeLessThan(0.6 * RATE)
  expect([made.body.head, made.body.tail]).toEqual([one.head, two.tail])
  expect(await bodyOf(id)).toEqual(one)
})

it('held time is filled with another sound of the tape, and is room tone again without it', async () => {
  const { page, id } = await ownPiece('Nobody told us')
  const before = await bodyOf(id)
  await selectWords(page, 9, 3)
  await press(page, 'Control+c')
  await page.getByText(/s copied\./).waitFor()
  await press(page, 'Escape')
  await selectWords(page, 3)
  await press(page, 'Shift+Backspace')
  await until(
    () => bodyOf(id),
    (body) => body.spans.some(({ sound }) => sound === 'tone'),
  )
  await press(page, 'Control+Shift+v')
  const filled = await until(
    () => bodyOf(id),
    (body) => patches(body).length > 0,
  )
  expect(clipLength(filled)).toBe(clipLength(before))
  expect(patches(filled).every(({ patch }) => patch.held)).toBe(true)
  await page.getByTestId('patches').waitFor()
  await press(page, 'Alt+u')
  await until(
    () => bodyOf(id),
    (body) => patches(body).length === 0 && body.spans.some(({ sound }) => sound === 'tone'),
  )
})

it('what was copied is laid over what is selected, and marked as a patch', async () => {
  const { page, id } = await ownPiece('Nobody told us')
  const before = await bodyOf(id)
  await selectWords(page, 13)
  await press(page, 'Control+c')
  await page.getByText(/s copied\./).waitFor()
  await press(page, 'Escape')
  await selectWords(page, 10)
  await press(page, 'Control+Shift+v')
  const [patch] = patches(
    await until(
      () => bodyOf(id),
      (body) => patches(body).length === 1,
    ),
  )
  expect(patch.patch.own).toBe(true)
  // as loud as what is said there: of one voice in one place, that is not far from what it was
  expect(Math.abs(patch.span.level?.[0].dB ?? 0)).toBeLessThan(6)
  await press(page, 'Alt+u')
  await until(
    () => bodyOf(id),
    (body) => patches(body).length === 0 && clipLength(body) === clipLength(before),
  )
})
