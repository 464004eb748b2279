import { beforeAll, describe, expect, it } from 'vitest'
import type { Page } from 'playwright-core'
import type { StoredDocument } from '../contract/documents'
import { clipLength, type Actuality } from '../core/edits/actuality'
import { tapeHead, type TapeDocument } from '../core/tape/tape'
import { RATE } from '../core/time'
import { api, bodyOf, COUNCIL, dragWords, ownPiece, press, saved, selection, soundOf, until, useBrowser, word } from './newsroom'

useBrowser()

describe('two voices on two sides', () => {
  let page: Page
  let id: string
  let before: Actuality
  beforeAll(async () => {
    const { sides } = tapeHead((await api<StoredDocument & { body: TapeDocument }>(`/documents/${COUNCIL}`)).body)
    const body: Actuality = {
      kind: 'actuality',
      slug: 'two',
      speaker: '',
      role: '',
      story: null,
      spans: [{ tape: COUNCIL, from: 0, to: 20 * RATE, sound: 'tape' }],
      head: 0,
      tail: 0,
      sides: { [COUNCIL]: sides },
    }
    ;({ page, id } = await ownPiece(body))
    before = await bodyOf(id)
  })

  /** How loud the piece is at what is selected. */
  const loudness = async ({ from, to }: { from: number; to: number }) => {
    const samples = (await soundOf(id)).channel(0).subarray(from * RATE, to * RATE)
    return 10 * Math.log10(samples.reduce((sum, sample) => sum + (sample / 2 ** 23) ** 2, 1e-12) / samples.length)
  }

  it('one is muted and no time goes, and is heard again', async () => {
    await dragWords(page, 'Which', 'number?')
    const chosen = (await selection(page))!
    const then = await loudness(chosen)
    await press(page, 'Alt+h')
    await page.getByText('Tamsin Roe is muted there; time and the other speaker stay.').waitFor()
    const quiet = await until(
      () => bodyOf(id),
      (body) => body.spans.some(({ mutes }) => mutes?.[0] === true),
    )
    expect(clipLength(quiet)).toBe(clipLength(before))
    // the passage of this piece, and not the tape's frames
    expect(quiet.sides).toEqual(before.sides)
    await saved(page)
    expect(await loudness(chosen)).toBeLessThan(then - 20)
    // it is seen where it was, and can be chosen to be heard again
    await word(page, 'Which')

    await press(page, 'Shift+e')
    await page.getByTestId('record').getByText('muted: “Which number?”').waitFor()
    await page.goBack()
    await page.locator('[data-word]', { hasText: /^reached/ }).waitFor({ state: 'attached' })
    await press(page, 'Control+z')
    expect(
      (
        await until(
          () => bodyOf(id),
          (body) => !body.spans.some(({ mutes }) => mutes),
        )
      ).spans,
    ).toEqual(before.spans)
  })

  it('one is moved against the other, and the words with it', async () => {
    await page.locator('[data-word]', { hasText: /^Which $/ }).waitFor({ state: 'attached' })
    await dragWords(page, 'Which', 'number?')
    await press(page, 'Alt+k', 2)
    const slipped = await until(
      () => bodyOf(id),
      (body) => body.spans.some(({ slip }) => slip?.[0] === 4800),
    )
    expect(clipLength(slipped)).toBe(clipLength(before))
    expect(slipped.spans.filter(({ slip }) => slip)).toHaveLength(1)
    await press(page, 'Shift+e')
    await page.getByTestId('record').getByText('Tamsin Roe moved by +0.10 s').waitFor()
    await page.goBack()
    await page.locator('[data-word]', { hasText: /^Which $/ }).waitFor({ state: 'attached' })
    await dragWords(page, 'Which', 'number?')
    await press(page, 'Alt+r')
    expect(
      (
        await until(
          () => bodyOf(id),
          (body) => !body.spans.some(({ slip }) => slip),
        )
      ).spans,
    ).toEqual(before.spans)
  })

  it('level and mute address one of them where that is chosen', async () => {
    await dragWords(page, 'Which', 'number?')
    const chosen = (await selection(page))!
    const then = await loudness(chosen)
    await page.getByRole('group', { name: 'Which side levels and mutes address' }).getByRole('button', { name: 'Tamsin Roe' }).click()
    await press(page, 'Control+,', 4)
    const softer = await until(
      () => bodyOf(id),
      (body) => body.spans.some(({ levels }) => levels?.[0] === -6),
    )
    expect(softer.spans.every(({ level }) => !level)).toBe(true)
    await saved(page)
    expect(await loudness(chosen)).toBeCloseTo(then - 6, 0)
    await press(page, 'Alt+m')
    await until(
      () => bodyOf(id),
      (body) => body.spans.some(({ mutes, mute }) => mutes?.[0] === true && !mute),
    )
    await press(page, 'Alt+m')
    await press(page, 'Shift+v')
    expect(
      (
        await until(
          () => bodyOf(id),
          (body) => !body.spans.some(({ levels }) => levels),
        )
      ).spans,
    ).toEqual(before.spans)
    await press(page, 'Alt+z', 2)
    await page
      .getByRole('group', { name: 'Which side levels and mutes address' })
      .getByRole('button', { name: 'all', exact: true, pressed: true })
      .waitFor()
  })

  it('one is heard alone, which changes nothing of the file', async () => {
    await press(page, 'Alt+s')
    const heard = page.getByRole('group', { name: 'Which side is heard' })
    await heard.getByRole('button', { name: 'Tamsin Roe', pressed: true }).waitFor()
    await press(page, 'Alt+s', 2)
    await heard.getByRole('button', { name: 'all', exact: true, pressed: true }).waitFor()
    expect((await bodyOf(id)).spans).toEqual(before.spans)
  })
})
