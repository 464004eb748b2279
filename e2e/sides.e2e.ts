import { isDeepStrictEqual } from 'node:util'
import { beforeAll, describe, expect, it } from 'vitest'
import type { Page } from 'playwright-core'
import type { StoredDocument } from '../contract/documents'
import type { TapeInfo } from '../contract/tapes'
import { tapeHead, type Side, type TapeDocument } from '../core/tape/tape'
import { api, bring, COUNCIL, pieces, saved, sheetDrawn, until, useBrowser, visit } from './newsroom'
import { another, wavOf } from './wav'

useBrowser()

const stereo = (seconds: number, left: (t: number) => number, right: (t: number) => number): Buffer => {
  const loud = 20_000 - another()
  return wavOf(
    seconds,
    48_000,
    (t) => loud * left(t),
    (t) => loud * right(t),
  )
}
/** Bursts of a buzz, with a little hiss, where `on` says. */
const talk = (pitch: number, on: (t: number) => boolean) => (t: number) =>
  (on(t)
    ? 0.35 *
      (Math.sin(2 * Math.PI * pitch * 2 * t) + 0.6 * Math.sin(2 * Math.PI * pitch * 5 * t)) *
      (0.6 - 0.4 * Math.cos(2 * Math.PI * 4 * t))
    : 0) +
  0.0008 * Math.sin(9999 * t * (1 + (t % 0.37)))
const one = talk(131, (t) => t % 4 < 1.7)
const other = talk(197, (t) => t % 4 > 2 && t % 4 < 3.7)

const sidesOf = async (id: string): Promise<Side[]> => tapeHead((await api<StoredDocument>(`/documents/${id}`)).body as TapeDocument).sides

describe('a tape with a speaker a channel', () => {
  let page: Page
  let tape: TapeInfo
  beforeAll(async () => {
    tape = await bring('two of them.wav', stereo(16, one, other))
    ;({ page } = await visit(`/tapes/${tape.id}`))
    await sheetDrawn(page)
  })

  it('has two sides, each with a name, a level and a slip of its own', async () => {
    expect(tape.sides).toHaveLength(2)
    await page.getByLabel('Who speaks on side 2').fill('Maren Ferris')
    await page.keyboard.press('Enter')
    await page.getByLabel('Level of side 2').fill('-6')
    await page.keyboard.press('Enter')
    await page.getByLabel('Slip of side 2').fill('20')
    await page.keyboard.press('Enter')
    await saved(page)
    expect(await sidesOf(tape.id)).toEqual([
      { name: '', channels: [0] },
      { name: 'Maren Ferris', channels: [1], level: -6, slip: 960 },
    ])
  })

  it('gives pieces its sides as they are when they are pulled, and no piece changes later', async () => {
    const before = await sidesOf(tape.id)
    const earlier = new Set((await pieces()).map(({ id }) => id))
    await page.getByRole('region', { name: /^Sheet of/ }).focus()
    await page.keyboard.press('Control+a')
    await page.keyboard.press('p')
    const piece = await until(
      async () => (await pieces()).find(({ id, body }) => !earlier.has(id) && body.spans[0].tape === tape.id),
      Boolean,
    )
    await page.getByLabel('Level of side 2').fill('3')
    await page.keyboard.press('Enter')
    await page.getByRole('button', { name: 'Swap them' }).click()
    await saved(page)
    expect((await sidesOf(tape.id))[0]).toMatchObject({ channels: before[1].channels, level: 3 })
    const { body } = (await pieces()).find(({ id }) => id === piece!.id)!
    expect(body.sides![tape.id]).toEqual(before)
  })

  it('gives a side a tape of its own, and keeps it', async () => {
    await page.getByRole('button', { name: 'More for side 1' }).click()
    await page.getByRole('menuitem', { name: 'Make a tape of this side' }).click()
    const alone = await until(
      async () => (await api<TapeInfo[]>('/tapes')).find(({ name }) => name.startsWith('two of them,')),
      (found) => found?.state === 'ready',
    )
    expect([alone!.channels, alone!.frames]).toEqual([1, tape.frames])
    expect(alone!.name).toBe('two of them, Maren Ferris')
    expect(await sidesOf(tape.id)).toHaveLength(2)
  })

  it('hushes one side over a stretch, and brings it back', async () => {
    await page.keyboard.press('Escape')
    await page.keyboard.press('Control+a')
    await page.getByRole('button', { name: 'More for side 1' }).click()
    await page.getByRole('menuitem', { name: 'Mute it over the selection' }).click()
    await until(
      () => sidesOf(tape.id),
      ([first]) => first.hush?.[0].to === 16 * 48_000,
    )
    await page.getByRole('button', { name: 'More for side 1' }).click()
    await page.getByRole('menuitem', { name: /^Unmute \d/ }).click()
    await until(
      () => sidesOf(tape.id),
      ([first]) => first.hush === undefined,
    )
  })
})

describe('what is wrong with channels', () => {
  it('is said, and put right at a click', async () => {
    const cases: [name: string, file: Buffer, says: string, offer: string, sides: Side[]][] = [
      [
        'upside down.wav',
        stereo(9, one, (t) => -one(t)),
        'One channel is upside down',
        'Turn it over',
        [
          { name: '', channels: [0] },
          { name: '', channels: [1], flip: true },
        ],
      ],
      ['same.wav', stereo(10, one, one), 'Both channels are the same.', 'Keep one', [{ name: '', channels: [0] }]],
      ['half empty.wav', stereo(11, () => 0, other), 'Channel 1 is empty.', 'Leave it out', [{ name: '', channels: [1] }]],
    ]
    for (const [name, file, says, offer, sides] of cases) {
      const { id } = await bring(name, file)
      const { page } = await visit(`/tapes/${id}`)
      await page.getByText(says).waitFor()
      await page.getByRole('button', { name: offer }).click()
      await until(
        () => sidesOf(id),
        (now) => isDeepStrictEqual(now, sides),
      )
      await page.getByRole('button', { name: offer }).waitFor({ state: 'detached' })
      await page.close()
    }
  })
})

it('levels of a tape, and of what is selected on it, are at one key', async () => {
  const { page, complaints } = await visit(`/tapes/${COUNCIL}`)
  await sheetDrawn(page)
  await page.keyboard.press('v')
  await page.getByText('Levels of this tape').waitFor()
  await page.getByText(/Maren Ferris: speech −\d+\.\d dBFS/).waitFor()
  const whole = await page.getByText('Integrated loudness').locator('..').textContent()
  expect(whole).toMatch(/−2\d\.\d LUFS/)
  await page.getByRole('img', { name: /Loudness along the tape/ }).waitFor()
  await page.keyboard.press('Escape')
  await page.keyboard.press('Control+a')
  await page.keyboard.press('v')
  await page.getByText(/^Levels, 0:00\.0 to/).waitFor()
  // both in the middle are heard as one: the same loudness, as far as they do not speak at once
  const of = await page.getByText('Integrated loudness').locator('..').textContent()
  const number = (text: string | null) => Number(/−(\d+\.\d) LUFS/.exec(text!)![1])
  expect(Math.abs(number(of) - number(whole))).toBeLessThan(0.3)
  expect(complaints).toEqual([])
})
