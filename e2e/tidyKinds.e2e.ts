import { beforeAll, describe, expect, it } from 'vitest'
import type { Page } from 'playwright-core'
import type { StoredDocument } from '../contract/documents'
import { clipLength } from '../core/edits/actuality'
import { suggestionsOn } from '../core/tape/inForce'
import { strikesOf } from '../core/tape/tape'
import { toFrames } from '../core/time'
import { api, bodyOf as pieceBody, COUNCIL, openOf, ownFerry, press, QUAY, saved, sheetDrawn, until, useBrowser, visit } from './newsroom'

useBrowser()

const bodyOf = async (tape: string) => (await api<StoredDocument<'tape'>>(`/documents/${tape}`)).body

describe('all of a kind', () => {
  let page: Page
  let earlier: number
  const now = () => bodyOf(QUAY)
  const kinds = () => page.getByTestId('tidy-kinds').getByRole('button')
  const count = (kind: string) => openOf(page, kind)

  beforeAll(async () => {
    earlier = strikesOf(await now()).length
    ;({ page } = await visit(`/tapes/${QUAY}`))
    await sheetDrawn(page)
    await press(page, 'Shift+D')
    await kinds().first().waitFor()
  })

  /** How long the pauses that were applied are left, in frames. */
  const leftOfPauses = async () =>
    suggestionsOn(await now()).flatMap(({ finder, decision, from, to, proposes }) =>
      finder === 'pauses' && decision && 'goes' in proposes ? [to - from - (proposes.goes.to - proposes.goes.from)] : [],
    )

  it('applies a pause as it is shown, also where the figure was turned once its join had been judged', async () => {
    const pauses = page.getByTestId('tidy-kinds').getByRole('button', { name: /Pauses/ })
    const place = page.getByTestId('tidy-place')
    const shown = page.getByLabel('Length of the pause in seconds')
    await pauses.click()
    await press(page, ']')
    await place.getByText(/audible/).waitFor()
    const judged = await shown.inputValue()
    // another figure has another pause of the speaker's own stand for it
    for (const figure of ['0.4', '0.35', '0.3', '0.45', '0.5', '0.55']) {
      await page.getByRole('slider').fill(figure)
      if ((await place.count()) && (await shown.inputValue()) !== judged) break
    }
    const asked = await shown.inputValue()
    expect(asked).not.toBe(judged)
    await press(page, 'Backspace')
    await saved(page)
    expect((await leftOfPauses()).map((left) => (left / toFrames(1)).toFixed(2))).toEqual([asked])
    await press(page, 'Control+z')
    await saved(page)
  })

  it('leaves all pauses one figure, has their edges wider, and what was applied follows as one act', async () => {
    await page.reload()
    await sheetDrawn(page)
    await press(page, 'Shift+D')
    await kinds().first().waitFor()
    const all = page.getByLabel('Length that all of these are left, in seconds')
    await all.fill('0.4')
    await all.press('Enter')
    const pauses = await count('Pauses')
    await press(page, 'Shift+Q')
    await page.getByText(/left open. Once more applies them too/).waitFor()
    await press(page, 'Shift+Q')
    await page
      .getByTestId('tidy-kinds')
      .getByRole('button', { name: /Pauses\s*0/ })
      .click()
    await saved(page)
    const lefts = await leftOfPauses()
    expect(lefts).toHaveLength(pauses)
    expect(new Set(lefts)).toEqual(new Set([toFrames(0.4)]))
    await press(page, 'Alt+]', 2)
    await page.getByTestId('tidy-margins').getByText('Each edge: 10 ms more stays').waitFor()
    await page.getByRole('button', { name: `Change the ${pauses} applied, too` }).click()
    await saved(page)
    expect(new Set(await leftOfPauses())).toEqual(new Set([toFrames(0.42)]))
    expect(strikesOf(await now())).toHaveLength(earlier + pauses)
    await press(page, 'Control+z')
    await saved(page)
    expect(new Set(await leftOfPauses())).toEqual(new Set([toFrames(0.4)]))
    await press(page, 'Control+z', 2)
    await saved(page)
    expect(strikesOf(await now())).toHaveLength(earlier)
  })
})

it('several tapes are tidied at once, say what was left open, and all of it comes back', { timeout: 120_000 }, async () => {
  const before = await Promise.all([QUAY, COUNCIL].map(async (tape) => strikesOf(await bodyOf(tape)).length))
  const { page, complaints } = await visit('/tapes')
  // by then there may be more tapes than the list shows
  for (const name of ['Deckhand, on the quay', 'Council']) {
    await page.getByPlaceholder('A name, a tag, or words that were said').fill(name)
    await page
      .getByRole('row', { name: new RegExp(name) })
      .first()
      .getByRole('checkbox')
      .check()
  }
  await page.getByTestId('chosen-tapes').getByRole('button', { name: 'Tidy …' }).click()
  const dialog = page.getByRole('dialog')
  const apply = dialog.getByRole('button', { name: /Apply all [1-9]/ })
  await apply.waitFor()
  await until(
    () => dialog.getByTestId('tidy-line').allInnerTexts(),
    (texts) => texts.every((text) => /place|nothing/.test(text)),
  )
  await apply.click()
  // each join is judged before it is made
  await dialog.getByRole('button', { name: 'Done' }).waitFor({ timeout: 60_000 })
  const texts = await until(
    () => dialog.getByTestId('tidy-line').allInnerTexts(),
    (said) => said.every((text) => /applied/.test(text)),
  )
  expect(texts[0]).toMatch(/may be the story: left open|would be audible: left open/)
  const applied = texts.map((text) => Number(/^(\d+) applied/.exec(text)![1]))
  expect(applied[0]).toBeGreaterThan(5)
  const after = () => Promise.all([QUAY, COUNCIL].map(async (tape) => strikesOf(await bodyOf(tape)).length))
  await until(after, (now) => now.every((strikes, i) => strikes === before[i] + applied[i]))
  await dialog.getByRole('button', { name: 'Bring all back' }).click()
  await until(after, (now) => now.every((strikes, i) => strikes === before[i]))
  expect(complaints).toEqual([])
})

it('all pieces of a page are tidied at once from it, and all of it comes back', { timeout: 120_000 }, async () => {
  const story = await ownFerry()
  const { page, complaints } = await visit(`/stories/${story}`)
  await page.locator('[data-block=actuality] [data-testid=bar] path').first().waitFor()
  await press(page, 'Shift+D')
  const dialog = page.getByRole('dialog', { name: /Tidy \d+ pieces/ })
  const apply = dialog.getByRole('button', { name: /Apply all [1-9]/ })
  await apply.waitFor()
  const lines = dialog.getByTestId('tidy-line')
  const links = await dialog.getByRole('link', { name: 'open' }).all()
  const ids = await Promise.all(links.map(async (link) => (await link.getAttribute('href'))!.split('/').at(-1)!))
  expect(ids.length).toBeGreaterThan(1)
  const lengths = () => Promise.all(ids.map(async (id) => clipLength(await pieceBody(id))))
  const before = await lengths()
  await until(
    () => lines.allInnerTexts(),
    (texts) => texts.every((text) => /^(\d+ places?|nothing to tidy)$/.test(text)),
  )
  await apply.click()
  await dialog.getByRole('button', { name: 'Bring all back' }).waitFor({ timeout: 60_000 })
  const applied = await until(
    () => lines.allInnerTexts(),
    (texts) => texts.every((text) => /applied|nothing to tidy/.test(text)),
  )
  expect(applied.some((text) => /^[1-9]/.test(text))).toBe(true)
  // what was applied in a piece made it shorter, and no other one
  const shorter = await until(lengths, (now) => now.every((length, i) => length < before[i] === /^[1-9]/.test(applied[i])))
  expect(shorter).not.toEqual(before)
  await dialog.getByRole('button', { name: 'Bring all back' }).click()
  expect(await until(lengths, (now) => now.every((length, i) => length === before[i]))).toEqual(before)
  expect(complaints).toEqual([])
})
