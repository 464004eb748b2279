import { Levels } from '../core/hearing/levels'
import { speechOf } from '../core/hearing/speech'
import { VoiceFeatures } from '../core/speakers/features'
import { tellApart } from '../core/speakers/tellApart'
import { RATE, toFrames } from '../core/time'
import { requirePackages } from '../scripts/machine'
import { conversation, heardBy, speakers } from './conversation'
import { report } from './figure'

/**
 * How well two and three voices on one channel are told apart. The voices are synthetic (flite); each of them sits
 * somewhere else in one room.
 */

requirePackages('flite')
const measure = 'speakers'
const voices = speakers(3)
const STEP = RATE / 100

/** Which of the truth's voices is each of the found ones, so that most is right. */
function assigned(counts: readonly (readonly number[])[]): number {
  const best = (found: number, taken: ReadonlySet<number>): number => {
    if (found === counts.length) return 0
    let most = best(found + 1, taken)
    counts[found].forEach((count, truth) => {
      if (!taken.has(truth)) most = Math.max(most, count + best(found + 1, new Set([...taken, truth])))
    })
    return most
  }
  return best(0, new Set())
}

let wrong = 0
let all = 0
let counted = 0
const CASES = [
  [0, 1],
  [1, 2],
  [0, 2],
  [3, 4],
  [0, 1, 2],
  [0, 2, 3],
  [1, 4, 5],
  [0, 3, 1],
]
for (const [i, who] of CASES.entries()) {
  const tracks = conversation(
    who.map((one) => voices[one]),
    toFrames(150),
    300 + i,
    i * 5,
  )
  const sound = heardBy(tracks, {
    heard: who.map((_, k) => ({ metres: 0.4 + 0.3 * k, level: -2 * k })),
    decay: 0.3,
    wet: 0.4,
    noise: 25,
    hum: 0,
    phone: false,
    seed: 40 + i,
    noiseSeed: 70 + i,
  })
  const features = new VoiceFeatures()
  features.add(sound)
  const levels = new Levels()
  levels.add(sound)
  levels.finish()
  const began = performance.now()
  const turns = tellApart(features.finish(), speechOf(levels).speech)
  const took = performance.now() - began
  const found = Math.max(0, ...turns.map(({ voice }) => voice + 1))
  const counts = Array.from({ length: found }, () => who.map(() => 0))
  let speech = 0
  for (let at = 0; at + STEP <= sound.length; at += STEP) {
    const power = tracks.map((track) => track.subarray(at, at + STEP).reduce((sum, sample) => sum + sample * sample, 0) / STEP)
    // where two speak at once either is right: neither is counted
    const speaking = power.flatMap((value, k) => (value > 1e-5 ? [k] : []))
    if (speaking.length !== 1) continue
    speech++
    const turn = turns.find(({ from, to }) => from <= at && to > at)
    if (turn) counts[turn.voice][speaking[0]]++
  }
  const right = assigned(counts)
  if (found === who.length) counted++
  wrong += speech - right
  all += speech
  console.log(`// ${who.length} voices, ${found} found, ${((100 * (speech - right)) / speech).toFixed(1)} % wrong, ${took.toFixed(0)} ms`)
}
report({ measure, name: 'speakers.error', value: wrong / all, unit: 'of speech time, synthetic voices' })
report({ measure, name: 'speakers.counted', value: counted, unit: `of ${CASES.length} with the right number of voices` })
