import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { expect, it } from 'vitest'
import type { StoredDocument } from '../contract/documents'
import type { FoundBy, Twin } from '../contract/twins'
import { clipLength, type Actuality } from '../core/edits/actuality'
import { takeOut } from '../core/edits/acts'
import { patches } from '../core/edits/patch'
import { pieceWords } from '../core/edits/pieceWords'
import { wordsOf, type Transcript } from '../core/transcript/transcript'
import { here } from './here'
import { api, bodyOf, ownPiece, pieceOf, press, QUAY, saved, selectWords, sheetDrawn, until, useBrowser, visit, word } from './newsroom'

useBrowser()

it('a word is patched with the same word said elsewhere, by keyboard alone, and the patch is taken off again', async () => {
  const words = wordsOf((await api<StoredDocument & { body: Transcript }>(`/tapes/${QUAY}/words`)).body)
  const { id, body: before } = await pieceOf('Nobody told us')
  const piece = async () => (await api<StoredDocument & { body: Actuality }>(`/documents/${id}`)).body
  const said = (body: Actuality) => pieceWords(body.spans, () => words)
  const index = said(before).findIndex(({ text }) => text === 'Nobody')

  const { page, complaints } = await visit(`/pieces/${id}`)
  await sheetDrawn(page)
  await selectWords(page, index + 1)
  await press(page, 't')
  const panel = page.getByRole('region', { name: 'Patch' })
  await panel.getByText(/^1 of \d: said again at/).waitFor({ timeout: 30_000 })
  // what only similar sound comes after it
  await panel.getByText('similar sound').first().waitFor()
  await until(
    () => panel.getByRole('listitem').count(),
    (count) => count > 3,
  )
  // it is heard in its place as soon as it is there, and so is the next
  await page.getByRole('button', { name: /^Pause/ }).waitFor()
  await press(page, 't')
  await panel.getByText(/^2 of \d: /).waitFor()
  await press(page, 'Alt+t')
  await panel.getByText(/^1 of \d: /).waitFor()
  await press(page, 'Enter')
  await panel.waitFor({ state: 'detached' })
  await saved(page)

  const patched = await piece()
  const [patch, ...others] = patches(patched)
  expect(others).toEqual([])
  const spoilt = said(before)[index]
  const over = words.find((word) => word.from === spoilt.from)!
  expect(patch.patch.from).toBeLessThanOrEqual(over.from + 480)
  // its sound comes from a place where the same is said
  const source = words.find((word) => word.from < (patch.span.from + patch.span.to) / 2 && word.to > (patch.span.from + patch.span.to) / 2)!
  expect(source.text.toLowerCase().replace(/\W/g, '')).toBe('nobody')
  expect(source.from).not.toBe(over.from)
  expect(said(patched).map(({ text }) => text)).toEqual(said(before).map(({ text }) => text))
  await page.getByTestId('patches').getByText('Nobody').waitFor()

  await press(page, 'Shift+e')
  await page
    .getByTestId('record')
    .getByText(/^patched with sound from/)
    .waitFor()
  await page.goBack()
  await page.getByRole('button', { name: 'remove' }).waitFor()
  await page.getByRole('button', { name: 'remove' }).click()
  await saved(page)
  const off = await until(piece, (body) => patches(body).length === 0)
  expect(clipLength(off)).toBe(clipLength(before))
  expect(off.spans.map(({ from, to }) => [from, to])).toEqual(before.spans.map(({ from, to }) => [from, to]))
  expect(complaints).toEqual([])
})

it('goes where the bad spot goes when another speaker cuts, and is let go when that is cut', async () => {
  const { page, id, complaints } = await ownPiece('Nobody told us')
  const words = wordsOf((await api<StoredDocument & { body: Transcript }>(`/tapes/${QUAY}/words`)).body)
  const theirs = async (text: string, nth: number) => {
    const { body, revision } = await api<StoredDocument & { body: Actuality }>(`/documents/${id}`)
    const { at, end } = pieceWords(body.spans, () => words).filter((one) => one.text === text)[nth]
    const entry = { id: crypto.randomUUID(), author: crypto.randomUUID(), label: 'take out', steps: takeOut(body, { from: at, to: end }) }
    await api(`/documents/${id}/steps`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ base: revision, entries: [entry] }),
    })
  }
  const panel = page.getByRole('region', { name: 'Patch' })
  const seek = async () => {
    const spot = await word(page, 'told', 1)
    await page.mouse.dblclick(spot.x, spot.y)
    await press(page, 't')
    await panel.getByText(/^1 of \d: /).waitFor({ timeout: 30_000 })
  }
  await seek()
  const told = (await bodyOf(id)).spans
  await theirs('first', 0)
  await page.getByTestId('joins').getByText('the / night').waitFor()
  await press(page, 'Enter')
  await panel.waitFor({ state: 'detached' })
  await saved(page)
  const [{ patch }] = patches(await bodyOf(id))
  const spoilt = pieceWords(told, () => words).filter(({ text }) => text === 'told')[1]
  expect(patch.from).toBeLessThan(spoilt.to)
  expect(patch.to).toBeGreaterThan(spoilt.from)
  await press(page, 'Control+z')
  await until(
    () => bodyOf(id),
    (body) => patches(body).length === 0,
  )

  await seek()
  await theirs('told', 1)
  await panel.waitFor({ state: 'detached' })
  expect(complaints).toEqual([])
})

it('is sought in what was made of the tape as soon as it was in', async () => {
  await until(() => existsSync(join(here.data, 'media', 'tapes', QUAY, 'looks-0.f32')), Boolean)
})

it('offers nothing that was said off the record', async () => {
  const words = wordsOf((await api<StoredDocument & { body: Transcript }>(`/tapes/${QUAY}/words`)).body)
  const spot = words.find(({ text }) => text === 'Nobody')!
  const seekBy = (by: FoundBy) => api<Twin[]>(`/tapes/${QUAY}/twins?from=${spot.from}&to=${spot.to}&by=${by}`)
  const seek = async () => [...(await seekBy('words')), ...(await seekBy('sound'))]
  const [best] = await seek()
  expect(best.foundBy).toBe('words')
  const { revision } = await api<StoredDocument>(`/documents/${QUAY}`)
  const put = (steps: object[], at: number) =>
    api(`/documents/${QUAY}/steps`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({
        base: at,
        entries: [{ id: crypto.randomUUID(), author: crypto.randomUUID(), label: 'off the record', steps }],
      }),
    })
  const off = crypto.randomUUID()
  await put([{ type: 'put', record: { id: off, kind: 'off', from: best.at.from, to: best.at.to } }], revision)
  const offered = await seek()
  expect(offered.filter(({ laid }) => laid.from < best.at.to && laid.to > best.at.from)).toEqual([])
  await put([{ type: 'drop', id: off }], (await api<StoredDocument>(`/documents/${QUAY}`)).revision)
})
