import { useEffect, useMemo, useState } from 'react'
import type { Actuality } from '../../../core/edits/actuality'
import type { FactsOf } from '../../../core/render/plan'
import type { Block, StoryStep } from '../../../core/page/story'
import { voiceGain } from '../../../core/page/voiceLevel'
import { loudnessOfPiece, middleOf } from '../../levels/voiceLoudness'

/** Neighbours that differ by more than this are said, in LU. */
export const APART = 3

interface OnPage {
  spine: readonly Block[]
  known: ReadonlyMap<string, Actuality>
  factsOf: FactsOf | undefined
  /** What all voices are brought to, in LUFS. */
  target: number
}

const sameMap = <K, V>(map: ReadonlyMap<K, V>, entries: readonly (readonly [K, V])[]): boolean =>
  map.size === new Set(entries.map(([key]) => key)).size && entries.every(([key, value]) => map.get(key) === value)

/** How loud each voice of a page is, in LUFS, and what brings them to one level. */
export function useVoiceLevels({ spine, known, factsOf, target }: OnPage) {
  const [measured, setMeasured] = useState<ReadonlyMap<Actuality, number>>(new Map())
  const pieces = useMemo(() => [...new Set(spine.flatMap(({ piece }) => (piece && known.get(piece)) || []))], [spine, known])
  useEffect(() => {
    if (!factsOf) return
    let stopped = false
    void Promise.all(
      pieces
        .filter((piece) => piece.spans.every(({ tape }) => factsOf(tape).frames > 0))
        .map(async (piece) => [piece, await loudnessOfPiece(piece, factsOf).catch(() => -Infinity)] as const),
    ).then((all) => stopped || setMeasured((before) => (sameMap(before, all) ? before : new Map(all))))
    return () => {
      stopped = true
    }
  }, [pieces, factsOf])

  return useMemo(() => {
    const bare = ({ piece }: Block): number | null => {
      const loudness = piece ? measured.get(known.get(piece)!) : undefined
      return loudness === undefined || !Number.isFinite(loudness) ? null : loudness
    }
    const of = (block: Block): number | null => {
      const loudness = bare(block)
      return loudness === null ? null : loudness + (block.gain ?? 0)
    }
    const levels = spine.flatMap((block) => of(block) ?? [])
    return {
      of,
      /** How much louder a block is than the voice before it, in LU, where that is too much. */
      jump(block: Block): number | null {
        const own = of(block)
        const before = spine.slice(0, spine.indexOf(block)).findLast((one) => of(one) !== null)
        const apart = own === null || !before ? 0 : own - of(before)!
        return Math.abs(apart) > APART ? apart : null
      },
      middle: middleOf(levels),
      /** The same, once all that is to be measured is. */
      middleMeasured: async (): Promise<number | null> => {
        if (!factsOf) return null
        const all = await Promise.all(
          spine.flatMap(({ piece, gain = 0 }) => {
            const body = piece && known.get(piece)
            return body ? loudnessOfPiece(body, factsOf).then((loudness) => loudness + gain) : []
          }),
        )
        return middleOf(all)
      },
      /** Steps that bring all that one speaker says to the level of one of their blocks; empty where it is there. */
      likeThis(block: Block): StoryStep[] {
        const wanted = of(block)
        const speaker = block.piece ? known.get(block.piece)?.speaker : ''
        if (wanted === null || !speaker) return []
        return spine.flatMap((one): StoryStep[] => {
          const loudness = one !== block && one.piece && known.get(one.piece)?.speaker === speaker ? bare(one) : null
          const gain = loudness === null ? (one.gain ?? 0) : voiceGain(loudness, wanted)
          return gain === (one.gain ?? 0) ? [] : [{ type: 'set', id: one.id, key: 'gain', value: gain }]
        })
      },
      /** Steps that bring all voices to the target; empty where they are there. */
      levelling: (): StoryStep[] =>
        spine.flatMap((block): StoryStep[] => {
          const loudness = bare(block)
          if (loudness === null) return []
          const gain = voiceGain(loudness, target)
          return gain === (block.gain ?? 0) ? [] : [{ type: 'set', id: block.id, key: 'gain', value: gain }]
        }),
    }
  }, [measured, spine, known, factsOf, target])
}
