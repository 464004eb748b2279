import { beforeAll, describe, expect, it } from 'vitest'
import type { Page } from 'playwright-core'
import type { StoredDocument } from '../contract/documents'
import { strikesOf } from '../core/tape/tape'
import { lineAt } from '../core/sound/level'
import { levelInForce, suggestionsOn } from '../core/tape/inForce'
import { listen } from './listen'
import { api, press, QUAY, saved, seconds, sheetDrawn, useBrowser, visit } from './newsroom'

useBrowser()

describe('tidying a tape', () => {
  let page: Page
  const now = async () => (await api<StoredDocument<'tape'>>(`/documents/${QUAY}`)).body
  const kinds = () => page.getByTestId('tidy-kinds').getByRole('button')
  const count = async (kind: string) =>
    Number(
      /(\d+)/.exec(
        await page
          .getByTestId('tidy-kinds')
          .getByRole('button', { name: new RegExp(kind) })
          .innerText(),
      )![1],
    )
  let earlier: number

  beforeAll(async () => {
    earlier = strikesOf(await now()).length
    ;({ page } = await visit(`/tapes/${QUAY}`))
    await sheetDrawn(page)
  })

  it('finds pauses, fillers and stumbles, with how much they would save', async () => {
    await press(page, 'Shift+D')
    await kinds().first().waitFor()
    expect([await count('Pauses'), await count('Fillers'), await count('Stumbles')].every((found) => found > 4)).toBe(true)
    const saves = async () => seconds(/saves (.*)/.exec(await page.getByTestId('tidy-sum').innerText())![1])
    const before = await saves()
    expect(before).toBeGreaterThan(10)
    // a longer figure finds fewer of them
    const pauses = await count('Pauses')
    await page.getByRole('slider').fill('1.2')
    expect(await count('Pauses')).toBeLessThan(pauses)
    expect(await saves()).toBeLessThan(before)
    await page.getByRole('slider').fill('0.6')
  })

  it('plays a place as it would be and as it is, applies it and goes on, or leaves it for good', async () => {
    await page
      .getByTestId('tidy-kinds')
      .getByRole('button', { name: /Fillers/ })
      .click()
    const fillers = await count('Fillers')
    await press(page, ']')
    await page.getByTestId('tidy-place').waitFor()
    const first = await page.getByTestId('tidy-place').innerText()
    // three strokes: as it would be, as it is, and gone
    const [result] = await listen(page, () => press(page, 'a'))
    const [original] = await listen(page, () => press(page, 'b'))
    await press(page, 'Backspace')
    await saved(page)
    expect(await count('Fillers')).toBe(fillers - 1)
    const [suggestion] = suggestionsOn(await now())
    expect(suggestion).toMatchObject({ finder: 'fillers', decision: { is: 'applied' } })
    const { proposes } = suggestion
    if (proposes.do !== 'takeOut') throw new Error('a filler is taken out')
    const { goes } = proposes
    expect(original.length - result.length).toBe(goes.to - goes.from)
    // it knows the act that it became, and the strike is where it proposed
    const log = await api<{ id: string; label: string }[]>(`/documents/${QUAY}/log?since=0`)
    expect(log.find(({ id }) => id === suggestion.decision!.act)?.label).toBe('take out a filler')
    expect(strikesOf(await now()).some(({ from, to }) => from === goes.from && to === goes.to)).toBe(true)
    expect(await page.getByTestId('tidy-place').innerText()).not.toBe(first)
    await press(page, 'Enter')
    await saved(page)
    expect(await count('Fillers')).toBe(fillers - 2)
    expect(await page.getByTestId('tidy-decided').innerText()).toBe('1 applied, 1 dismissed')
    // what was dismissed is not offered again, and what was applied comes back
    await page.reload()
    await sheetDrawn(page)
    await press(page, 'Shift+D')
    await kinds().first().waitFor()
    await page
      .getByTestId('tidy-kinds')
      .getByRole('button', { name: /Fillers/ })
      .click()
    expect(await count('Fillers')).toBe(fillers - 2)
    await page.getByTestId('tidy-places').getByText('applied').click()
    await press(page, 'Enter')
    await saved(page)
    expect(await count('Fillers')).toBe(fillers - 1)
    expect(strikesOf(await now())).toHaveLength(earlier)
  })

  it('has all pauses and fillers gone in four strokes, and brings all back', async () => {
    await page.reload()
    await sheetDrawn(page)
    await press(page, 'Shift+D')
    await kinds().first().waitFor()
    const [pauses, fillers] = [await count('Pauses'), await count('Fillers')]
    const none = (kind: string) =>
      page
        .getByTestId('tidy-kinds')
        .getByRole('button', { name: new RegExp(`${kind}\\s*0`) })
        .waitFor()
    await press(page, 'Shift+Q')
    // what may be the story is left open until it is asked for once more
    await page.getByText(/may be the story: left open/).waitFor()
    expect(await count('Pauses')).toBeLessThan(pauses)
    expect(await count('Pauses')).toBeGreaterThan(0)
    await press(page, 'Shift+Q')
    await none('Pauses')
    await press(page, 'Shift+Q')
    await none('Fillers')
    await saved(page)
    expect(strikesOf(await now()).length).toBe(earlier + pauses + fillers)
    for (let i = 0; i < 3; i++) await press(page, 'Control+z')
    await saved(page)
    expect(strikesOf(await now())).toHaveLength(earlier)
    expect([await count('Pauses'), await count('Fillers')]).toEqual([pauses, fillers])
  })

  it('measures the sound in the background, and turns a breath down where it lies', async () => {
    await page.getByTestId('tidy-none').waitFor()
    await page
      .getByTestId('tidy-kinds')
      .getByRole('button', { name: /Breaths/ })
      .click()
    const breaths = await count('Breaths')
    expect(breaths).toBeGreaterThan(0)
    await press(page, ']')
    const [original] = await listen(page, () => press(page, 'b'))
    const [result] = await listen(page, () => press(page, 'a'))
    expect(result.length).toBe(original.length)
    await press(page, 'Backspace')
    await saved(page)
    expect(await count('Breaths')).toBe(breaths - 1)
    const [suggestion] = suggestionsOn(await now()).filter(({ finder }) => finder === 'breaths')
    expect(suggestion.decision!.is).toBe('applied')
    // as the renderer has it from then on, 9 dB down in its middle
    const middle = Math.round((suggestion.from + suggestion.to) / 2)
    expect(lineAt(levelInForce(await now())!, middle)).toBe(-9)
    const around = original.findIndex((sample, i) => sample !== result[i])
    expect(around).toBeGreaterThan(0)
    await press(page, 'Control+z')
    await saved(page)
    expect(levelInForce(await now())).toBe(undefined)
  })
})
