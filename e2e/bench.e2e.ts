import { beforeAll, describe, expect, it } from 'vitest'
import type { Page } from 'playwright-core'
import type { StoredDocument } from '../contract/documents'
import { clipLength, type Actuality } from '../core/edits/actuality'
import { cuts } from '../core/edits/editList'
import type { Player } from '../web/sound/player'
import { api, bodyOf, boxOf, dragWords, ownPiece, pieceOf, saved, seconds, sheetDrawn, until, useBrowser, visit, word } from './newsroom'

useBrowser()

let page: Page
let id: string
const piece = async () => (await api<StoredDocument>(`/documents/${id}`)).body as Actuality
const length = (name: string) => page.getByTestId(`length-${name}`).innerText()
const joins = () => page.getByTestId('joins').getByRole('button')
const shown = () =>
  page
    .locator('[data-word]')
    .allInnerTexts()
    .then((texts) => texts.map((text) => text.trim()).join(' '))
const settled = (test: (body: Actuality) => boolean) => until(piece, test)

beforeAll(async () => {
  const { body } = await pieceOf('Nobody told us')
  id = crypto.randomUUID()
  await api(`/documents/${id}`, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ ...body, slug: 'On the bench' }),
  })
  ;({ page } = await visit(`/pieces/${id}`))
  await sheetDrawn(page)
})

describe('taking out', () => {
  it('closes up, at a quiet zero crossing, with a short crossfade', async () => {
    const before = clipLength(await piece())
    await dragWords(page, 'Nobody', 'us.')
    await page.keyboard.press('Backspace')
    const after = await settled((body) => body.spans.length === 5)
    expect(before - clipLength(after)).toBeGreaterThan(48_000)
    for (const { join } of cuts(after.spans)) expect(join.fade).toBeGreaterThan(0)
    await until(shown, (text) => !text.includes('Nobody told us.') && text.includes('Nobody told anybody.'))
    await page.keyboard.press('Control+z')
    await settled((body) => clipLength(body) === before)
  })

  it('holds time, filled with the room’s own tone', async () => {
    const before = clipLength(await piece())
    await dragWords(page, 'Nobody', 'us.')
    await page.keyboard.press('Shift+Backspace')
    const after = await settled((body) => body.spans.some((span) => span.sound === 'tone'))
    expect(clipLength(after)).toBe(before)
    await page.getByText('time held').waitFor()
    await page.keyboard.press('Control+z')
    await settled((body) => body.spans.every((span) => span.sound === 'tape'))
  })

  it('never takes the whole', async () => {
    await page.keyboard.press('Control+a')
    await page.keyboard.press('Backspace')
    await page.getByText('That is the whole piece').waitFor()
    await page.keyboard.press('Escape')
  })
})

describe('nicks', () => {
  it('open in place, show what went, and bring it back in part or all', async () => {
    const before = await piece()
    await page.getByTestId('joins').getByText('anybody.').click()
    await page.keyboard.press('n')
    await until(shown, (text) => text.includes('the office had known since the Friday'))
    await dragWords(page, 'known', 'Friday,')
    await page.keyboard.press('Enter')
    const partly = await settled((body) => clipLength(body) > clipLength(before))
    expect(partly.spans.length).toBe(before.spans.length + 1)
    await until(shown, (text) => text.includes('known since the Friday,'))
    await page.keyboard.press('Control+z')
    await settled((body) => clipLength(body) === clipLength(before))
    await page.getByRole('button', { name: 'bring back' }).nth(1).click()
    const all = await settled((body) => body.spans.length === before.spans.length - 1)
    expect(clipLength(all) - clipLength(before)).toBeGreaterThan(3 * 48_000)
    await page.keyboard.press('Control+z')
    await settled((body) => clipLength(body) === clipLength(before))
  })
})

describe('joins', () => {
  it('are stepped through and their edges nudged', async () => {
    await page.keyboard.press(']')
    const before = await piece()
    const at = cuts(before.spans)
    await page.keyboard.press('6')
    const later = await settled((body) => clipLength(body) === clipLength(before) + 240)
    const moved = cuts(later.spans).findIndex((cut, i) => cut.left.to !== at[i].left.to)
    await page.keyboard.press('7')
    await settled((body) => clipLength(body) === clipLength(before) + 480)
    await page.keyboard.press('0')
    const cut = await settled((body) => cuts(body.spans)[moved].left.to === at[moved].left.to + 480)
    expect(clipLength(cut)).toBe(clipLength(before) + 480)
    for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z')
    await settled((body) => clipLength(body) === clipLength(before))
  })

  it('are dragged in the close-up', async () => {
    const before = clipLength(await piece())
    const box = await boxOf(page.getByRole('img', { name: /Close-up of the join/ }))
    await page.mouse.move(box.x + 200, box.y + 45)
    await page.mouse.down()
    await page.mouse.move(box.x + 160, box.y + 45, { steps: 4 })
    await page.mouse.up()
    await settled((body) => clipLength(body) !== before)
    await page.keyboard.press('Control+z')
    await settled((body) => clipLength(body) === before)
  })

  it('are heard once they were played across', async () => {
    await page.getByTestId('joins').getByRole('button').first().click()
    await page.keyboard.press('a')
    await page.getByText('Joins, 1 of 3 played').waitFor({ timeout: 8000 })
    await until(piece, (body) => cuts(body.spans)[0].join.heard)
    await page.getByRole('button', { name: 'Play', exact: true }).waitFor({ timeout: 8000 })
  })

  it('are undone although they were heard, and done again', async () => {
    const { page, id } = await ownPiece('Nobody told us')
    const lengthIs = (wanted: (length: number) => boolean) =>
      until(
        () => bodyOf(id),
        (body) => wanted(clipLength(body)),
      )
    const whole = clipLength(await bodyOf(id))
    await dragWords(page, 'Nobody', 'us.')
    await page.keyboard.press('Backspace')
    const taken = clipLength(await lengthIs((length) => length < whole - 48_000))
    await page.getByTestId('joins').getByText('run. / Nobody').click()
    await page.keyboard.press('a')
    await until(
      () => bodyOf(id),
      (body) => cuts(body.spans).some(({ join }) => join.heard),
    )
    await page.keyboard.press('Control+z')
    await lengthIs((length) => length === whole)
    await page.keyboard.press('Control+Shift+z')
    await lengthIs((length) => length === taken)
  })
})

describe('while it plays', () => {
  it('an edit is heard without stopping, and the playhead keeps its place in the tape', async () => {
    // on a piece of its own: how far it gets is not to change the others
    const { page, id } = await ownPiece('Nobody told us')
    const lengthNow = async () => clipLength(await bodyOf(id))
    const spot = await word(page, 'Nobody', 1)
    await page.mouse.click(spot.x, spot.y)
    // chosen before it plays: the piece is short, and a hand is slow on a busy machine
    await dragWords(page, 'it', 'run.')
    await page.keyboard.press('Space')
    await page.waitForTimeout(700)
    const state = () =>
      page.evaluate(() => {
        const { playing, position, missed } = (globalThis as unknown as { plainCutPlayer: Player }).plainCutPlayer
        return { playing, position, missed, time: performance.now() }
      })
    const length0 = await lengthNow()
    // taken out before the playhead: the sound goes on, its place in the piece moves up
    const moment = await state()
    await page.keyboard.press('Backspace')
    // told to nobody before it is placed
    const taken = length0 - (await until(lengthNow, (now) => now < length0))
    const after = await state()
    expect(after.playing).toBe(true)
    expect(after.missed).toBe(moment.missed)
    const ranOn = ((after.time - moment.time) / 1000) * 48_000
    expect(Math.abs(moment.position - taken + ranOn - after.position)).toBeLessThan(12_000)
  })

  it('before and after are one key apart, at the same place of the tape', async () => {
    const spot = await word(page, 'engine')
    await page.mouse.click(spot.x, spot.y)
    const at = seconds((await page.getByTestId('place').textContent())!)
    await page.keyboard.press('b')
    await page.getByText('as it was').waitFor()
    expect(seconds((await page.getByTestId('place').textContent())!)).toBeCloseTo(at, 1)
    await page.keyboard.press('b')
    await page.getByText('before / after').waitFor()
  })
})

it('shows total and speech, cues and slug', async () => {
  expect(await length('total')).toMatch(/^:\d\d\s*\.\d\s*total$/)
  expect(await length('speech')).toMatch(/^:\d\d\s*\.\d\s*speech$/)
  expect(await page.getByTestId('cues').innerText()).toMatch(/^“I remember the first … tie her up\.”$/)
  await page.getByLabel('Slug').fill('Tie her up')
  await page.keyboard.press('Enter')
  await saved(page)
  expect((await piece()).slug).toBe('Tie her up')
  expect(await joins().count()).toBe(3)
})
