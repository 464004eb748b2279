import { mkdtempSync, rmSync, utimesSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import { afterAll, describe, expect, it } from 'vitest'
import { MediaStore, SoundFiles } from './store'

const folder = mkdtempSync(join(tmpdir(), 'plain-cut-store-'))
const frames = Float32Array.from({ length: 5000 }, (_, i) => i + 1)
const path = join(folder, 'sound.f32')
writeFileSync(path, new Uint8Array(frames.buffer))
afterAll(() => rmSync(folder, { recursive: true }))

describe('sound files', () => {
  it('give any frames in any order, and silence where there are none', () =>
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: -300, max: 5300 }), fc.integer({ min: 1, max: 900 })), { minLength: 1, maxLength: 12 }),
        fc.integer({ min: 1, max: 2000 }),
        (reads, ahead) => {
          const files = new SoundFiles({ channel: () => path }, ahead)
          for (const [from, count] of reads) {
            const got = files.read('tape', 0, from, from + count)
            const wanted = Float32Array.from({ length: count }, (_, i) => (from + i >= 0 && from + i < 5000 ? from + i + 1 : 0))
            expect(Buffer.compare(Buffer.from(got.slice().buffer), Buffer.from(wanted.buffer))).toBe(0)
          }
          files.close()
        },
      ),
      {
        numRuns: 300,
        examples: [
          [
            [
              [-2, 1],
              [0, 1],
            ],
            1,
          ],
        ],
      },
    ))
})

describe('the store', () => {
  it('names things by ids alone, and clears what was left half-made', async () => {
    const store = new MediaStore(folder)
    await store.open()
    writeFileSync(store.making('half'), 'x')
    utimesSync(store.making('half'), 0, Date.now() / 1000 - 90_000)
    writeFileSync(store.making('fresh'), 'x')
    await store.open()
    expect(await store.size(store.making('fresh'))).toBe(1)
    await expect(store.size(store.making('half'))).rejects.toThrow('ENOENT')
    expect(store.channel('id', 1)).toBe(join(folder, 'tapes', 'id', 'sound-1.f32'))
    expect(store.channel('id.tone', 0)).toBe(join(folder, 'tapes', 'id', 'tone-0.f32'))
    expect(store.channel('id.made-tone', 0)).toBe(join(folder, 'tapes', 'id', 'made-tone-0.f32'))
    expect([store.peaks('id', 0, 1), store.peaks('id.made', 0, 1)]).toEqual([
      join(folder, 'tapes', 'id', 'peaks-0-1.i16'),
      join(folder, 'tapes', 'id', 'made-peaks-0-1.i16'),
    ])
  })
})
