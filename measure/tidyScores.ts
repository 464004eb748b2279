import { NO_RULES, phrasesIn } from '../core/tidy/rules'
import { judgeCut, placeCut, soundAround, type CutOrder, type Heard } from '../core/cuts/cut'
import type { Word } from '../core/tape/words'
import { SpotListener, VoiceListener, type HeardSide } from '../core/tidy/listen/side'
import { FINDERS } from '../core/tidy/finders'
import type { FinderName, Found, Looked } from '../core/tidy/finder'
import { AUDIBLE, bestOf, isPause, waysOut, type Outlook } from '../core/tidy/outlook'
import { milliseconds, RATE, toFrames, type Stretch } from '../core/time'
import { NATURAL, type TidyTape } from './tidyTape'
import { byEdges, byOverlap, Score } from './tidyTruth'

/** What finders find on one tape after the other, held against its truth. */

export const listenTo = (sound: Float32Array): HeardSide => {
  const [voices, spots] = [new VoiceListener(), new SpotListener()]
  for (let from = 0; from < sound.length; from += RATE)
    for (const listener of [voices, spots]) listener.add(sound.subarray(from, Math.min(sound.length, from + RATE)))
  return { ...voices.finish(), ...spots.finish() }
}

export const looked = (words: readonly Word[], heard: HeardSide | null, frames: number): Looked => ({
  tape: 'made',
  frames,
  words,
  speech: [],
  language: 'en',
  phrases: phrasesIn(NO_RULES, 'en'),
  sides: [''],
  heard: heard && [heard],
})

/** What a finder finds at the setting that it has of itself. */
export function find(name: FinderName, of: Looked): Found[] {
  const ready = FINDERS[name](of)
  return ready.find(ready.setting?.usual ?? 0)
}

export class TidyScores {
  readonly pauses = new Score(byEdges)
  readonly fillers = new Score(byEdges)
  readonly stumbles = new Score(byEdges)
  readonly retakes = new Score(byEdges)
  readonly clicks = new Score(byEdges)
  readonly holes = new Score(byEdges)
  readonly breaths = new Score(byOverlap)
  readonly pops = new Score(byOverlap)
  readonly loud = new Score(byOverlap)
  readonly soft = new Score(byOverlap)
  /** From the sound alone. */
  readonly wave = new Score(byEdges)
  readonly fillerSound = new Score(byEdges)
  /** Joins that are applied, and what is expected of them. */
  applied = 0
  audible = 0
  leftOpen = 0
  /** Words that nothing was to happen to, and those of them that nothing did. */
  words = 0
  kept = 0
  /** Lengths that pauses are left at, and those that speakers leave by themselves, in frames. */
  readonly left: number[] = []
  readonly own: number[] = []

  add({ sound, words, truth }: TidyTape): void {
    const heard = listenTo(sound)
    const of = looked(words, heard, sound.length)
    for (const kind of ['retakes', 'clicks', 'holes', 'breaths', 'pops', 'loud', 'soft'] as const)
      this[kind].add(find(kind, of), truth[kind])
    const found = { pauses: find('pauses', of), fillers: find('fillers', of), stumbles: find('stumbles', of) }
    for (const kind of ['pauses', 'fillers', 'stumbles'] as const) this[kind].add(found[kind], truth[kind])
    const wordless = looked([], heard, sound.length)
    this.wave.add(find('pauses', wordless), truth.pauses)
    this.fillerSound.add(find('fillers', wordless), truth.fillers)
    const cuts = this.apply(sound, words, [...found.pauses, ...found.fillers, ...found.stumbles])
    this.count(words, [...truth.fillers, ...truth.stumbles], cuts)
    for (const { from, to, proposes } of found.pauses)
      if ('goes' in proposes) this.left.push(to - from - (proposes.goes.to - proposes.goes.from))
    for (const [i, word] of words.slice(1).entries()) {
      const gap = word.from - words[i].to
      if (gap >= toFrames(0.12) && gap < toFrames(NATURAL)) this.own.push(gap)
    }
  }

  /** What goes once all is applied as the application does it: each where it is heard least, and what is likely audible left open. */
  private apply(sound: Float32Array, words: readonly Word[], all: readonly Found[]): Stretch[] {
    const heardAt = (order: CutOrder, side: 'left' | 'right'): Heard => {
      const around = soundAround(order[side], sound.length)
      return { words, sound: sound.slice(around.from, around.to), start: around.from }
    }
    return all.flatMap((place): Stretch[] => {
      if (!('goes' in place.proposes)) return []
      const pause = isPause(place)
      const outlooks = waysOut(place, words, 'made', sound.length).map((order): Outlook => {
        const asked = { from: order.left.asked, to: order.right.asked }
        if (pause) return { ...judgeCut(order, heardAt(order, 'left'), heardAt(order, 'right')), goes: asked, room: 0 }
        const placed = placeCut(order, heardAt(order, 'left'), heardAt(order, 'right'))
        return { heard: placed.heard, why: placed.why, goes: { from: placed.left, to: placed.right }, room: placed.lacks }
      })
      const best = bestOf(outlooks)
      if (!best) return []
      if (best.heard >= AUDIBLE) {
        this.leftOpen++
        return []
      }
      this.applied++
      // as it lies then, judged anew
      const lies: CutOrder = {
        left: { tape: 'made', asked: best.goes.from, low: 1, high: best.goes.to },
        right: { tape: 'made', asked: best.goes.to, low: best.goes.from, high: sound.length - 1 },
      }
      if (judgeCut(lies, heardAt(lies, 'left'), heardAt(lies, 'right'), best.room).heard >= AUDIBLE) this.audible++
      return [best.goes]
    })
  }

  private count(words: readonly Word[], gone: readonly Stretch[], cuts: readonly Stretch[]): void {
    for (const word of words) {
      if (gone.some(({ from, to }) => word.from >= from && word.to <= to)) continue
      this.words++
      if (!cuts.some(({ from, to }) => Math.min(to, word.to) - Math.max(from, word.from) >= milliseconds(10))) this.kept++
    }
  }
}
