import { expect, test } from 'vitest'
import { ClipMixer } from './clipMixer'

const ramp = (length: number) => Float32Array.from({ length }, (_, i) => i + 1)
/** So many frames of the left, in blocks of 128. */
function heard(mixer: ClipMixer, frames: number): number[] {
  const out: number[] = []
  while (out.length < frames) {
    const block = [new Float32Array(128), new Float32Array(128)]
    mixer.add(block)
    out.push(...block[0])
  }
  return out.slice(0, frames)
}

test('what is played goes out as it is, and is over at its end', () => {
  const mixer = new ClipMixer()
  mixer.begin(1, [ramp(200)])
  expect(heard(mixer, 300)).toEqual([...ramp(200), ...Array.from({ length: 100 }, () => 0)])
  expect(mixer.playing).toEqual([])
})

test.each([128, 200, 256, 1000])('a loop of %i frames goes on without a gap, wherever its end falls in a block', (length) => {
  const mixer = new ClipMixer()
  mixer.begin(1, [ramp(length)], { loop: true })
  const out = heard(mixer, 5 * length)
  expect(out).toEqual(Array.from({ length: 5 * length }, (_, i) => (i % length) + 1))
  // let go of, it plays to its end
  mixer.setLoop(1, false)
  heard(mixer, length + 128)
  expect(mixer.playing).toEqual([])
})

test('what is stopped fades and says how much of it was heard', () => {
  const mixer = new ClipMixer()
  mixer.begin(1, [new Float32Array(1000).fill(1)])
  heard(mixer, 128)
  mixer.stop(1, 64)
  const block = [new Float32Array(128)]
  expect(mixer.add(block)).toEqual([{ run: 1, stopped: true, heard: 192 }])
  expect([block[0][0], block[0][32], block[0][63], block[0][64]]).toEqual([1, 0.5, expect.closeTo(1 / 64), 0])
})

test('two are added up, and each tells of its first sample that is not zero', () => {
  const began: number[] = []
  const mixer = new ClipMixer((run) => began.push(run))
  mixer.begin(1, [new Float32Array(300).fill(0.25)])
  mixer.begin(2, [Float32Array.from({ length: 300 }, (_, i) => (i < 200 ? 0 : 0.5))])
  const out = heard(mixer, 128)
  expect([out[0], began]).toEqual([0.25, [1]])
  expect(heard(mixer, 128)[100]).toBe(0.75)
  expect(began).toEqual([1, 2])
})
