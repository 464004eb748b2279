import { expect, it } from 'vitest'
import { gainTo } from './oneLevel'

it.each([
  ['what is soft is turned up', { integrated: -30, truePeak: -14 }, 7],
  ['what is loud is turned down, peaks or not', { integrated: -16, truePeak: 0.5 }, -7],
  ['never so far that its peaks go over', { integrated: -28, truePeak: -3 }, 2],
  ['nor turned down because they do already', { integrated: -28, truePeak: 0 }, 0],
  ['nor by more than 12 dB', { integrated: -50, truePeak: -40 }, 12],
  ['silence stays silence', { integrated: -120, truePeak: -120 }, 0],
])('clips at one level: %s', (_what, loudness, gain) => expect(gainTo(-23, loudness)).toBe(gain))
