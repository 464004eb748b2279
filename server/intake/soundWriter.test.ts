import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { Levels } from '../../core/hearing/levels'
import { PEAK_LEVELS, PER_BIN } from '../../core/sound/peaks'
import { hearHum, makeTone, MADE_TONE } from './roomTone'
import { PeakWriter, SoundWriter } from './soundWriter'

const folder = mkdtempSync(join(tmpdir(), 'plain-cut-writer-'))
afterAll(() => rmSync(folder, { recursive: true }))
const floats = (name: string) => {
  const bytes = readFileSync(join(folder, name))
  return new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length))
}
const wave = (length: number, height: number, frequency: number) =>
  Float32Array.from({ length }, (_, i) => height * Math.sin((2 * Math.PI * frequency * i) / 48_000))

describe('a tape’s sound on disk', () => {
  const [left, right] = [wave(100_000, 0.5, 220), wave(100_000, 0.25, 331)]
  const write = (writer: SoundWriter, from: number, to: number) => writer.add([left.slice(from, to), right.slice(from, to)])

  it('is a channel a file with peaks beside it, which can be shown while it grows', () => {
    const writer = new SoundWriter(folder, 2)
    write(writer, 0, 40_000)
    const peaks = new PeakWriter(folder, 2)
    const heard = [new Levels(), new Levels()]
    const hear = (from: number, to: number) => {
      heard[0].add(left.subarray(from, to))
      heard[1].add(right.subarray(from, to))
      peaks.add(heard.map((levels) => levels.peaks.take()))
    }
    hear(0, 40_000)
    expect(statSync(join(folder, 'peaks-1-0.i16')).size).toBe(Math.floor(40_000 / PEAK_LEVELS[0]) * PER_BIN * 2)
    write(writer, 40_000, 100_000)
    hear(40_000, 100_000)
    writer.finish()
    heard.forEach((levels) => levels.finish())
    peaks.add(heard.map((levels) => levels.peaks.take()))
    peaks.finish()
    expect(writer.frames).toBe(100_000)
    expect(floats('sound-0.f32')).toEqual(left)
    expect(floats('sound-1.f32')).toEqual(right)
    const whole = new Levels()
    whole.add(right)
    whole.finish()
    whole.peaks.take().forEach((level, i) => expect(readFileSync(join(folder, `peaks-1-${i}.i16`))).toEqual(Buffer.from(level.buffer)))
  })

  it('is written over by another go, and ends where that one ends', () => {
    writeFileSync(join(folder, 'sound-0.f32'), Buffer.alloc(900_000, 7))
    const writer = new SoundWriter(folder, 2)
    write(writer, 0, 50_000)
    writer.finish()
    expect(floats('sound-0.f32')).toEqual(left.slice(0, 50_000))
  })

  it('without quiet gets a tone a channel, and hum is heard in its quiet', () => {
    const writer = new SoundWriter(folder, 2)
    const humming = Float32Array.from(
      { length: 240_000 },
      (_, i) =>
        [1, 2, 3].reduce((sum, k) => sum + (0.004 / k) * Math.sin((2 * Math.PI * 50 * k * i) / 48_000), 0) +
        0.0004 * Math.sin(i * i * 0.37),
    )
    writer.add([humming.map((x) => x / 4), humming])
    writer.finish()
    for (const c of [0, 1]) makeTone(join(folder, `sound-${c}.f32`), join(folder, `tone-${c}.f32`), c)
    expect(statSync(join(folder, 'tone-1.f32')).size).toBe(MADE_TONE * 4)
    expect(floats('tone-1.f32').some((sample) => sample !== 0)).toBe(true)
    const hum = hearHum(folder, 2, [{ from: 0, to: 240_000 }])!
    expect(hum.frequency).toBe(50)
    // of the louder channel
    expect(Math.abs(hum.level - 10 * Math.log10([1, 2, 3].reduce((sum, k) => sum + (0.004 / k) ** 2 / 2, 0)))).toBeLessThan(1)
    expect(hearHum(folder, 2, [])).toBeNull()
  })
})
