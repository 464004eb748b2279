import type { Stretch } from '../time'
import { onSides, saidOver, speakerAt } from './bySound'
import { turned } from './dip'
import type { Finder, Looked } from './finder'
import type { Breath } from './listen/breaths'
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
  return { setting: { unit: 'dB', least: -12, most: 12, step: 0.5, usual: 0 }, find: (over) => all.filter((one) => one.over > over) }
}

/** What hisses within a word is no breath. */
const isConsonant = (looked: Looked, breath: Stretch): boolean => WITHIN_WORDS * saidOver(looked, breath) > breath.to - breath.from

/** The softest breath that is heard stands no further above the room than this, in dB: softer ones were lost in it. */
const NEAR_ROOM = 3

/** The median level of each speaker's breaths on each side, dBFS. */
function usualLevels(looked: Looked): (side: number, speaker: string | undefined) => number {
  const heard = new Map<string, Breath[]>()
  const keyOf = (side: number, speaker: string | undefined) => `${side}/${speaker ?? ''}`
  looked.heard?.forEach((side, i) => {
    for (const breath of side.breaths) {
      if (isConsonant(looked, breath)) continue
      const key = keyOf(i, speakerAt(looked, breath))
      heard.set(key, [...(heard.get(key) ?? []), breath])
    }
  })
  const medians = new Map([...heard].map(([key, some]) => [key, middleOf(some)]))
  return (side, speaker) => medians.get(keyOf(side, speaker)) ?? -Infinity
}

/** The median level of all breaths. Where the room hides some, it lies below that of those that are heard: by one of them at least. */
function middleOf(breaths: readonly Breath[]): number {
  const levels = breaths.map(({ level }) => level).sort((a, b) => a - b)
  const hidden = breaths.some(({ over = Infinity }) => over < NEAR_ROOM)
  const middle = (levels.length - 1) >> 1
  return levels[hidden ? Math.max(0, middle - 1) : middle]
}
