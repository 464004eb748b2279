import { memo, useMemo } from 'react'
import { firstWordAfter, type Word } from '../../core/tape/words'
import type { FinderName } from '../../core/tidy/finder'
import { FINDER_KINDS } from './kinds'
import type { Kind, Place } from './useKinds'

/** Of these each speaker's share is told, so that all guests are treated alike. */
const TOLD: readonly FinderName[] = ['pauses', 'fillers']

type Counts = Partial<Record<FinderName, { gone: number; all: number }>>

/** How much of each speaker's pauses and fillers went; nothing where one speaks alone. */
export const BySpeaker = memo(function BySpeaker({
  kinds,
  wordsOf,
}: {
  kinds: readonly Kind[]
  wordsOf: (tape: string) => readonly Word[]
}) {
  const speakers = useMemo(() => countsOf(kinds, wordsOf), [kinds, wordsOf])
  if (speakers.length < 2) return null
  return (
    <table className="mt-4 w-full text-[12px] text-soft" data-testid="tidy-speakers">
      <caption className="pb-1 text-left text-faint">Gone so far</caption>
      <tbody>
        {speakers.map(([speaker, counts]) => (
          <tr key={speaker} className="border-t border-rule">
            <th scope="row" className="truncate py-1 pr-2 text-left font-normal text-ink">
              {speaker}
            </th>
            {TOLD.map((name) => (
              <td key={name} className="py-1 text-right">
                {counts[name] ? `${counts[name].gone} of ${counts[name].all} ${FINDER_KINDS[name].title.toLowerCase()}` : ''}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  )
})

function countsOf(kinds: readonly Kind[], wordsOf: (tape: string) => readonly Word[]): [speaker: string, Counts][] {
  const bySpeaker = new Map<string, Counts>()
  for (const { name, places } of kinds) {
    if (!TOLD.includes(name)) continue
    for (const place of places) {
      const speaker = speakerOf(place, wordsOf(place.tape))
      if (!speaker) continue
      const counts = bySpeaker.get(speaker) ?? {}
      const count = (counts[name] ??= { gone: 0, all: 0 })
      count.all++
      if (place.decided && place.decided.decision!.is !== 'dismissed') count.gone++
      bySpeaker.set(speaker, counts)
    }
  }
  return [...bySpeaker].sort(([a], [b]) => a.localeCompare(b))
}

/** Who says it; of a pause, who spoke before it. */
export function speakerOf({ speaker, from, to }: Place, words: readonly Word[]): string | undefined {
  if (speaker) return speaker
  const at = firstWordAfter(words, from)
  const word = words[at] && words[at].from < to ? words[at] : (words[at - 1] ?? words[at])
  return word?.speaker
}
