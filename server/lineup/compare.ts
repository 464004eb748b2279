import { parentPort } from 'node:worker_threads'
import type { Fit } from '../../contract/lineups'
import { changesOf } from '../../core/lineup/changes'
import { lineUp, type Onto } from '../../core/lineup/lineUp'
import { mixedAmong } from '../../core/lineup/mixed'
import { clarity } from '../../core/lineup/turns'
import { LOOK } from '../../core/hearing/levels'
import type { Source } from '../../core/lineup/source'
import { MediaStore, SoundFiles } from '../media/store'
import { keepLooks, onOneClock } from './looksInStep'
import { mixOf, type TapeSound } from './sources'

/** Finds how several tapes lie on the first one's clock, in a thread of its own. */
export interface CompareOrder {
  /** With how many sides each of them has. */
  tapes: (TapeSound & { sides: number })[]
  media: string
  /** Where the looks of all of them are kept, on the first one's clock. */
  looks: string
}

export type CompareReport = { progress: number } | { fits: Fit[] }

const say = (report: CompareReport) => parentPort!.postMessage(report)

/** Mean square of each look of a sound. */
function looksOf({ frames, read }: Source): Float32Array {
  const looks = new Float32Array(Math.floor(frames / LOOK))
  for (let i = 0; i < looks.length; i++) looks[i] = meanSquare(read(i * LOOK, (i + 1) * LOOK))
  return looks
}

function meanSquare(sound: Float32Array): number {
  let power = 0
  for (let i = 0; i < sound.length; i++) power += sound[i] * sound[i]
  return power / sound.length
}

const onto = (outer: Onto, inner: Onto): Onto => ({
  offset: outer.offset + inner.offset * (1 + outer.drift),
  drift: (1 + outer.drift) * (1 + inner.drift) - 1,
})

/** What the thread does. */
export function run({ tapes, media, looks: path }: CompareOrder): void {
  const files = new SoundFiles(new MediaStore(media))
  const sources = tapes.map((tape) => mixOf(files, tape))
  let steps = 0
  const step = () => say({ progress: Math.min(0.99, ++steps / (2 * tapes.length)) })
  const changes = sources.map((source) => {
    const found = changesOf(source)
    step()
    return found
  })
  const looks = sources.map(looksOf)
  const none: Omit<Fit, 'tape' | 'clarity' | 'mixed'> = {
    belongs: false,
    reason: '',
    offset: 0,
    drift: 0,
    compared: 0,
    agree: 0,
    spread: 0,
  }
  const fits = tapes.map(({ id }, i): Fit => ({
    ...none,
    tape: id,
    clarity: Math.round(clarity(looks[i]) * 10) / 10,
    mixed: false,
    belongs: i === 0,
  }))
  // one that has nothing in common with the first may have with another that lies on it: two guests, each heard only in the call
  for (let placed = [0]; placed.length;) {
    const next: number[] = []
    for (const [i, fit] of fits.entries())
      for (const known of placed) {
        if (fit.belongs) break
        const found = lineUp(sources[known], sources[i], { first: changes[known], second: changes[i] })
        if (known === 0) step()
        if (found.belongs) {
          Object.assign(fit, { ...found, ...onto(fits[known], found.onto), onto: undefined, reason: '' })
          next.push(i)
        } else fit.reason ||= found.reason
      }
    placed = next
  }
  files.close()
  const inStep = onOneClock(looks, fits)
  keepLooks(path, inStep)
  const belonging = fits.flatMap((fit, i) => (fit.belongs ? [i] : []))
  // whose speakers have a side each is no mix, however many they are
  mixedAmong(belonging.map((i) => inStep[i])).forEach((mixed, k) => (fits[belonging[k]].mixed = mixed && tapes[belonging[k]].sides === 1))
  say({
    fits: fits.map(({ tape, belongs, reason, offset, drift, compared, agree, spread, clarity: clear, mixed }) => ({
      tape,
      belongs,
      reason,
      offset,
      drift,
      compared,
      agree,
      spread,
      clarity: clear,
      mixed,
    })),
  })
}
