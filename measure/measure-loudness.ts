import { Ear } from '../core/hearing/ear'
import { Levels } from '../core/hearing/levels'
import { loudnessOf, lufs, shortTermOf, momentaryOf, together } from '../core/hearing/loudness'
import { RATE } from '../core/time'
import { report } from './figure'

/**
 * Meters against signals whose reading follows from how they were made: tones whose loudness is
 * their level by the definition of LUFS (a stereo 997 Hz tone of -23 dBFS reads -23 LUFS), in the
 * stretches that EBU Tech 3341 and 3342 give, and tones whose true peak is their own height.
 */

type Stretch = [seconds: number, level: number]

function tone(stretches: readonly Stretch[], frequency = 1000, phase = 0, fade = 0): Float32Array {
  const out = new Float32Array(stretches.reduce((sum, [seconds]) => sum + Math.round(seconds * RATE), 0))
  let at = 0
  for (const [seconds, level] of stretches) {
    const height = 10 ** (level / 20)
    for (const end = at + Math.round(seconds * RATE); at < end; at++)
      out[at] = height * Math.sin((2 * Math.PI * frequency * at) / RATE + phase)
  }
  for (let i = 0; i < fade; i++) {
    out[i] *= i / fade
    out[out.length - 1 - i] *= i / fade
  }
  return out
}

function powersOf(channels: readonly Float32Array[], factors?: readonly number[]): Float64Array {
  return together(
    channels.map((samples) => {
      const meter = new Levels()
      for (let at = 0; at < samples.length; at += 4801) meter.add(samples.subarray(at, at + 4801))
      return meter.powers
    }),
    factors,
  )
}
const stereo = (stretches: readonly Stretch[]) => {
  const samples = tone(stretches)
  return powersOf([samples, samples])
}

// integrated: the gates take out what they should, and nothing else
const integrated: [Stretch[], number][] = [
  [[[20, -23]], -23],
  [[[20, -33]], -33],
  [
    [
      [10, -36],
      [60, -23],
      [10, -36],
    ],
    -23,
  ],
  [
    [
      [10, -72],
      [10, -36],
      [60, -23],
      [10, -36],
      [10, -72],
    ],
    -23,
  ],
  [
    [
      [20, -26],
      [20.1, -20],
      [20, -26],
    ],
    -23,
  ],
  [[[30, -14]], -14],
  // into silence: 47 whole blocks, and three that hold three, two and one quarter of the tone
  [
    [
      [5, -23],
      [30, -120],
    ],
    -23 + 10 * Math.log10(48.5 / 50),
  ],
]
let worst = 0
for (const [stretches, wanted] of integrated) worst = Math.max(worst, Math.abs(loudnessOf(stereo(stretches)).integrated - wanted))
// five channels, as the standard weighs them, and one alone
const five = powersOf(
  [-28, -28, -24, -30, -30].map((level) => tone([[20, level]])),
  [1, 1, 1, 1.41, 1.41],
)
worst = Math.max(worst, Math.abs(loudnessOf(five).integrated - -23))
const one = powersOf([tone([[20, -20]])])
worst = Math.max(worst, Math.abs(loudnessOf(one).integrated - -23.01))
report({ measure: 'loudness', name: 'loudness.integrated', value: worst, unit: 'LU, largest error' })

const ranges: [Stretch[], number][] = [
  [
    [
      [20, -20],
      [20, -30],
    ],
    10,
  ],
  [
    [
      [20, -20],
      [20, -15],
    ],
    5,
  ],
  [
    [
      [20, -40],
      [20, -20],
    ],
    20,
  ],
  [
    [
      [20, -50],
      [20, -35],
      [20, -20],
      [20, -35],
      [20, -50],
    ],
    15,
  ],
]
worst = 0
for (const [stretches, wanted] of ranges) worst = Math.max(worst, Math.abs(loudnessOf(stereo(stretches)).range - wanted))
report({ measure: 'loudness', name: 'loudness.range', value: worst, unit: 'LU, largest error' })

worst = 0
for (const wanted of [-23, -33]) {
  const powers = stereo([[6, wanted]])
  for (const power of shortTermOf(powers)) worst = Math.max(worst, Math.abs(lufs(power) - wanted))
  for (const power of momentaryOf(powers)) worst = Math.max(worst, Math.abs(lufs(power) - wanted))
}
report({ measure: 'loudness', name: 'loudness.shortTerm', value: worst, unit: 'LU, largest error' })

// true peak: tones that are at no sample as high as they are between them
worst = 0
for (const level of [-6, -0.5, 3])
  for (const frequency of [60, 997, RATE / 12, RATE / 8, RATE / 6, 9973, RATE / 4])
    for (let phase = 0; phase < 180; phase += 15) {
      const ear = new Ear(1, false)
      ear.add([tone([[0.4, level]], frequency, (phase / 180) * Math.PI, 4000)])
      worst = Math.max(worst, Math.abs(ear.finish().channels[0].truePeak - level))
    }
report({ measure: 'loudness', name: 'loudness.peak', value: worst, unit: 'dB, largest error' })
