import { createReadStream, createWriteStream, existsSync } from 'node:fs'
import { mkdir, open, readdir, stat, type FileHandle } from 'node:fs/promises'
import { join } from 'node:path'
import { createHash, randomUUID } from 'node:crypto'
import { hostname } from 'node:os'
import { pipeline } from 'node:stream/promises'
import type { Card, CardFile } from '../../contract/cards'
import type { Config } from '../config'
import { runs } from '../../core/tape/runOn'
import { CardFileEntity, type CardFileRow } from '../entities'
import { allCame, beginTape, LARGEST, seeTo, shownName } from '../intake/intake'
import { tell } from '../notices'
import { notFound, Refusal } from '../problem'
import type { Services } from '../services'

const DEEPEST = 4
const MOST_FILES = 2000
const SOUND = /\.(wav|bwf|rf64|aiff?|flac|mp[23]|m4a|aac|ogg|opus|amr|3gp|wma|mp4|mov)$/i
const LOOK_MS = 1000
/** The end of what was copied is compared before a copy goes on: a card may hold another file by then. */
const COMPARED = 1 << 16
const BEAT_MS = 2000
const GONE = '10 seconds'

interface Found {
  path: string
  bytes: number
  modified: number
}

/** The files of sound on a card. Links are not followed: a card shows what is on it. */
async function filesOn(folder: string, within = '', depth = 0): Promise<Found[]> {
  const found: Found[] = []
  for (const entry of await readdir(join(folder, within), { withFileTypes: true })) {
    if (entry.name.startsWith('.') || found.length >= MOST_FILES) continue
    const path = within ? `${within}/${entry.name}` : entry.name
    if (entry.isDirectory() && depth < DEEPEST) found.push(...(await filesOn(folder, path, depth + 1)))
    else if (entry.isFile() && SOUND.test(entry.name)) {
      const { size, mtimeMs } = await stat(join(folder, path))
      if (size > 0 && size <= LARGEST) found.push({ path, bytes: size, modified: Math.round(mtimeMs) })
    }
  }
  return found.sort((a, b) => a.path.localeCompare(b.path, 'en', { numeric: true }))
}

const fileName = (path: string): string => path.split('/').at(-1)!

/** The cards that are in, with what is on them and what of it was taken already. */
export async function cardsNow({ config, database }: Services): Promise<Card[]> {
  const names = await readdir(config.cards, { withFileTypes: true }).catch(() => [])
  const cards: Card[] = []
  for (const entry of names) {
    if (!entry.isDirectory() || entry.name.startsWith('.')) continue
    // a card that is pulled out while it is looked at is not in
    const found = await filesOn(join(config.cards, entry.name)).catch(() => null)
    if (!found) continue
    const known = await database.manager.findBy(CardFileEntity, { card: entry.name })
    const named = found.map((file) => ({ ...file, fileName: fileName(file.path) }))
    const split = runs(named)
    cards.push({
      name: entry.name,
      files: named.map((file): CardFile => {
        const taken = known.find((row) => row.path === file.path && row.size === file.bytes && row.modified === file.modified)
        const run = split.findIndex((one) => one.includes(file))
        return {
          path: file.path,
          bytes: file.bytes,
          modified: new Date(file.modified).toISOString(),
          tape: taken?.id ?? null,
          run: run < 0 ? null : run,
        }
      }),
    })
  }
  return cards
}

/** Takes files off a card: each becomes a tape, and is copied as long as the card is in. */
export async function takeFromCard(services: Services, name: string, paths: readonly string[]): Promise<string[]> {
  const card = (await cardsNow(services)).find((one) => one.name === name)
  if (!card) throw notFound('That card')
  const files = paths.map((path) => card.files.find((file) => file.path === path))
  if (files.some((file) => !file)) throw new Refusal(409, 'Not on the card', 'One of those files is not on the card any more.')
  const tapes: string[] = []
  for (const file of files as CardFile[]) {
    if (file.tape) continue
    const id = randomUUID()
    await beginTape(services, id, shownName(fileName(file.path)), file.bytes)
    await services.database.manager.insert(CardFileEntity, {
      id,
      card: name,
      path: file.path,
      size: file.bytes,
      modified: new Date(file.modified).getTime(),
      copied: false,
    })
    await services.jobs.add(cardQueue(services.config), { id })
    tapes.push(id)
  }
  await tell(services.database, { about: 'cards' })
  return tapes
}

/** Copies wait where the card is: in a queue of those who look at the same folder of the same machine. */
export const cardQueue = ({ cards }: Pick<Config, 'cards'>): string =>
  `card-${createHash('sha256').update(`${hostname()}:${cards}`).digest('hex').slice(0, 16)}`

/** What a job does for one file: copies on from where it was. Where the card has gone it waits until it is back. */
export async function copyFromCard(services: Services, { id }: { id: string }): Promise<void> {
  const { database } = services
  const row = await database.manager.findOneBy(CardFileEntity, { id })
  if (!row || row.copied || !(await isOnCard(services, row))) return
  // one copies at a time, whoever else was told to
  const [mine] = (await database.query(
    `update card_file set copying = now() where id = $1 and (copying is null or copying < now() - interval '${GONE}') returning id`,
    [id],
  )) as [unknown[], number]
  if (!mine.length) return
  const beat = setInterval(
    () => void database.query('update card_file set copying = now() where id = $1', [id]).catch(() => undefined),
    BEAT_MS,
  )
  try {
    await copyOn(services, row)
  } finally {
    clearInterval(beat)
    await database.query('update card_file set copying = null where id = $1', [id])
  }
}

async function copyOn(services: Services, row: CardFileRow): Promise<void> {
  const { config, database, store } = services
  const { id } = row
  const source = join(config.cards, row.card, row.path)
  const to = store.upload(id)
  const copied = existsSync(to) ? await store.size(to) : 0
  if (copied && !(await sameUpTo(source, to, copied))) return
  await (await open(to, 'a')).close()
  await seeTo(services, id)
  try {
    await pipeline(createReadStream(source, { start: copied, end: row.size - 1 }), createWriteStream(to, { flags: 'a' }))
  } catch {
    return // the card went; what was copied stays
  }
  if ((await store.size(to).catch(() => 0)) < row.size) return
  await database.manager.update(CardFileEntity, { id }, { copied: true })
  await allCame(services, id, row.size)
  await tell(database, { about: 'cards' })
}

async function isOnCard({ config }: Services, row: CardFileRow): Promise<boolean> {
  const found = await stat(join(config.cards, row.card, row.path)).catch(() => null)
  return found?.isFile() === true && found.size === row.size && Math.round(found.mtimeMs) === row.modified
}

async function sameUpTo(source: string, copy: string, copied: number): Promise<boolean> {
  const [a, b] = await Promise.all([source, copy].map((path) => open(path)))
  try {
    const from = Math.max(0, copied - COMPARED)
    const read = async (file: FileHandle) => {
      const bytes = Buffer.alloc(copied - from)
      await file.read(bytes, 0, bytes.length, from)
      return bytes
    }
    return (await read(a)).equals(await read(b))
  } finally {
    await Promise.all([a.close(), b.close()])
  }
}

/** Looks for cards that come and go, and has copies go on that a card came back for. */
export class CardWatch {
  private timer: ReturnType<typeof setInterval> | undefined
  private last = ''
  private looking = false

  constructor(private readonly services: Services) {}

  async open(): Promise<void> {
    await mkdir(this.services.config.cards, { recursive: true })
    this.timer = setInterval(() => void this.look(), LOOK_MS)
  }

  private async look(): Promise<void> {
    if (this.looking) return
    this.looking = true
    const { services } = this
    try {
      const cards = await cardsNow(services)
      const now = JSON.stringify(cards)
      if (now === this.last) return
      this.last = now
      await tell(services.database, { about: 'cards' })
      for (const row of await services.database.manager.findBy(CardFileEntity, { copied: false }))
        if (await isOnCard(services, row)) await services.jobs.add(cardQueue(services.config), { id: row.id })
    } catch {
      // the database is away, or the server is leaving: the next look tells
    } finally {
      this.looking = false
    }
  }

  close(): void {
    clearInterval(this.timer)
  }
}
