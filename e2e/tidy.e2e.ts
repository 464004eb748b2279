import { beforeAll, describe, expect, it } from 'vitest'
import type { Page } from 'playwright-core'
import type { StoredDocument } from '../contract/documents'
import type { TapeInfo } from '../contract/tapes'
import { strikesOf } from '../core/tape/tape'
import { listLength } from '../core/edits/editList'
import { lineAt } from '../core/sound/level'
import { levelInForce, sidesInForce, suggestionsOn } from '../core/tape/inForce'
import { listen } from './listen'
import { toFrames } from '../core/time'
import { api, bodyOf, bring, ownPiece, openOf, press, QUAY, saved, seconds, sheetDrawn, TRACKS, useBrowser, visit } from './newsroom'
import { wavOf } from './wav'

useBrowser()

describe('tidying a tape', () => {
  let page: Page
  const now = async () => (await api<StoredDocument<'tape'>>(`/documents/${QUAY}`)).body
  const kinds = () => page.getByTestId('tidy-kinds').getByRole('button')
  const count = (kind: string) => openOf(page, kind)
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

  it('leaves a pause as long as one likes, turns it down or mutes it instead', async () => {
    const kind = (name: string) => page.getByTestId('tidy-kinds').getByRole('button', { name: new RegExp(name) })
    await kind('Pauses').click()
    await press(page, ']')
    const left = page.getByLabel('Length of the pause in seconds')
    await left.fill('0.42')
    await left.press('Enter')
    await page.getByText('As proposed').waitFor()
    await press(page, '>')
    expect(await left.inputValue()).toBe('0.47')
    await press(page, 'Backspace')
    await press(page, 'Control+,')
    expect(await page.getByLabel('Level in dB', { exact: true }).inputValue()).toBe('−9')
    await press(page, 'Backspace')
    await press(page, 'Alt+m')
    await saved(page)
    const body = await now()
    const changed = suggestionsOn(body).filter(({ decision }) => decision?.is === 'changed')
    expect(changed.map(({ proposes }) => proposes.do)).toEqual(['takeOut', 'level', 'mute'])
    const [{ from, to, proposes }, , muted] = changed
    if (proposes.do !== 'takeOut') throw new Error('a pause is shortened')
    expect(to - from - (proposes.goes.to - proposes.goes.from)).toBe(toFrames(0.47))
    expect(sidesInForce(body)[0].hush).toContainEqual({ from: muted.from, to: muted.to })
    await press(page, 'Control+z', 3)
    await saved(page)
    expect(suggestionsOn(await now()).some(({ decision }) => decision?.is === 'changed')).toBe(false)
  })

  it('no longer offers what a speaker says, until it is to be offered again', async () => {
    await page
      .getByTestId('tidy-kinds')
      .getByRole('button', { name: /Fillers/ })
      .click()
    const fillers = await count('Fillers')
    await press(page, ']')
    await page.getByRole('button', { name: /Don’t offer “.*” again/ }).click()
    const dismissed = page.getByTestId('tidy-dismissed')
    await dismissed.waitFor()
    const gone = Number(/^(\d+) not offered/.exec(await dismissed.innerText())![1])
    expect(gone).toBeGreaterThan(0)
    expect(await count('Fillers')).toBe(fillers - gone)
    await page.reload()
    await sheetDrawn(page)
    await press(page, 'Shift+D')
    await page
      .getByTestId('tidy-kinds')
      .getByRole('button', { name: /Fillers/ })
      .click()
    await dismissed.waitFor()
    expect(await count('Fillers')).toBe(fillers - gone)
    await page.getByRole('button', { name: 'Offer again' }).click()
    await dismissed.waitFor({ state: 'detached' })
    expect(await count('Fillers')).toBe(fillers)
  })

  it('takes filler words of the newsroom’s own', async () => {
    await page.getByRole('button', { name: 'Edit', exact: true }).click()
    const list = page.getByRole('textbox', { name: 'Filler words and phrases' })
    expect(await list.inputValue()).toContain('you know')
    await list.fill('as it were\nyou know')
    await page.getByRole('button', { name: 'Save' }).click()
    await page.getByText('um, uh, er, as it were, you know').waitFor()
    await page.getByRole('button', { name: 'Edit', exact: true }).click()
    await page.getByRole('button', { name: 'Back to the usual ones' }).click()
    await page.getByText('um, uh, er, you know').waitFor()
  })
})

describe('tidying by sound alone', () => {
  let page: Page
  let id: string
  const sides = async () => (await api<TapeInfo>(`/tapes/${id}`)).sides
  const body = async () => (await api<StoredDocument<'tape'>>(`/documents/${id}`)).body
  const kind = (name: string) => page.getByTestId('tidy-kinds').getByRole('button', { name: new RegExp(name) })

  beforeAll(async () => {
    id = (
      await bring(
        'Quay, no words.wav',
        wavOf(24, 48_000, (t) => 32_767 * madeVoice(t)),
      )
    ).id
    ;({ page } = await visit(`/tapes/${id}`))
    await sheetDrawn(page)
    await press(page, 'Shift+D')
    // the server measures the sound, once
    await page.getByTestId('tidy-none').waitFor()
  })

  it('finds what is heard on a tape without words, and says what there is none of', async () => {
    expect(await kind('Clicks').innerText()).toMatch(/Clicks\s+1/)
    expect(await kind('Loud spots').innerText()).toMatch(/Loud spots\s+1/)
    expect(await page.getByTestId('tidy-none').innerText()).toMatch(/retakes.*holes/)
  })

  it('repairs a click where it lies, and nothing else', async () => {
    await kind('Clicks').click()
    await press(page, ']')
    const [original] = await listen(page, () => press(page, 'b'))
    const [result] = await listen(page, () => press(page, 'a'))
    expect(result.length).toBe(original.length)
    const changed = [...original].flatMap((sample, i) => (Math.abs(sample - result[i]) > 1e-6 ? i : []))
    expect(changed.length).toBeGreaterThan(20)
    expect(changed[changed.length - 1] - changed[0]).toBeLessThan(0.01 * 48_000)
    const peak = (sound: Float32Array) => Math.max(...changed.map((i) => Math.abs(sound[i])))
    expect(peak(result)).toBeLessThan(peak(original) / 15)
    await press(page, 'Backspace')
    await saved(page)
    expect((await sides())[0].repairs).toMatchObject([{ how: 'bridge' }])
    await press(page, 'Control+z')
    await saved(page)
    expect((await sides())[0].repairs).toBe(undefined)
  })

  it('turns down what is too loud, as long as that is applied', async () => {
    await kind('Loud spots').click()
    await press(page, ']')
    await press(page, 'Backspace')
    await saved(page)
    expect(lineAt(levelInForce(await body())!, toFrames(14))).toBeLessThan(-6)
    await press(page, 'Control+z')
    await saved(page)
    expect(levelInForce(await body())).toBe(undefined)
  })
})

describe('takes of a sentence', () => {
  it('are heard one after the other, and the one that was heard stays', async () => {
    const { page } = await visit(`/tapes/${TRACKS}`)
    await sheetDrawn(page)
    const struck = async () => strikesOf((await api<StoredDocument<'tape'>>(`/documents/${TRACKS}`)).body)
    const takes = page.getByTestId('tidy-takes').getByRole('listitem')
    const before = (await struck()).length
    await press(page, 'Shift+D')
    await page
      .getByTestId('tidy-kinds')
      .getByRole('button', { name: /Retakes/ })
      .click()
    await press(page, 'c')
    await page.getByText('Choose a retake first.').waitFor()
    await press(page, ']')
    await takes.nth(1).waitFor()
    const [one, two, ...others] = await takes.allInnerTexts()
    expect(others).toEqual([])
    expect(one).toMatch(/^Twenty to twelve, and the ticket office is dark\./)
    expect(two).toMatch(/^Twenty to twelve, and the ticket office is dark\.[^]* stays/)
    await press(page, 'c')
    await page.getByText('Hear a take first.').waitFor()
    // the second one is longer than nothing, and it is not the first
    const [first] = await listen(page, () => press(page, 'h'))
    const [second] = await listen(page, () => press(page, 'h'))
    expect(await takes.nth(1).getAttribute('aria-current')).toBe('true')
    expect(Math.min(first.length, second.length)).toBeGreaterThan(2 * 48_000)
    const differs = first.findIndex((sample, i) => Math.abs(sample - (second[i] ?? 0)) > 0.01)
    expect(differs).toBeGreaterThan(-1)
    // the first take is to stay, against what was proposed
    await press(page, 'h')
    await press(page, 'c')
    await page.getByText('Take 1 stays, the other one goes.').waitFor()
    await saved(page)
    const [gone, ...more] = (await struck()).slice(before)
    expect(more).toEqual([])
    expect(gone.from).toBeGreaterThan(toFrames(9))
    expect(gone.from).toBeLessThan(toFrames(11))
    // chosen otherwise: what went is there again
    await page
      .getByTestId('tidy-places')
      .getByText(/Twenty to/)
      .first()
      .click()
    await takes.nth(1).getByRole('button', { name: 'Keep' }).click()
    await page.getByText('Take 2 stays, the other one goes.').waitFor()
    await saved(page)
    const now = (await struck()).slice(before)
    expect(now).toHaveLength(1)
    expect(now[0].to).toBeLessThan(toFrames(5))
    await press(page, 'Control+z', 2)
    await saved(page)
    expect(await struck()).toHaveLength(before)
  })
})

/** Syllables of a made voice, one of them far louder, and a click in a pause. */
function madeVoice(t: number): number {
  const click = t >= 10.3 && t < 10.302 ? 0.3 * Math.sin((t - 10.3) * 24_000) * Math.exp((10.3 - t) * 3000) : 0
  const room = 0.0005 * Math.sin(t * 1e6) * Math.sin(t * 7777)
  const within = t % 1.5
  if (within >= 1) return click + room
  const loud = Math.floor(t / 1.5) === 9 ? 6 : 1
  const rise = Math.min(1, within / 0.03, (1 - within) / 0.03)
  let voice = 0
  for (let k = 1; k <= 8; k++)
    voice += Math.sin(2 * Math.PI * k * (120 * t + 2 * Math.sin(2 * t))) * Math.exp(-(((k * 120 - 500 - 600 * within) / 500) ** 2))
  return click + room + 0.03 * loud * rise * voice
}

describe('tidying a piece', () => {
  it('holds time or closes it, knows the cause at the join, and brings back what went', async () => {
    const { page, id } = await ownPiece(undefined, { spans: [{ tape: QUAY, from: 0, to: toFrames(30), sound: 'tape' }], head: 0, tail: 0 })
    const spans = async () => (await bodyOf(id)).spans
    const length = async () => listLength(await spans())
    await press(page, 'Shift+D')
    const kind = (name: string) => page.getByTestId('tidy-kinds').getByRole('button', { name: new RegExp(name) })
    await kind('Fillers').click()
    await press(page, ']')
    await page
      .getByTestId('tidy-place')
      .getByText(/audible/)
      .waitFor()
    const [original] = await listen(page, () => press(page, 'b'))
    const [result] = await listen(page, () => press(page, 'a'))
    expect(result.length).toBeLessThan(original.length)
    const whole = await length()
    await press(page, 'Shift+Backspace')
    await saved(page)
    expect(await length()).toBe(whole)
    expect((await spans()).map(({ sound }) => sound)).toEqual(['tape', 'tone', 'tape'])
    await press(page, 'Backspace')
    await saved(page)
    expect(await length()).toBeLessThan(whole)
    expect((await spans()).some(({ join }) => join?.finder === 'fillers')).toBe(true)
    // what is decided on comes back singly, whatever was done since
    await page.getByTestId('tidy-places').getByText('applied').first().click()
    await press(page, 'Enter')
    await saved(page)
    expect((await spans()).some(({ sound }) => sound === 'tone')).toBe(false)
    await press(page, 'Control+z', 3)
    await saved(page)
    expect(await spans()).toHaveLength(1)
    // all of them closed up, and then their time held after all
    await press(page, 'Shift+Q')
    await saved(page)
    expect(await length()).toBeLessThan(whole)
    await kind('Fillers').click()
    await page.getByText('Hold time', { exact: true }).click()
    await page.getByRole('button', { name: /Hold the time of the \d+ applied/ }).click()
    await saved(page)
    expect(await length()).toBe(whole)
    await press(page, 'Control+z', 2)
    await saved(page)
    expect(await spans()).toHaveLength(1)
  })
})
