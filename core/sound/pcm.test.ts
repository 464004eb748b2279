import { describe, expect, it } from 'vitest'
import { readable, readSamples, type Shape } from './pcm'

const shape = (sampleBytes: number, float = false, channels = 1): Shape => ({ channels, float, plain: true, sampleBytes })
const samplesOf = (bytes: Uint8Array, of: Shape) => {
  const out = Array.from({ length: of.channels }, () => new Float32Array(bytes.length / of.sampleBytes / of.channels))
  readSamples(bytes, of, out)
  return out
}
const whole = (values: number[], size: number) => {
  const out = Buffer.alloc(values.length * size)
  values.forEach((value, i) => out.writeIntLE(value, i * size, size))
  return out
}

describe('plain samples', () => {
  it('of every width are shares of full scale', () => {
    expect([...samplesOf(Uint8Array.of(0, 64, 128, 255), shape(1))[0]]).toEqual([-1, -0.5, 0, 127 / 128])
    for (const size of [2, 3, 4]) {
      const full = 2 ** (size * 8 - 1)
      expect([...samplesOf(whole([-full, -full / 2, 0, full / 4, full - full / 128], size), shape(size))[0]]).toEqual([
        -1,
        -0.5,
        0,
        0.25,
        1 - 1 / 128,
      ])
    }
  })
  it('of float are kept, above full scale too, and what is no number is silence', () => {
    const floats = Float32Array.of(1.5, -2, NaN, Infinity, 0.25)
    expect([...samplesOf(new Uint8Array(floats.buffer), shape(4, true))[0]]).toEqual([1.5, -2, 0, 0, 0.25])
    expect([...samplesOf(new Uint8Array(Float64Array.of(0.5, -Infinity).buffer), shape(8, true))[0]]).toEqual([0.5, 0])
  })
  it('are read from wherever they lie, straight or not', () => {
    const all = whole([9, 8, 16_384, -16_384], 2)
    const part = all.subarray(4)
    const [samples] = samplesOf(part, shape(2))
    expect([...samples]).toEqual([0.5, -0.5])
    const floats = Buffer.from(Float32Array.of(1, 2, 3).buffer)
    expect([...samplesOf(floats.subarray(4), shape(4, true))[0]]).toEqual([2, 3])
    const askew = Buffer.concat([Buffer.from([7]), whole([8192], 2)]).subarray(1)
    expect([...samplesOf(askew, shape(2))[0]]).toEqual([0.25])
  })
  it('are told apart by channel', () => {
    const [left, right] = samplesOf(
      whole(
        [1, 2, 3, 4].map((n) => n * 4096),
        2,
      ),
      shape(2, false, 2),
    )
    expect([...left]).toEqual([1 / 8, 3 / 8])
    expect([...right]).toEqual([2 / 8, 4 / 8])
  })
  it('are readable where they are plain', () => {
    expect([1, 2, 3, 4].map((size) => readable(shape(size)))).toEqual([true, true, true, true])
    expect([
      readable(shape(4, true)),
      readable(shape(8, true)),
      readable(shape(2, true)),
      readable(shape(8)),
      readable({ ...shape(2), plain: false }),
    ]).toEqual([true, true, false, false, false])
  })
})
