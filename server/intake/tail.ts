import { closeSync, openSync, readSync } from 'node:fs'

const PIECE = 1 << 18
const LOOK_AGAIN_MS = 80

/** What is known from outside of a file that is still being written: once it is whole, how long it is. */
export interface Growth {
  complete: boolean
}

/**
 * The bytes of a file as they come, to its end, which is where it ends once it is complete; each
 * piece is good until the next is asked for. Gives null whenever there is nothing new for `patience`
 * milliseconds. Reads at once and not beside: it is for threads that have nothing else to do.
 */
export async function* tail(path: string, growth: Growth, patience: number): AsyncGenerator<Buffer | null> {
  const file = openSync(path, 'r')
  const bytes = Buffer.alloc(PIECE)
  try {
    let at = 0
    let since = Date.now()
    for (;;) {
      // asked before reading: what is written between the two is found the next time round
      const { complete } = growth
      const count = readSync(file, bytes, 0, PIECE, at)
      if (count) {
        at += count
        since = Date.now()
        yield bytes.subarray(0, count)
      } else if (complete) return
      else {
        if (Date.now() - since > patience) {
          since = Date.now()
          yield null
        }
        await new Promise((done) => setTimeout(done, LOOK_AGAIN_MS))
      }
    }
  } finally {
    closeSync(file)
  }
}
