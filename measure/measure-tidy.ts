import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { speak } from '../demo/speech'
import { requirePackages } from '../scripts/machine'
import type { Word } from '../core/tape/words'
import { FINDERS } from '../core/tidy/finders'
import { FINDER_NAMES } from '../core/tidy/finder'
import { RATE, toFrames } from '../core/time'
import { festivalSays, FESTIVAL_VOICES } from './festival'
import { percentile, report } from './figure'
import { VOICES } from './spoken'
import type { HeardSide } from '../core/tidy/listen/side'
import { MediaStore } from '../server/media/store'
import { runThread } from '../server/thread'
import type { ListenToSideOrder, ListenToSideReport } from '../server/tidy/listenToSide'
import { looked, TidyScores } from './tidyScores'
import { tidyTape, type Say, type TidyTape } from './tidyTape'
import { byEdges, Score, silences, tidyTapeFromOutside } from './tidyTruth'

/**
 * What finders find, on tapes that say where everything is (`tidyTape.ts`), made with seeds that nothing was tuned on, with
 * five voices of flite and festival: once clean, once in noise at 20 dB in a room; or on a tape from outside.
 */

requirePackages('flite', 'festival', 'festvox-kallpc16k', 'festvox-us-slt-hts')
const SEED = 901
const MINUTES = 2
const ROOMS = [
  { noise: 60, room: 0 },
  { noise: 20, room: 0.25 },
]
const SAYS: readonly Say[] = [
  ...VOICES.map(
    (voice): Say =>
      (text, slower = 1) =>
        speak({ ...voice, stretch: voice.stretch * slower }, text),
  ),
  ...FESTIVAL_VOICES.map((voice) => festivalSays(voice)),
]

const outside = tidyTapeFromOutside()
const tapes: TidyTape[] = outside
  ? [outside]
  : SAYS.flatMap((say, v) => ROOMS.map((room, r) => tidyTape({ say, seed: SEED * 100 + 10 * v + r, minutes: MINUTES, ...room })))
const scores = new TidyScores()
for (const tape of tapes) scores.add(tape)

/** At how long a silence is a pause, and below which level: of all settings of theirs the best one counts. */
const SHORTEST = [0.6, 0.7, 0.8, 0.9, 1]
const best = Math.max(
  ...[-70, -60, -55, -50, -45, -40].flatMap((dB) => {
    const theirs = tapes.map(({ sound }) => silences(sound, dB, SHORTEST[0]))
    return SHORTEST.map((seconds) => {
      const score = new Score(byEdges)
      tapes.forEach(({ truth }, i) =>
        score.add(
          theirs[i].filter(({ from, to }) => to - from >= toFrames(seconds)),
          truth.pauses,
        ),
      )
      return score.f1
    })
  }),
)
const spread = (values: readonly number[]): number => percentile(values, 0.75) - percentile(values, 0.25)
const figure = (name: string, value: number, unit: string) => report({ measure: 'tidy', name: `tidy.${name}`, value, unit })
const f1 = (name: string, score: Score, more = '') => figure(name, score.f1, `F1${more}: ${score.counts}`)

f1('pause', scores.pauses, ' with true words')
report({
  measure: 'tidy',
  name: 'tidy.pause.wave',
  value: scores.wave.f1,
  unit: `F1 from the sound alone: ${scores.wave.counts}`,
  peer: 'silencedetect',
  peerValue: best,
})
figure('pause.vs', scores.pauses.f1 - best, 'F1 over silencedetect at its best setting')
f1('filler.words', scores.fillers, ' with true words')
f1('filler.sound', scores.fillerSound, ' from the sound alone')
f1('stumble', scores.stumbles)
f1('retake', scores.retakes)
f1('breath', scores.breaths)
f1('click', scores.clicks)
f1('pop', scores.pops)
f1('loud', scores.loud)
f1('soft', scores.soft)
f1('hole', scores.holes)
const off = [scores.wave, scores.fillerSound, scores.clicks, scores.holes].flatMap((score) => score.off)
figure('edge', percentile(off, 0.5) / (RATE / 1000), 'ms, median, of what is found by sound')
figure('kept', scores.kept / scores.words, `of ${scores.words} words untouched by 10 ms or more after all is applied`)
figure('audible', scores.audible / Math.max(1, scores.applied), `of ${scores.applied} applied joins predicted audible`)
figure('open', scores.leftOpen / Math.max(1, scores.applied + scores.leftOpen), 'of all joins left open, since they would be audible')
figure('cadence', spread(scores.left) / spread(scores.own), 'spread of shortened pauses over that of the speaker’s own')

// an hour, of one tape after the other
const hour = 3600 * RATE
const words: Word[] = []
const long = new Float32Array(hour)
for (let at = 0, i = 0; at < hour; i++) {
  const tape = tapes[i % tapes.length]
  long.set(tape.sound.subarray(0, hour - at), at)
  for (const word of tape.words) if (at + word.to < hour) words.push({ ...word, from: at + word.from, to: at + word.to })
  at += tape.sound.length
}
const media = mkdtempSync(join(tmpdir(), 'tidy-'))
const store = new MediaStore(media)
mkdirSync(store.tape('hour'), { recursive: true })
writeFileSync(store.channel('hour', 0), new Uint8Array(long.buffer))
const began = performance.now()
const parts: object[] = []
await Promise.all(
  (['voices', 'spots'] as const).map((to) => {
    const order: ListenToSideOrder = { media, tape: 'hour', channels: [0], frames: hour, to }
    return runThread<ListenToSideReport>('listenToSide', order, (report) => {
      if ('heard' in report) parts.push(report.heard)
    })
  }),
)
rmSync(media, { recursive: true })
const listened = performance.now()
const of = looked(words, Object.assign({}, ...parts) as HeardSide, hour)
const ready = FINDER_NAMES.map((name) => FINDERS[name](of))
for (const one of ready) one.find(one.setting?.usual ?? 0)
const took = (performance.now() - began) / 1000
figure('hour', took, `s, all finders on both cores, ${words.length} words; ${((listened - began) / 1000).toFixed(1)} s of it listening`)
