import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import type { Plan, Strip } from '../../core/render/plan'
import { renderer } from '../../core/render/render'
import { random } from '../../core/sound/random'
import { RATE } from '../../core/time'
import { MediaStore, SoundFiles } from '../media/store'
import { blocks } from './blocks'
import { SHARE } from './render'

const SECONDS = 20
const media = mkdtempSync(join(tmpdir(), 'blocks-'))
const store = new MediaStore(media)
const next = random(7)
mkdirSync(dirname(store.channel('tape', 0)), { recursive: true })
writeFileSync(store.channel('tape', 0), new Uint8Array(Float32Array.from({ length: SECONDS * RATE }, () => 0.8 * next() - 0.4).buffer))
afterAll(() => rmSync(media, { recursive: true, force: true }))

const strip = (at: number, length: number, sides: Strip['pan']): Strip => ({
  sound: 'tape',
  channel: 0,
  pan: sides,
  at,
  length,
  from: 0,
  gain: 0.9,
  ramps: [{ at, length: RATE, rise: true, shape: 'gain' }],
})
const plan: Plan = {
  length: SECONDS * RATE - 77,
  channels: 2,
  strips: [strip(0, SECONDS * RATE, { left: 1, right: 1 }), strip(5 * RATE, 4 * RATE, { left: 1, right: 0 })],
  stages: [
    { kind: 'compressor', dB: -11, ratio: 3 },
    { kind: 'ceiling', dB: -1, between: true },
  ],
}

/** Some frames of a run, as bytes. */
const bytesOf = (run: Float32Array, at: number, count: number): Buffer => Buffer.from(run.buffer, 4 * at, 4 * count)

describe('blocks of a plan', () => {
  it('are the same bits, in order and to the end, whether threads share the work or one renderer does it all', async () => {
    const files = new SoundFiles(store)
    const whole = [new Float32Array(plan.length), new Float32Array(plan.length)]
    renderer(plan, files.read).pull(0, whole)
    files.close()
    // the second time by threads that stayed
    for (const _time of [1, 2]) {
      let at = 0
      for await (const block of blocks(plan, media, 2, () => undefined)) {
        for (const [c, channel] of block.entries())
          expect(Buffer.from(channel.buffer).equals(bytesOf(whole[c], at, channel.length))).toBe(true)
        at += block[0].length
      }
      expect(at).toBe(plan.length)
    }
    expect(plan.length / SHARE).toBeGreaterThan(6)
  })

  it('say so where a sound is gone, and do not end as if all was there', async () => {
    const gone = { ...plan, strips: plan.strips.map((one) => ({ ...one, sound: 'gone' })) }
    await expect(async () => {
      for await (const _ of blocks(gone, media, 2, () => undefined));
    }).rejects.toThrow('ENOENT')
  })
})
