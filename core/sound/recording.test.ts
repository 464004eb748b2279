import { describe, expect, it } from 'vitest'
import { readWaveFile } from './waveFile'
import { readSamples } from './pcm'
import { recordingBytes, recordingHeader, RECORDED_HERE, zone } from './recording'

describe('a recording', () => {
  it('is a WAV file at any moment, which says when and by what it was made', () => {
    const left = Float32Array.from({ length: 100 }, (_, i) => i / 100)
    const right = left.map((x) => 1.5 - x)
    const header = recordingHeader(2, 48_000, 'Kitchen, second take', new Date(2026, 10, 24, 17, 5, 9))
    const body = recordingBytes([left, right])
    const file = new Uint8Array(header.length + body.length)
    file.set(header)
    file.set(body, header.length)
    const wave = readWaveFile((from, to) => file.subarray(from, to), file.length)!
    expect(wave).toMatchObject({
      channels: 2,
      rate: 48_000,
      float: true,
      plain: true,
      sampleBytes: 4,
      says: Infinity,
      unfinished: true,
      dataFrom: header.length,
      dataTo: file.length,
    })
    expect(wave.origin).toMatchObject({
      description: 'Kitchen, second take',
      originator: RECORDED_HERE,
      date: '2026-11-24',
      time: '17:05:09',
    })
    const out = [new Float32Array(100), new Float32Array(100)]
    readSamples(file.slice(wave.dataFrom), wave, out)
    expect(out).toEqual([left, right])
  })
  it('is too low, good, or too hot', () => expect([-80, -45, -18, -3, 0].map(zone)).toEqual(['silent', 'low', 'good', 'hot', 'over']))
})
