import type { Readable } from 'node:stream'

/** A file that is sent. */
export interface Parcel {
  /** Of the delivery: no other has it, and it stays the same over all tries. */
  id: string
  name: string
  bytes: number
  /** In hex. */
  sha256: string
  open: () => Readable
}

/** What one delivery tells while it goes. */
export interface Notes {
  /** So many bytes are on the other side. */
  sent: (bytes: number) => void
  /** From here on it may have arrived, whatever happens to us: resolves once that is kept. */
  beyond: () => Promise<void>
  signal: AbortSignal
}

/** A place that holds files by name: a folder, or a server that is one. Names have no folder in them. */
export interface Place {
  /** In bytes; null where there is no such file, or where the place does not tell. */
  size: (name: string) => Promise<number | null>
  /** SHA-256 of what lies there, in hex; null where it cannot be read back. `moved` is called as it comes. */
  hash: (name: string, moved: () => void) => Promise<string | null>
  /** Writes a file anew. */
  write: (name: string, content: Readable, bytes: number) => Promise<void>
  /** Gives a file its name; throws `exists` where another has it, unless it is to take its place. */
  rename: (from: string, to: string, replaces: boolean) => Promise<void>
  /** Is content with a file that is not there. */
  remove: (name: string) => Promise<void>
  close: () => Promise<void>
}
