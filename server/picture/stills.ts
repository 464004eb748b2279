import { randomUUID } from 'node:crypto'
import { readdir, stat, writeFile } from 'node:fs/promises'
import { createCanvas, loadImage } from '@napi-rs/canvas'
import { Ended, run } from '../outside/program'
import { Refusal } from '../problem'
import type { Services } from '../services'

/** Larger on its longer side than any picture that is made of it needs none. */
const LONGEST = 2400
/** More than this is no photograph, and would fill the memory. */
const MOST_PIXELS = 120_000_000

/** Takes a still image in, and keeps it as a JPEG no larger than is ever needed; gives its id. Refuses what is none. */
export async function takeStill({ store }: Services, bytes: Buffer): Promise<string> {
  const id = randomUUID()
  const arriving = store.making(`still-${id}`)
  try {
    await writeFile(arriving, bytes)
    const { width, height } = await sizeOf(arriving)
    if (width * height > MOST_PIXELS)
      throw new Refusal(422, 'Too large', `It has ${width} by ${height} pixels. Make it smaller, then try again.`)
    const image = await loadImage(bytes).catch(() => {
      throw noImage()
    })
    const scale = Math.min(1, LONGEST / Math.max(image.width, image.height))
    const canvas = createCanvas(Math.max(1, Math.round(image.width * scale)), Math.max(1, Math.round(image.height * scale)))
    const context = canvas.getContext('2d')
    // what is transparent lies on white
    context.fillStyle = '#fff'
    context.fillRect(0, 0, canvas.width, canvas.height)
    context.drawImage(image, 0, 0, canvas.width, canvas.height)
    await writeFile(arriving, await canvas.encode('jpeg', 92))
    await store.keep(arriving, store.still(id))
    return id
  } finally {
    await store.remove(arriving)
  }
}

/** One that was chosen and never sent is kept for so long: a browser may still have it chosen. */
const KEPT_DAYS = 90

/** Clears away still images that nothing was sent with, and that came long ago. */
export async function clearStills({ store, database }: Pick<Services, 'store' | 'database'>): Promise<void> {
  const rows = await database.query<{ still: string }[]>(`select distinct request #>> '{picture,still}' as still from send`)
  const sent = new Set(rows.map(({ still }) => still))
  for (const id of await readdir(store.stills)) {
    const { mtimeMs } = await stat(store.still(id))
    if (!sent.has(id) && mtimeMs < Date.now() - KEPT_DAYS * 86_400_000) await store.remove(store.still(id))
  }
}

const noImage = (): Refusal => new Refusal(422, 'No image', 'It is no JPEG, PNG or WebP image that can be read.')

/** Read off its head, before any of it is unpacked. */
async function sizeOf(path: string): Promise<{ width: number; height: number }> {
  try {
    const asked = ['-v', 'error', '-show_entries', 'stream=width,height', '-of', 'json', path]
    const { streams } = JSON.parse(
      await run('ffprobe', ['-protocol_whitelist', 'file', '-format_whitelist', IMAGES, ...asked], 10_000),
    ) as {
      streams: { width: number; height: number }[]
    }
    if (!streams[0]?.width) throw noImage()
    return streams[0]
  } catch (error) {
    if (error instanceof Ended && !error.killed) throw noImage()
    throw error
  }
}

const IMAGES = 'image2,jpeg_pipe,png_pipe,webp_pipe,mov,avif'
