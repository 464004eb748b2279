import type { Stretch } from '../time'
import { median, onSides, saidOver, speakerAt } from './bySound'
import { turned } from './dip'
import type { Finder, Looked } from './finder'
import { othersSpeak } from './throughSides'

/** Breaths that are louder than this speaker's own usually are, turned down; never taken out. */

/** A breath goes down by this, in dB. */
const DOWN = -9
/** A third of it in words, and it belongs to them. */
const WITHIN_WORDS = 3

export const breaths: Finder = (looked) => {
  const usual = usualLevels(looked)
  const all = onSides(looked, (side, index) =>
    side.breaths
      .filter((breath) => !isConsonant(looked, breath))
      .map((breath) => {
        const { from, to, level } = breath
        return {
          from,
          to,
          over: level - usual(index, speakerAt(looked, breath)),
          proposes: { do: 'level' as const, points: turned(breath, DOWN) },
          sure: 0.9,
          ...(othersSpeak(looked, index, breath) ? { care: 'somebody else speaks there' as const } : {}),
        }
      }),
  )
  return { setting: { unit: 'dB', least: -12, most: 12, step: 0.5, usual: 0 }, find: (over) => all.filter((one) => one.over >= over) }
}

/** What hisses within a word is no breath. */
const isConsonant = (looked: Looked, breath: Stretch): boolean => WITHIN_WORDS * saidOver(looked, breath) > breath.to - breath.from

/** The median level of each speaker's breaths on each side, dBFS. */
function usualLevels(looked: Looked): (side: number, speaker: string | undefined) => number {
  const levels = new Map<string, number[]>()
  const keyOf = (side: number, speaker: string | undefined) => `${side}/${speaker ?? ''}`
  looked.heard?.forEach((side, i) => {
    for (const breath of side.breaths) {
      if (isConsonant(looked, breath)) continue
      const key = keyOf(i, speakerAt(looked, breath))
      levels.set(key, [...(levels.get(key) ?? []), breath.level])
    }
  })
  const medians = new Map([...levels].map(([key, some]) => [key, median(some)]))
  return (side, speaker) => medians.get(keyOf(side, speaker)) ?? -Infinity
}
