import { execFileSync, spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, it, onTestFinished } from 'vitest'
import type { Receipt } from '../contract/sends'
import { SHEETS, type Area } from '../core/picture/shapes'
import { here } from './here'
import { api, fileOf, ownPiece, press, until, useBrowser } from './newsroom'

useBrowser()

const ffmpeg = (...args: string[]): Buffer => execFileSync('ffmpeg', ['-v', 'error', ...args], { maxBuffer: 1 << 26 })

/** How many of an area's points are dark, at a time of a film. */
function inkIn(path: string, seconds: number, { x, y, width, height }: Area): number {
  const grey = ['-vf', `crop=${width}:${height}:${x}:${y}`, '-frames:v', '1', '-f', 'rawvideo', '-pix_fmt', 'gray', 'pipe:1']
  return ffmpeg('-ss', String(seconds), '-i', path, ...grey).filter((level) => level < 100).length
}

it('a piece goes out as a picture with sound: a still image, the wave that runs with the time, and what is said', async () => {
  const { page, id, complaints } = await ownPiece('Nobody told us')
  const folder = mkdtempSync(join(tmpdir(), 'plain-cut-picture-'))
  onTestFinished(() => rmSync(folder, { recursive: true, force: true }))
  const still = join(folder, 'quay.png')
  ffmpeg('-f', 'lavfi', '-i', 'color=c=0x2040a0:s=800x500', '-frames:v', '1', still)
  await press(page, 'Control+Enter')
  const dialog = page.getByRole('dialog')
  await dialog.getByText('MP4 with a picture').click()
  // what is no image is refused, and what was chosen stays
  const notes = join(folder, 'notes.png')
  writeFileSync(notes, 'the night ferry')
  const chooser = dialog.locator('input[type=file]')
  await chooser.setInputFiles(notes)
  await dialog.getByText('It is no JPEG, PNG or WebP image that can be read.').waitFor()
  await chooser.setInputFiles(still)
  await dialog.getByRole('button', { name: 'Another image' }).waitFor()
  const blue = () =>
    page
      .getByRole('img', { name: 'The picture, as it will look' })
      .evaluate((canvas: HTMLCanvasElement) => [...canvas.getContext('2d')!.getImageData(500, 200, 1, 1).data].slice(0, 3))
  await until(blue, ([red, , strong]) => strong > 150 && red < 60)
  await dialog.getByRole('button', { name: 'Send', exact: true }).click()
  const [receipt] = await until(
    () => api<Receipt[]>(`/sends?of=${id}`),
    ([newest]) => newest?.state === 'done',
    60_000,
  )
  expect(receipt.fileName).toMatch(/\.mp4$/)
  expect(receipt.loudness).toBeLessThan(-10)

  const path = join(folder, 'sent.mp4')
  writeFileSync(path, await fileOf(receipt))
  const asked = ['-v', 'error', '-show_entries', 'stream=codec_name,width,height,duration', '-of', 'json', path]
  const [film, sound] = (
    JSON.parse(execFileSync('ffprobe', asked, { encoding: 'utf8' })) as { streams: { width: number; height: number; duration: string }[] }
  ).streams
  expect(film).toMatchObject({ codec_name: 'h264', width: 1080, height: 1080 })
  expect(sound).toMatchObject({ codec_name: 'aac' })
  // the sound is as long as the piece, to the sample, and the last picture stands until it has ended
  expect(Math.round(Number(sound.duration) * 48_000)).toBe(receipt.frames)
  expect(Number(film.duration) - receipt.frames / 48_000).toBeGreaterThanOrEqual(0)
  expect(Number(film.duration) - receipt.frames / 48_000).toBeLessThan(0.04)

  const { caption, wave } = SHEETS.square
  const half = { ...wave, width: wave.width / 2 }
  const middle = receipt.frames / 48_000 / 2
  // something is said there, and the words stand in the picture
  expect(inkIn(path, middle, caption)).toBeGreaterThan(300)
  // the first half of the wave is still to come at the beginning, and has been by the middle
  expect(inkIn(path, middle, half)).toBeGreaterThan(4 * inkIn(path, 0, half))
  expect(complaints.filter((complaint) => !complaint.includes('422'))).toEqual([])

  // the same again, without words
  const { order } = receipt
  const quiet = { ...order, picture: { ...order.picture!, captions: false } }
  await api('/sends', { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(quiet) })
  const [second] = await until(
    () => api<Receipt[]>(`/sends?of=${id}`),
    (all) => all.length === 2 && all[0].state === 'done',
    60_000,
  )
  writeFileSync(path, await fileOf(second))
  expect(inkIn(path, middle, caption)).toBe(0)

  // one that is cancelled is not gone on with
  await api('/sends', { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(order) })
  const [third] = await until(
    () => api<Receipt[]>(`/sends?of=${id}`),
    ([newest]) => newest.state === 'working' && newest.progress > 0.2,
    60_000,
  )
  const filming = () => spawnSync('pgrep', ['-f', `ffmpeg.*send-${third.id}`], { encoding: 'utf8' }).stdout
  expect(filming()).not.toBe('')
  await fetch(`${here.address}/api/sends/${third.id}`, { method: 'DELETE' })
  await until(filming, (processes) => processes === '', 3000)

  const lane = { ...quiet, what: { ...quiet.what, lane: 'voice' } }
  const refused = await fetch(`${here.address}/api/sends`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(lane),
  })
  expect(refused.status).toBe(422)
}, 120_000)
