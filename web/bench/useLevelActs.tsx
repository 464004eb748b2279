import { useQuery } from '@tanstack/react-query'
import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react'
import { toast } from 'sonner'
import { actualityType, clipLength, type Actuality } from '../../core/edits/actuality'
import { slice, toTape } from '../../core/edits/editList'
import { evened, phrasesIn, speechBeside, withChanges, type Change, type Loud, type Phrase } from '../../core/edits/evenOut'
import { appliedLine, levelOff, shapeLevel } from '../../core/edits/levelLine'
import { piecePlan } from '../../core/page/plan'
import { lineAt } from '../../core/sound/level'
import { applyAll } from '../../core/steps/document'
import { tapeLevel, type TapeDocument } from '../../core/tape/tape'
import { milliseconds, type Frames, type Stretch } from '../../core/time'
import type { Handlers } from '../commands/commands'
import { liveDocument } from '../documents/useDocument'
import { hear, loudnessOf } from '../sound/hear'
import { player } from '../sound/player'
import { useKept } from '../ui/useKept'
import type { Bench } from './bench'
import { LevelPanel } from './LevelPanel'

/** By how much a key changes a level, in dB. */
const STEP = 1.5
/** A breath is turned down by this unless somebody wants another figure, in dB, and never to nothing. */
const BREATH = { usual: 9, least: 1, most: 24 }
/** What is suggested is heard with this much around it. */
const AROUND: Frames = milliseconds(2500)

const breathNow = (): number => Math.min(BREATH.most, Math.max(BREATH.least, Number(localStorage.breath ?? BREATH.usual) || BREATH.usual))

/** Levels: of what is selected, of a phrase against its neighbours, and of the whole piece. */
export function useLevelActs({ owner, live, piece, plan, factsOf, kept, selected, act, asEdited }: Bench): {
  panel: ReactNode
  /** Takes what is suggested; false where nothing is. */
  take: () => boolean
  /** What plays is a suggestion, not the piece. */
  trying: boolean
  commands: Handlers
} {
  const now = () => live.body as Actuality
  const [open, setOpen] = useKept<'to type' | 'to see' | null>(`${owner}/levels`, null)
  const [suggestion, setSuggested] = useState<{ changes: Change[]; over: Stretch; of: Actuality['spans'] } | null>(null)
  // what was suggested for a piece that has changed since is none
  const suggested = suggestion?.of === piece.spans ? suggestion : null
  const [breath, setBreath] = useState(breathNow)

  const whole = useQuery({
    queryKey: ['levels of', piece.spans, piece.head, piece.tail, piece.gain, piece.fadeIn, piece.fadeOut, piece.sides],
    enabled: open !== null,
    queryFn: ({ signal }) => hear({ plan, from: 0, to: plan.length }, signal),
  }).data

  const trial = useMemo(() => (suggested ? piecePlan(applyAll(actualityType, piece, withChanges(piece, suggested.changes)), factsOf) : null), [suggested, piece, factsOf])
  useEffect(() => {
    if (!suggested || !trial) return
    player.load(owner, trial)
    void player.play(Math.max(0, suggested.over.from - AROUND), Math.min(trial.length, suggested.over.to + AROUND))
    // once for each suggestion
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [suggested])
  const forget = () => {
    player.stop()
    player.load(owner, plan)
    setSuggested(null)
  }

  const shape = (of: (dB: number) => number, label: string) => {
    if (!selected) return void toast('Select a passage to change its level.')
    act(shapeLevel(now(), selected, of), label)
  }

  /** Each asking is a turn: an older one that is still listening suggests nothing more. */
  const evening = useRef(0)
  const even = async () => {
    if (!selected) return void toast('Select a phrase to compare with what the same speaker says around it.')
    const turn = ++evening.current
    asEdited()
    setOpen(open ?? 'to see')
    try {
      // one after the other: each is listened to by a worker of its own
      const phrases: (Phrase & Loud)[] = []
      for (const phrase of phrasesIn(kept, selected)) phrases.push({ ...phrase, loudness: await loudnessOf(plan, phrase.speech) })
      const neighbours: Loud[] = []
      for (const one of speechBeside(kept, selected, clipLength(piece))) neighbours.push({ speaker: one.speaker, loudness: await loudnessOf(plan, one) })
      if (turn !== evening.current) return
      const changes = evened(phrases, neighbours)
      if (!changes.length) return void toast(phrases.some((one) => Number.isFinite(one.loudness)) ? 'It is already as loud as the speech around it.' : 'That is too short or too quiet to measure: select a phrase.')
      setSuggested({ changes, over: selected, of: piece.spans })
    } catch {
      toast.error('The loudness could not be measured.')
    }
  }
  const take = (): boolean => {
    if (!suggested) return false
    act(withChanges(now(), suggested.changes), 'even out')
    forget()
    return true
  }

  const off = () => {
    act(levelOff(now(), selected ?? { from: 0, to: clipLength(now()) }), 'level as recorded')
    if (!selected) toast('All level lines removed.', { duration: 2000 })
  }

  /** The level line over what is selected, or all of it, becomes that of its tapes. */
  const onTape = async () => {
    const part = selected ? slice(now().spans, selected.from, selected.to) : now().spans
    const lined = part.filter(({ level, sound }) => level && sound === 'tape')
    if (!lined.length) return void toast('There is no level line here.')
    for (const tape of new Set(lined.map((span) => span.tape))) {
      const document = await liveDocument(tape, 'tape')
      const there = tapeLevel(document.body as TapeDocument)
      const points = appliedLine(there?.points ?? [], lined.filter((span) => span.tape === tape))
      document.act(there ? [{ type: 'set', id: there.id, key: 'points', value: points }] : [{ type: 'put', record: { id: crypto.randomUUID(), kind: 'level', points } }], { label: 'level line' })
    }
    toast('Copied to the tape. It applies to new pieces only.')
  }

  const here = selected && toTape(piece.spans, Math.round((selected.from + selected.to) / 2))
  const span = selected && slice(piece.spans, Math.round((selected.from + selected.to) / 2), Math.round((selected.from + selected.to) / 2) + 1)[0]
  const panel = open && (
    <LevelPanel
      typing={open === 'to type'}
      chosen={here && span ? Math.round(10 * lineAt(span.level ?? [], here.frame)) / 10 : null}
      onChosen={(dB) => shape(() => dB, 'level')}
      suggested={suggested?.changes ?? null}
      onEven={() => void even()}
      onTake={take}
      onNotTake={forget}
      breath={breath}
      onBreath={(dB) => {
        localStorage.breath = String(dB)
        setBreath(breathNow())
      }}
      gain={piece.gain ?? 0}
      onGain={(dB) => act([{ type: 'set', key: 'gain', value: dB === 0 ? undefined : dB }], 'gain')}
      figures={whole ? { peak: Math.max(...whole.channels.map(({ truePeak }) => truePeak)), loudness: whole.loudness.integrated } : null}
      onTape={() => void onTape()}
      onClose={() => {
        if (suggested) forget()
        setOpen(null)
      }}
    />
  )

  const commands = {
    'level.softer': () => shape((dB) => dB - STEP, 'softer'),
    'level.louder': () => shape((dB) => dB + STEP, 'louder'),
    'level.breath': () => shape((dB) => dB - breath, 'turn a breath down'),
    'level.off': off,
    'level.open': () => setOpen(open ? null : 'to type'),
    'level.even': () => void even(),
    'level.onTape': () => void onTape(),
    ...(suggested ? { 'select.clear': forget } : {}),
  }
  return { panel, take, trying: suggested !== null, commands }
}
