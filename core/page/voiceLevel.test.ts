import { expect, it } from 'vitest'
import { voiceGain } from './voiceLevel'

it('brings a voice to the level of all, to a tenth of a dB, and brings up no silence', () => {
  expect(voiceGain(-19.74, -23)).toBe(-3.3)
  expect(voiceGain(-30.02, -23)).toBe(7)
  expect([voiceGain(-90, -23), voiceGain(30, -23)]).toEqual([24, -40])
})
