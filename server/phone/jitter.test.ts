import { describe, expect, it } from 'vitest'
import { encode, SAMPLES } from '../../core/sound/g711'
import { random } from '../../core/sound/random'
import { JitterBuffer, LINE_RATE, PATIENCE } from './jitter'

const PACKET = 160
const sound = Float32Array.from({ length: 100 * PACKET }, (_, i) => 0.5 * Math.sin((2 * Math.PI * 400 * i) / LINE_RATE))
const bytes = encode('PCMU', sound)
const heard = Int16Array.from(bytes, (byte) => SAMPLES.PCMU[byte])
const packets = Array.from({ length: 100 }, (_, i) => ({ at: i * PACKET, payload: bytes.subarray(i * PACKET, (i + 1) * PACKET) }))

/** All that comes out, when packets come in the given order, from a clock that begins anywhere. */
function through(order: typeof packets, begin = 0xffff_f000): Int16Array {
  const buffer = new JitterBuffer()
  const out: number[] = []
  order.forEach(({ at, payload }) => {
    buffer.add((begin + at) >>> 0, payload, 'PCMU')
    out.push(...buffer.take(0))
  })
  out.push(...buffer.rest())
  return Int16Array.from(out)
}

describe('one side of a call', () => {
  it('comes out as it was said, across the wrap of its clock', () => {
    expect(through(packets)).toEqual(heard)
  })

  it('is put in order, and what comes twice counts once', () => {
    const next = random(3)
    const [first, ...rest] = packets
    const crossed = rest
      .map((packet, i) => ({ packet, when: i + 4 * next() }))
      .sort((a, b) => a.when - b.when)
      .map(({ packet }) => packet)
    expect(through([first, ...crossed.flatMap((packet) => [packet, packet])])).toEqual(heard)
  })

  it('keeps its time where packets are lost, and covers the gap with what was heard', () => {
    const lossy = packets.filter((_, i) => i % 10 !== 5)
    const out = through(lossy)
    expect(out.length).toBe(heard.length)
    for (const { at } of lossy) expect(out.subarray(at, at + PACKET)).toEqual(heard.subarray(at, at + PACKET))
    const gap = out.subarray(5 * PACKET, 6 * PACKET)
    expect(Math.max(...gap)).toBeGreaterThan(8000)
  })

  it('that falls silent keeps step with the other, and dies away instead of droning', () => {
    const buffer = new JitterBuffer()
    packets.slice(0, 10).forEach(({ at, payload }) => buffer.add(at, payload, 'PCMU'))
    expect(buffer.take(0).length).toBe(10 * PACKET)
    const silence = buffer.take(LINE_RATE * 2)
    expect(silence.length).toBe(LINE_RATE * 2 - PATIENCE - 10 * PACKET)
    expect(Math.max(...silence.subarray(LINE_RATE / 2))).toBe(0)
  })

  it('goes on after a leap of its clock', () => {
    const leapt = packets.map(({ at, payload }, i) => ({ at: i < 50 ? at : at + 3_000_000, payload }))
    expect(through(leapt, 0).length).toBe(heard.length)
  })
})
