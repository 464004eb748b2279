import { expect, it } from 'vitest'
import { Ear } from '../hearing/ear'
import { ceiling } from './ceiling'
import { factor } from '../sound/level'
import type { Plan } from './plan'
import { random } from '../sound/random'
import { renderAll, renderer, type ReadSound } from './render'

const LENGTH = 20_000
const next = random(5)
/** Noise that is now and then far louder. */
const loud = Float32Array.from({ length: LENGTH }, (_, i) => (next() - 0.5) * (i % 3000 < 40 ? 2.4 : 0.4))
const read: ReadSound = (_, __, from, to) => {
  const out = new Float32Array(to - from)
  for (let i = Math.max(0, -from); i < out.length && from + i < LENGTH; i++) out[i] = loud[from + i]
  return out
}
const strip = { sound: 'a', channel: 0, pan: { left: 1, right: 1 } as const, at: 0, length: LENGTH, from: 0, gain: 1, ramps: [] }
const plan = (...dB: number[]): Plan => ({
  length: LENGTH,
  channels: 1,
  strips: [strip],
  stages: dB.map((one) => ({ kind: 'ceiling', dB: one })),
})
const peak = (sound: Float32Array) => sound.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0)

it('holds every sample at or below its level, and leaves what is far from a peak untouched', () => {
  const [out] = renderAll(plan(-6), read)
  expect(peak(loud)).toBeGreaterThan(1)
  expect(peak(out)).toBeLessThanOrEqual(factor(-6) + 1e-7)
  const { back, ahead } = ceiling(-6)
  for (let i = 0; i < LENGTH; i++) {
    const near = loud.subarray(Math.max(0, i - back), i + ahead + 1)
    if (peak(near) <= factor(-6)) expect(out[i]).toBe(loud[i])
  }
})

it.each([false, true])('catches one high sample wherever it lies, and what it does beside itself (between: %s)', (between) => {
  const { back, ahead, process } = ceiling(-6, between)
  const length = back + 400 + ahead
  for (let place = back; place < back + 400; place++) {
    const mix = new Float32Array(length)
    mix[place] = 0.9
    const out = new Float32Array(400)
    process([mix], [out])
    expect(out[place - back]).toBeLessThanOrEqual(factor(-6) + 1e-7)
    expect(out[place - back]).toBeGreaterThan(factor(-6) * 0.9)
  }
})

it('turns all channels down alike', () => {
  const { back, ahead, process } = ceiling(-6)
  const low = loud.map((sample) => sample / 4)
  const out = [0, 1].map(() => new Float32Array(LENGTH - back - ahead))
  process([loud, low], out)
  out[0].forEach((sample, i) => expect(out[1][i]).toBeCloseTo(sample / 4, 6))
})

it('gives the same frames from wherever it is begun, in blocks of whatever size, two of them too', () => {
  const two = plan(-6, -9)
  const [whole] = renderAll(two, read)
  const pulled = renderer(two, read)
  for (let run = 0; run < 60; run++) {
    const from = Math.floor(next() * LENGTH)
    const block = [new Float32Array(Math.min(LENGTH - from, 1 + Math.floor(next() * 900)))]
    pulled.pull(from, block)
    expect(block[0]).toEqual(whole.slice(from, from + block[0].length))
  }
})

it('says which frames of a sound it needs, with what its stages look back and ahead for', () => {
  const { back, ahead } = ceiling(-6)
  expect(renderer(plan(), read).needs(5000, 6000)).toEqual([{ sound: 'a', channel: 0, from: 5000, to: 6000 }])
  expect(renderer(plan(-6), read).needs(5000, 6000)).toEqual([{ sound: 'a', channel: 0, from: 5000 - back, to: 6000 + ahead }])
})

it('holds the wave between samples too, where it is asked to', () => {
  // the wave tops between the samples, where these are no higher than 0.7
  const sine = Float32Array.from({ length: 9600 }, (_, i) => Math.sin((Math.PI / 2) * i + Math.PI / 4))
  const readSine: ReadSound = (_, __, from, to) => {
    const out = new Float32Array(to - from)
    for (let i = 0; i < out.length; i++) out[i] = sine[from + i] ?? 0
    return out
  }
  const whole = (between?: true): Plan => ({
    length: 9600,
    channels: 1,
    strips: [{ ...strip, length: 9600 }],
    stages: [{ kind: 'ceiling', dB: -2, ...(between ? { between } : {}) }],
  })
  const truePeak = (sound: Float32Array) => {
    const ear = new Ear(1, false)
    ear.add([sound])
    return ear.finish().channels[0].truePeak
  }
  const middle = (sound: Float32Array) => sound.slice(2400, 7200)
  expect(truePeak(middle(renderAll(whole(), readSine)[0]))).toBeGreaterThan(-0.3)
  expect(truePeak(middle(renderAll(whole(true), readSine)[0]))).toBeLessThanOrEqual(-1.8)
})

it('gives the same true peaks from wherever it is begun', () => {
  const limited: Plan = { ...plan(), stages: [{ kind: 'ceiling', dB: -6, between: true }] }
  const [whole] = renderAll(limited, read)
  const pulled = renderer(limited, read)
  for (let run = 0; run < 40; run++) {
    const from = Math.floor(next() * LENGTH)
    const block = [new Float32Array(Math.min(LENGTH - from, 1 + Math.floor(next() * 900)))]
    pulled.pull(from, block)
    expect(block[0]).toEqual(whole.slice(from, from + block[0].length))
  }
})
