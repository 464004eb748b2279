import { appendFileSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { tail, type Growth } from './tail'

const folder = mkdtempSync(join(tmpdir(), 'plain-cut-tail-'))
afterAll(() => rmSync(folder, { recursive: true }))
const some = (length: number, seed: number) => Buffer.from(Array.from({ length }, (_, i) => (i * 31 + seed * 7) & 255))

describe('the tail of a growing file', () => {
  it('gives every byte once and in order, however it grows, to where it is complete', async () => {
    const path = join(folder, 'growing')
    const growth: Growth = { complete: false }
    const parts = [some(10, 1), some(200_000, 2), some(3, 3), some(70_000, 4)]
    writeFileSync(path, parts[0])
    const got: Buffer[] = []
    const reading = (async () => {
      for await (const bytes of tail(path, growth, 10_000)) if (bytes) got.push(Buffer.from(bytes))
    })()
    for (const part of parts.slice(1)) {
      await new Promise((done) => setTimeout(done, 60))
      appendFileSync(path, part)
    }
    growth.complete = true
    await reading
    expect(Buffer.compare(Buffer.concat(got), Buffer.concat(parts))).toBe(0)
  })
  it('says so when nothing comes for a while, and still goes on', async () => {
    const path = join(folder, 'halting')
    writeFileSync(path, 'one')
    const growth: Growth = { complete: false }
    const coming = tail(path, growth, 100)
    expect(String((await coming.next()).value)).toBe('one')
    expect((await coming.next()).value).toBeNull()
    appendFileSync(path, 'two')
    expect(String((await coming.next()).value)).toBe('two')
    growth.complete = true
    expect((await coming.next()).done).toBe(true)
  })
  it('of a file that is not there is an error', async () => {
    await expect(tail(join(folder, 'none'), { complete: true }, 100).next()).rejects.toThrow('ENOENT')
  })
})
