import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { createReadStream, writeFileSync } from 'node:fs'
import { readFile } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { createCanvas, loadImage, type SKRSContext2D } from '@napi-rs/canvas'
import type { SendOrder } from '../../contract/sends'
import { drawCaption, drawSheet, drawVeil, type Brush, type PutStill, type Told } from '../../core/picture/draw'
import { coverOf, SHEETS, type Area, type Shape, type Sheet } from '../../core/picture/shapes'
import type { Caption } from '../../core/send/captions'
import { RATE, type Frames } from '../../core/time'
import { bringFonts } from './fonts'

/** What a picture with sound shows; times in frames of the sound, at 48 kHz. */
export interface Film {
  shape: Shape
  title: string
  from: string
  captions: readonly Caption[]
  /** The file of the still image. */
  still: string | null
}

const PICTURES_A_SECOND = 25
const QUIET = ['-hide_banner', '-loglevel', 'error', '-progress', 'pipe:1']
const BT709 = 'scale=out_color_matrix=bt709:out_range=tv'
const STANDS = `loop=-1:1:0,fps=${PICTURES_A_SECOND}`
const LIMIT_MS = 2 * 60 * 60_000

/**
 * Makes an MP4 file (H.264, AAC) of a sound: a still image, the wave over which the time moves, and captions. `sound` is a file of
 * interleaved 32 bit floats at 48 kHz; what is drawn is put beside it. `begun` is told of ffmpeg's process, which goes on where this
 * thread is stopped. Throws what ffmpeg says where it cannot.
 */
export async function makeFilm(
  film: Film,
  sound: { path: string; frames: Frames; channels: number; wave: readonly number[] },
  { rate, kbps }: Pick<SendOrder, 'rate' | 'kbps'>,
  path: string,
  report: (progress: number) => void,
  begun: (process: number) => void,
): Promise<void> {
  const folder = dirname(sound.path)
  await drawAll(folder, film, sound)
  const { wave, caption, width } = SHEETS[film.shape]
  const seconds = sound.frames / RATE
  // whole pictures: the last one stands until the sound has ended
  const pictures = Math.ceil(seconds * PICTURES_A_SECOND)
  const inputs = [join(folder, 'sheet.png'), join(folder, 'veil.png')].flatMap((path) => ['-i', path])
  const told = ['-f', 'concat', '-safe', '0', '-i', join(folder, 'captions.txt')]
  const heard = ['-f', 'f32le', '-ar', String(RATE), '-ac', String(sound.channels), '-i', 'pipe:0']
  // what stands still is read and turned to its colours once
  const drawing = [
    `[0]${BT709},format=yuv420p,${STANDS}[sheet]`,
    `[1]${BT709},format=yuva420p,${STANDS}[veil]`,
    `[2]${BT709},format=yuv420p[said]`,
    `[sheet][said]overlay=${caption.x}:${caption.y}:eof_action=repeat[told]`,
    `[told][veil]overlay=x='${width}*t/${seconds}':y=${wave.y}:eval=frame,trim=end_frame=${pictures}[all]`,
  ]
  const video = ['-map', '[all]', '-c:v', 'libx264', '-preset', 'veryfast', '-tune', 'stillimage', '-crf', '20', '-colorspace', 'bt709']
  const audio = ['-map', '3:a', '-c:a', 'aac', '-b:a', `${kbps}k`, '-ar', String(rate), '-movie_timescale', String(rate)]
  const file = ['-metadata', `title=${film.title}`, '-movflags', '+faststart', '-y', '-f', 'mp4', path]
  const child = spawn(
    'ffmpeg',
    [...QUIET, ...inputs, ...told, ...heard, '-filter_complex', drawing.join(';'), ...video, ...audio, ...file],
    { stdio: 'pipe', timeout: LIMIT_MS, killSignal: 'SIGKILL' },
  )
  if (child.pid !== undefined) begun(child.pid)
  let said = ''
  child.stderr.on('data', (chunk) => (said = (said + chunk).slice(-500)))
  child.stdout.on('data', (chunk) => {
    const done = /frame=\s*(\d+)[^]*$/.exec(String(chunk))
    if (done) report(Math.min(1, Number(done[1]) / pictures))
  })
  child.stdin.on('error', () => undefined) // its end is reported by its exit
  createReadStream(sound.path).pipe(child.stdin)
  const [code] = await once(child, 'close')
  if (code !== 0) throw new Error(said || `ffmpeg ended with ${code}`)
}

async function drawAll(
  folder: string,
  { shape, title, from, captions, still }: Film,
  { frames, wave }: { frames: Frames; wave: readonly number[] },
): Promise<void> {
  const sheet = SHEETS[shape]
  writeFileSync(join(folder, 'sheet.png'), await sheetPicture(sheet, { title, from, wave }, still))
  writeFileSync(join(folder, 'veil.png'), await picture(sheet.wave, (brush) => drawVeil(brush, sheet.wave)))
  const empty = await picture(sheet.caption, (brush) => drawCaption(brush, sheet.caption, []))
  writeFileSync(join(folder, 'none.png'), empty)
  const shown: [name: string, length: Frames][] = []
  let at = 0
  for (const [i, { from: start, to, lines }] of captions.entries()) {
    if (start > at) shown.push(['none.png', start - at])
    writeFileSync(join(folder, `${i}.png`), await picture(sheet.caption, (brush) => drawCaption(brush, sheet.caption, lines)))
    shown.push([`${i}.png`, to - Math.max(at, start)])
    at = to
  }
  if (frames > at) shown.push(['none.png', frames - at])
  // the last one is named twice: what is listed last has no length of its own
  const list = [...shown, [shown[shown.length - 1][0], 0] as const]
  writeFileSync(
    join(folder, 'captions.txt'),
    `ffconcat version 1.0\n${list.map(([name, length]) => `file ${name}\nduration ${length / RATE}`).join('\n')}\n`,
  )
}

export async function sheetPicture(sheet: Sheet, told: Told, still: string | null): Promise<Buffer> {
  const image = still ? await loadImage(await readFile(still)) : null
  return picture(sheet, (brush, context) => {
    const putStill: PutStill | null =
      image &&
      ((area) => {
        const part = coverOf(image, area)
        context.drawImage(image, part.x, part.y, part.width, part.height, area.x, area.y, area.width, area.height)
      })
    drawSheet(brush, sheet, told, putStill)
  })
}

async function picture(
  { width, height }: Pick<Area, 'width' | 'height'>,
  draw: (brush: Brush, context: SKRSContext2D) => void,
): Promise<Buffer> {
  bringFonts()
  const canvas = createCanvas(width, height)
  const context = canvas.getContext('2d')
  draw(context as unknown as Brush, context)
  return canvas.encode('png')
}
