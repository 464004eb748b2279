import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { expect, it, onTestFinished } from 'vitest'
import { loudnessOf } from '../../core/hearing/loudness'
import { RATE } from '../../core/time'
import { MediaStore } from '../media/store'
import { run } from './make'

it('how loud a rendition is is kept beside it, as it is of what was recorded: the last look hears both', () => {
  const media = mkdtempSync(join(tmpdir(), 'rendition-'))
  onTestFinished(() => rmSync(media, { recursive: true, force: true }))
  const store = new MediaStore(media)
  const sound = 'quay.softer'
  mkdirSync(dirname(store.channel(sound, 0)), { recursive: true })
  // 997 Hz at -20 dBFS in one channel is -23 LUFS (EBU Tech 3341)
  const tone = Float32Array.from({ length: 6 * RATE }, (_, i) => 0.1 * Math.sin((2 * Math.PI * 997 * i) / RATE))
  writeFileSync(`${store.channel(sound, 0)}.new`, new Uint8Array(tone.buffer))
  run({ media, sound, channels: [0], frames: tone.length, unfinished: '.new', tone: false })
  const kept = readFileSync(store.loudness(sound, 0))
  const powers = new Float32Array(kept.buffer.slice(kept.byteOffset, kept.byteOffset + kept.length))
  expect(powers).toHaveLength(60)
  expect(loudnessOf(Float64Array.from(powers)).integrated).toBeCloseTo(-23, 1)
  expect(store.loudness(sound, 0)).not.toBe(store.loudness('quay', 0))
})
