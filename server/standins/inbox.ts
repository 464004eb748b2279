import { createHash } from 'node:crypto'
import { createReadStream, mkdirSync, readFileSync, statSync } from 'node:fs'
import { link, rename, rm } from 'node:fs/promises'
import { join } from 'node:path'

/** What can be wrong with a place, to be tried out. */
export interface Faults {
  /** Takes no more. */
  full?: boolean
  /** Takes the first bytes, and then nothing. */
  stuck?: boolean
  /** Knows nobody. */
  refuses?: boolean
  /** Says of files that they are shorter than they are. */
  lies?: boolean
  /** Takes all of it, and breaks off instead of answering. */
  mute?: boolean
  /** Can be written to, and not read. */
  closed?: boolean
  /** Bytes a second, at the most. */
  slow?: number
}

export interface Arrival {
  /** By which door it came. */
  by: string
  name: string
  bytes: number
  sha256: string
}

export const USER = 'newsroom'
export const PASSWORD = 'night ferry'

/** Where the doors of the stand-in for a playout system put what arrives: a folder, and a list of all that came, twice too. */
export class Inbox {
  readonly arrivals: Arrival[] = []
  faults: Faults = {}
  /** Takes a sending that it had before, by its key, for the same. */
  heedsKey = false

  constructor(
    readonly folder: string,
    private readonly onArrival: (arrival: Arrival) => void = () => undefined,
  ) {
    mkdirSync(folder, { recursive: true })
  }

  /** Where a name lies. Folders in it are passed over. */
  at = (name: string): string => join(this.folder, name.split('/').at(-1) || '.')

  size(name: string): number | null {
    const found = statSync(this.at(name), { throwIfNoEntry: false })
    return found ? (this.faults.lies ? Math.floor(found.size / 2) : found.size) : null
  }

  lets = (user: string, password: string): boolean => !this.faults.refuses && user === USER && password === PASSWORD

  /** A file gets its name; false where that is taken, unless it may take its place. */
  async name(by: string, from: string, to: string, replaces: boolean): Promise<boolean> {
    if (replaces) await rename(this.at(from), this.at(to))
    else {
      try {
        await link(this.at(from), this.at(to))
      } catch {
        return false
      }
      await rm(this.at(from))
    }
    this.came(by, to)
    return true
  }

  private came(by: string, name: string): void {
    const content = readFileSync(this.at(name))
    const arrival = { by, name: name.split('/').at(-1)!, bytes: content.length, sha256: createHash('sha256').update(content).digest('hex') }
    this.arrivals.push(arrival)
    this.onArrival(arrival)
  }

  read = (name: string) => createReadStream(this.at(name))

  /** What comes, as fast as it is taken. */
  async *paced(chunks: AsyncIterable<Buffer>): AsyncGenerator<Buffer> {
    for await (const chunk of chunks) {
      yield chunk
      await this.pace(chunk.length)
    }
  }

  /** How long to wait after so many bytes. */
  async pace(bytes: number): Promise<void> {
    if (this.faults.stuck) return new Promise(() => undefined)
    const { slow } = this.faults
    if (slow) await new Promise((done) => setTimeout(done, (1000 * bytes) / slow))
  }
}
