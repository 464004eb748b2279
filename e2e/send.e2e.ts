import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, it, onTestFinished } from 'vitest'
import type { Receipt } from '../contract/sends'
import { here } from './here'
import { readBack } from '../measure/sendRead'
import { api, FERRY, ownPiece, press, selectWords, until, useBrowser, visit } from './newsroom'

useBrowser()

/** Loudness and true peak of a file as another program finds them. */
async function measured(id: string, extension: string): Promise<{ loudness: number; truePeak: number }> {
  const folder = mkdtempSync(join(tmpdir(), 'plain-cut-sent-'))
  onTestFinished(() => rmSync(folder, { recursive: true, force: true }))
  const path = join(folder, `sent.${extension}`)
  writeFileSync(path, Buffer.from(await (await fetch(`${here.address}/api/sends/${id}/file`)).arrayBuffer()))
  const said = execFileSync(
    'sh',
    ['-c', `ffmpeg -hide_banner -nostats -i ${path} -af ebur128=peak=true:dualmono=true -f null - 2>&1 | tail -14`],
    {
      encoding: 'utf8',
    },
  )
  return { loudness: Number(/I:\s+(-?[\d.]+) LUFS/.exec(said)![1]), truePeak: Number(/Peak:\s+(-?[\d.]+) dBFS/.exec(said)![1]) }
}

/** What other programs read of a sent file's broadcast extension: ffprobe its tags, mediainfo the loudness as well. */
async function fieldsOf(
  id: string,
): Promise<{ tags: Record<string, string>; general: Record<string, string>; loudness: Record<string, string> }> {
  const folder = mkdtempSync(join(tmpdir(), 'plain-cut-sent-'))
  onTestFinished(() => rmSync(folder, { recursive: true, force: true }))
  const path = join(folder, 'sent.wav')
  writeFileSync(path, Buffer.from(await (await fetch(`${here.address}/api/sends/${id}/file`)).arrayBuffer()))
  return readBack(path)
}

it('a selection goes out as one, under its own name, and how loud it is is said before and on the receipt', async () => {
  const { page, id, complaints } = await ownPiece('Nobody told us')
  const receipts = () => api<Receipt[]>(`/sends?of=${id}`)
  await selectWords(page, 4, 12)
  await press(page, 'Control+Enter')
  const dialog = page.getByRole('dialog')
  await dialog.getByRole('heading', { name: 'Send a selection of tried' }).waitFor()
  await dialog.getByText(/^tried-selection-0-\d\d/).waitFor()
  await dialog.getByText(/LUFS, true peak/).waitFor()
  const before = await dialog.getByTestId('loudness').innerText()
  // what nobody has heard is asked of, and noted in the receipt as seen
  await dialog
    .getByTestId('last-look')
    .getByText(/not played yet/)
    .waitFor()
  for (const format of ['WAV', 'MP3']) {
    await dialog.getByText(format, { exact: true }).click()
    await dialog.getByRole('button', { name: 'Send', exact: true }).click()
    const [receipt] = await until(receipts, ([newest]) => newest?.order.format === format.toLowerCase() && newest.state === 'done', 20_000)
    const truth = await measured(receipt.id, format.toLowerCase())
    expect(Math.abs(receipt.loudness! - truth.loudness)).toBeLessThan(0.2)
    expect(Math.abs(receipt.truePeak! - truth.truePeak)).toBeLessThan(0.3)
    expect(receipt.look.map(({ text }) => text).join()).toMatch(/not played yet/)
    if (format === 'WAV') await dialog.getByTestId('receipts').getByText(before).waitFor()
  }
  // all of it goes with one click, and under its own name
  await dialog.getByText('the whole actuality').click()
  await dialog.getByRole('heading', { name: 'Send tried' }).waitFor()
  await dialog
    .getByTestId('preview')
    .getByText(/^tried_/)
    .waitFor()
  await dialog.getByText('WAV', { exact: true }).click()
  await dialog.getByRole('button', { name: 'Send', exact: true }).click()
  const [whole, part] = await until(receipts, (list) => list.length === 3 && list[0].state === 'done', 20_000)
  expect(whole.frames).toBeGreaterThan(part.frames)
  expect(whole.fileName).not.toContain('selection')
  // the same again, by one button
  const sameAgain = dialog.getByTestId('receipts').getByRole('button', { name: 'Same again' })
  await until(
    () => sameAgain.count(),
    (count) => count === 3,
  )
  await sameAgain.first().click()
  const [again] = await until(receipts, (list) => list.length === 4 && list[0].state === 'done', 20_000)
  expect([again.order, again.frames]).toEqual([whole.order, whole.frames])
  // the file says what it is, to other programs too
  const { tags: said, general, loudness } = await fieldsOf(whole.id)
  expect(said).toMatchObject({
    comment: 'tried',
    encoded_by: 'Plain Cut',
    originator_reference: whole.id.replaceAll('-', ''),
    date: whole.at.slice(0, 10),
    time_reference: '0',
  })
  expect(said.coding_history.trim()).toBe('A=PCM,F=48000,W=24,M=mono,T=Plain Cut')
  expect(general).toMatchObject({ Description: 'tried', Producer: 'Plain Cut' })
  expect(general.Encoded_Date.slice(0, 10)).toBe(whole.at.slice(0, 10))
  expect(Number(loudness.LoudnessValue)).toBeCloseTo(whole.loudness!, 1)
  expect(Number(loudness.MaxTruePeakLevel)).toBeCloseTo(whole.truePeak!, 1)
  // and each line leads to its place
  await dialog
    .getByTestId('last-look')
    .getByRole('link', { name: /not played yet/ })
    .click()
  await dialog.waitFor({ state: 'detached' })
  expect(new URL(page.url()).searchParams.get('at')).toMatch(/^\d+$/)
  expect(complaints).toEqual([])
})

it('the words of a story go out as text and as subtitles that are timed to its file', async () => {
  const { page } = await visit(`/stories/${FERRY}`)
  await page.getByRole('button', { name: 'Send', exact: true }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByTestId('last-look').waitFor()
  const fetched = async (name: string) => {
    const response = await fetch(here.address + (await dialog.getByRole('link', { name, exact: true }).getAttribute('href')))
    expect(response.headers.get('content-disposition')).toContain('The-night-ferry')
    return response.text()
  }
  const frames = Number(/([\d,]+) samples/.exec(await dialog.getByTestId('preview').innerText())![1].replaceAll(',', ''))
  const cues = [...(await fetched('SRT')).matchAll(/(\d+):(\d+):(\d+),(\d+) --> (\d+):(\d+):(\d+),(\d+)\n(.*)/g)].map((cue) => {
    const [h, m, s, ms, h2, m2, s2, ms2] = cue.slice(1, 9).map(Number)
    return { from: h * 3600 + m * 60 + s + ms / 1000, to: h2 * 3600 + m2 * 60 + s2 + ms2 / 1000, text: cue[9] }
  })
  expect(cues.length).toBeGreaterThan(10)
  cues.forEach(({ from, to }, i) => {
    expect(to).toBeGreaterThan(from)
    if (i) expect(from).toBeGreaterThanOrEqual(cues[i - 1].to - 0.001)
  })
  expect(cues[cues.length - 1].to * 48_000).toBeLessThanOrEqual(frames + 24_000)
  expect(await fetched('WebVTT')).toMatch(/^WEBVTT\n\n00:00:0\d\.\d{3} --> /)
  expect(await fetched('text')).toMatch(/^Tamsin Roe: /)
  // and its edit list, for another workshop
  const { OTIO_SCHEMA, tracks } = JSON.parse(await fetched('OpenTimelineIO')) as {
    OTIO_SCHEMA: string
    tracks: { children: { name: string }[] }
  }
  expect(OTIO_SCHEMA).toBe('Timeline.1')
  expect(tracks.children.map(({ name }) => name)).toContain('Voices 1')
})
