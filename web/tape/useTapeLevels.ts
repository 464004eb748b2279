import { useCallback, useMemo } from 'react'
import { actualityType, type Actuality, type ActualityStep } from '../../core/edits/actuality'
import type { EditList } from '../../core/edits/editList'
import { flattened } from '../../core/edits/levelLine'
import { planOf, type FactsOf, type Plan } from '../../core/render/plan'
import type { LevelPoint } from '../../core/sound/level'
import { applyAll } from '../../core/steps/document'
import { tapeLevel } from '../../core/tape/tape'
import type { Frames, Stretch } from '../../core/time'
import type { LiveDocument } from '../documents/liveDocument'
import { useLevels } from '../levels/useLevels'
import type { SheetWord } from '../sheet/paint/model'

interface OfTape {
  id: string
  frames: Frames
  live: LiveDocument<'tape'>
  level: readonly LevelPoint[] | undefined
  plan: Plan
  factsOf: FactsOf
  words: readonly SheetWord[]
  selected: Stretch | null
  passages: readonly Stretch[]
  place: () => Frames
  goTo: (frame: Frames) => void
}

/** A tape as a piece of all of it: what works on the level line of one works on that of the other. */
function asPiece(tape: string, frames: Frames, level: readonly LevelPoint[] = []): Actuality {
  // points that change nothing yet are points too
  const spans: EditList = [{ tape, from: 0, to: frames, sound: 'tape', ...(level.length ? { level: [...level] } : {}) }]
  return { kind: 'actuality', slug: '', speaker: '', role: '', story: null, spans, head: 0, tail: 0 }
}

/** The level line of a tape: heard on it, and in pieces that are pulled from now on. */
export function useTapeLevels({ id, frames, live, level, plan, factsOf, words, selected, passages, place, goTo }: OfTape) {
  const piece = useMemo(() => asPiece(id, frames, level), [id, frames, level])
  const now = () => asPiece(id, frames, tapeLevel(live.body)?.points)
  const act = (steps: ActualityStep[], label: string) => {
    if (!steps.length) return
    const [{ level: points = [] }] = applyAll(actualityType, now(), steps).spans
    const there = tapeLevel(live.body)
    live.act(
      there
        ? [{ type: 'set', id: there.id, key: 'points', value: points }]
        : [{ type: 'put', record: { id: crypto.randomUUID(), kind: 'level', points } }],
      { label },
    )
  }
  const planOfPiece = useCallback(({ spans }: Actuality) => planOf(spans, factsOf), [factsOf])
  const levels = useLevels({
    owner: `tape/${id}`,
    piece,
    now,
    plan,
    planOf: planOfPiece,
    kept: words,
    selected,
    passages,
    place,
    goTo,
    act,
    asEdited: () => undefined,
    side: null,
  })
  const asRecorded = () => {
    const there = tapeLevel(live.body)
    if (!there) return
    const points = flattened(there.points, selected ?? { from: 0, to: frames })
    live.act([{ type: 'set', id: there.id, key: 'points', value: points }], { label: 'level as recorded' })
  }
  const commands = {
    ...levels.commands,
    'level.off': { run: asRecorded, unable: level?.length ? null : 'This tape has no level line.' },
  }
  return { ...levels, commands }
}
