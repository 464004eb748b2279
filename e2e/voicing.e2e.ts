import { expect, it } from 'vitest'
import type { StoredDocument } from '../contract/documents'
import type { TapeInfo } from '../contract/tapes'
import type { Voicing } from '../contract/voicings'
import { clipLength } from '../core/edits/actuality'
import { keptOf } from '../core/edits/piece'
import { isRecorded, spineOf, type Block, type StoryDocument } from '../core/page/story'
import { api, bodyOf, FERRY, pieces, press, saved, until, useBrowser, visit } from './newsroom'

useBrowser()

const json = (body: object): RequestInit => ({
  method: 'POST',
  headers: { 'Content-Type': 'application/json' },
  body: JSON.stringify(body),
})
const copyOf = async () => (await api<{ id: string }>(`/stories/${FERRY}/duplicate`, json({}))).id
const linesOf = async (story: string): Promise<Block[]> =>
  spineOf((await api<StoredDocument>(`/documents/${story}`)).body as StoryDocument).filter(isRecorded)
const tracks = async () => (await api<TapeInfo[]>('/tapes')).find(({ name }) => name === 'Voice tracks')!.id
const author = crypto.randomUUID()

/** Where a voice track's words begin and end on its tape, in seconds. */
async function heard(piece: string): Promise<[number, number]> {
  const { spans, head, tail } = await bodyOf(piece)
  return [(spans[0].from + head) / 48_000, (spans[spans.length - 1].to - tail) / 48_000]
}

it('finds lines on a tape that was recorded elsewhere, and puts the last whole take on each', async () => {
  const story = await copyOf()
  const { page } = await visit(`/stories/${story}`)
  await page.getByText('tie her up.').waitFor()
  await press(page, 'Alt+Shift+t')
  const dialog = page.getByRole('dialog')
  await dialog.getByText('2 lines').waitFor()
  await page.keyboard.type('voice tr')
  await page.keyboard.press('Enter')
  await page.getByTestId('voicing').getByText('2 lines of “Voice tracks” are on the page.').waitFor({ timeout: 60_000 })
  const [council, soc] = (await linesOf(story)).slice(-2)
  // of the council's line the second reading counts; in the first a word was left out
  const [from, to] = await heard(council.piece!)
  expect(Math.abs(from - 47.2336)).toBeLessThan(0.05)
  expect(Math.abs(to - 53.0921)).toBeLessThan(0.05)
  const [begins, ends] = await heard(soc.piece!)
  expect([Math.abs(begins - 54.9213) < 0.05, Math.abs(ends - 57.8842) < 0.05]).toEqual([true, true])
  // the other reading is a take of the line, and says what is otherwise in it
  const takes = (await pieces(story)).filter(({ body }) => body.line === council.id)
  expect(takes).toHaveLength(2)
  await page.getByTestId('voicing').getByRole('button', { name: 'OK' }).click()
  await until(
    () => page.getByTestId('voicing').count(),
    (count) => count === 0,
  )
  // one act: all that was put there goes at once
  await press(page, 'Control+z')
  await saved(page)
  expect((await linesOf(story)).slice(-2).map(({ piece }) => piece)).toEqual([null, null])
}, 120_000)

it('tells starts that were broken off from takes, and goes on within a line where the reader did', async () => {
  const story = await copyOf()
  const tape = await tracks()
  const lines = await linesOf(story)
  await api(`/voicings/${tape}`, json({ story, author, blocks: lines.map(({ id }) => id) }))
  const [done] = await until(
    () => api<Voicing[]>(`/voicings/of/${story}`),
    ([voicing]) => voicing?.state === 'done',
    60_000,
  )
  expect(done.report).toMatchObject({ placed: 4, lines: 4 })
  const [ropes, counting] = await linesOf(story)
  const [from, to] = await heard(ropes.piece!)
  expect([Math.abs(from - 10.4909) < 0.05, Math.abs(to - 18.0048) < 0.05]).toEqual([true, true])
  // “Aldous counts differently” was said again from within the line: what was said first is the take's offcut
  const [begins, ends] = await heard(counting.piece!)
  expect([Math.abs(begins - 19.8998) < 0.05, Math.abs(ends - 36.036) < 0.05]).toEqual([true, true])
  const track = await bodyOf(counting.piece!)
  expect(track.spans.length).toBeGreaterThan(1)
  expect(clipLength(track) / 48_000).toBeLessThan(12.5)
  expect(keptOf(track, 'offcut').length).toBeGreaterThan(0)
}, 120_000)
