import { createHash } from 'node:crypto'
import { Writable, type Readable } from 'node:stream'

/** Takes bytes in and gives their SHA-256, in hex. `moved` is called as they come. */
export function hashing(moved: () => void): { into: Writable; digest: () => string } {
  const hash = createHash('sha256')
  const into = new Writable({
    write(chunk: Buffer, _encoding, done) {
      hash.update(chunk)
      moved()
      done()
    },
  })
  return { into, digest: () => hash.digest('hex') }
}

/** SHA-256 of a stream, in hex. */
export async function hashOf(content: Readable, moved: () => void): Promise<string> {
  const hash = createHash('sha256')
  for await (const chunk of content) {
    hash.update(chunk as Buffer)
    moved()
  }
  return hash.digest('hex')
}
