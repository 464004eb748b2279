import { useEffect, useMemo, useRef, useState } from 'react'
import type { Actuality } from '../../core/edits/actuality'
import { tapesOf } from '../../core/edits/editList'
import { pieceWords } from '../../core/edits/pieceWords'
import type { LiveClip } from '../../core/live/board'
import { piecePlan } from '../../core/page/plan'
import type { Plan } from '../../core/render/plan'
import { isMadeTone, tapeOf } from '../../core/tape/renditions'
import type { TapeInfo } from '../../contract/tapes'
import { useFacts } from '../api/queries'
import { useSame } from '../api/useSame'
import { liveDocument } from '../documents/useDocument'
import type { LiveDocument } from '../documents/liveDocument'
import { hear, soundOf } from '../sound/hear'
import { factor } from '../../core/sound/level'
import { gainTo } from '../../core/live/oneLevel'
import type { ClipSound } from './clipSound'
import { keepSound, keptSound } from './keptSounds'

/** What is known of a piece on the board, and whether it can sound at once. */
export interface Prepared {
  state: 'loading' | 'ready' | 'failed'
  /** Why it is not ready. */
  reason: string
  piece: Actuality | null
  live: LiveDocument<'actuality'> | null
  plan: Plan | null
  /** By how many dB it is turned up or down for the board's level. */
  gain: number
  inCue: string
  outCue: string
}

const CUE = 6
const AGAIN_MS = 2000

/** The pieces of clips as they are now, also by this hand a moment ago. */
function usePieces(ids: readonly string[]): ReadonlyMap<string, LiveDocument<'actuality'> | Error> {
  const [known, setKnown] = useState<ReadonlyMap<string, LiveDocument<'actuality'> | Error>>(new Map())
  const key = ids.join()
  useEffect(() => {
    let current = true
    const off: (() => void)[] = []
    const anew = () => current && setKnown((now) => new Map(now))
    for (const id of key.split(',').filter(Boolean))
      liveDocument(id, 'actuality').then(
        (live) => {
          if (!current) return
          off.push(live.subscribe(anew))
          setKnown((now) => new Map(now).set(id, live))
        },
        (error: Error) => current && setKnown((now) => new Map(now).set(id, error)),
      )
    return () => {
      current = false
      off.forEach((stop) => stop())
    }
  }, [key])
  return known
}

interface Made {
  piece: Actuality
  facts: object
  plan: Plan
  off: boolean
  inCue: string
  outCue: string
}

/** Sees to it that each clip is at hand in all of its outputs, as its piece is now. What plays goes on as it began. */
export function usePrepared(
  clips: readonly LiveClip[],
  outputs: readonly ClipSound[],
  level: number | undefined,
): { prepared: ReadonlyMap<string, Prepared>; facts: ReturnType<typeof useFacts>; plans: ReadonlyMap<string, { plan: Plan }> } {
  const ids = [...new Set(clips.map(({ piece }) => piece))].sort()
  const pieces = usePieces(ids)
  const bodies = ids.flatMap((id) => {
    const live = pieces.get(id)
    return live && !(live instanceof Error) ? [{ id, live, piece: live.body }] : []
  })
  const facts = useFacts([...new Set(bodies.flatMap(({ piece }) => tapesOf(piece.spans)))].sort())
  const known = useSame(bodies.map(({ id }) => id))
  const now = useSame(bodies.map(({ piece }) => piece))
  const before = useRef(new Map<string, Made>())
  const plans = useMemo(() => {
    const made = new Map<string, Made>()
    if (!facts) return made
    for (const [i, id] of known.entries()) {
      const piece = now[i]
      // what has not changed keeps its plan, and so its sound
      const old = before.current.get(id)
      if (old?.piece === piece && old.facts === facts) {
        made.set(id, old)
        continue
      }
      const plan = piecePlan(piece, facts.factsOf)
      const words = pieceWords(piece.spans, facts.wordsOf, piece.sides).filter(({ what }) => what !== 'noise')
      const cue = (part: typeof words) => part.map(({ text }) => text).join(' ')
      made.set(id, {
        piece,
        facts,
        plan,
        off: holdsOff(plan, facts.tapes),
        inCue: cue(words.slice(0, CUE)),
        outCue: cue(words.slice(-CUE)),
      })
    }
    before.current = made
    return made
  }, [facts, known, now])
  const ready = useSounds(plans)
  const loud = useLoudness(ready.sounds, level !== undefined)
  useEffect(() => {
    for (const { id, piece } of clips) {
      const sound = ready.sounds.get(piece)
      const channels = sound && atLevel(sound, level, loud.get(sound.plan))
      for (const output of outputs) {
        if (channels) output.load(id, channels)
        // until it is known how loud it is, what was at hand before still plays
        else if (!sound) output.remove(id)
      }
    }
  }, [clips, ready.sounds, outputs, level, loud])
  const prepared = new Map(
    ids.map((id): [string, Prepared] => {
      const live = pieces.get(id)
      const made = plans.get(id)
      const known = live && !(live instanceof Error) ? live : null
      const sound = ready.sounds.get(id)
      const reason =
        live instanceof Error ? 'The piece is not there.' : made?.off ? 'Some of it is off the record.' : (ready.failed.get(id) ?? '')
      const heard = sound && loud.get(sound.plan)
      const isReady = sound && sound.plan === made?.plan && (level === undefined || heard)
      const state = reason ? 'failed' : isReady ? 'ready' : 'loading'
      const { plan = null, inCue = '', outCue = '' } = made ?? {}
      const gain = heard && level !== undefined ? gainTo(level, heard) : 0
      return [id, { state, reason, piece: known?.body ?? null, live: known, plan, gain, inCue, outCue }]
    }),
  )
  return { prepared, facts, plans }
}

/** What was said off the record is not played either. */
function holdsOff(plan: Plan, tapes: readonly TapeInfo[]): boolean {
  const off = new Map(tapes.map((tape) => [tape.id, tape.off]))
  return plan.strips.some(
    ({ sound, from, length }) =>
      !isMadeTone(sound) && off.get(tapeOf(sound))?.some((stretch) => stretch.from < from + length && stretch.to > from),
  )
}

interface ClipRun {
  plan: Plan
  channels: readonly Float32Array[]
}

/** How loud a clip is, in LUFS and dBTP. */
interface Loud {
  integrated: number
  truePeak: number
}

interface Ready {
  sounds: ReadonlyMap<string, ClipRun>
  failed: ReadonlyMap<string, string>
}

/** The sound of each plan, made once and kept; tried again where some of it cannot be had now. */
function useSounds(plans: ReadonlyMap<string, { plan: Plan; off: boolean }>): Ready {
  const [ready, setReady] = useState<Ready>({ sounds: new Map(), failed: new Map() })
  const making = useRef(new Map<string, { plan: Plan; off: AbortController }>())
  useEffect(() => {
    const make = async (id: string, plan: Plan, off: AbortController): Promise<void> => {
      const has = (channels: readonly Float32Array[]) => {
        if (off.signal.aborted) return
        setReady(({ sounds, failed }) => ({
          sounds: new Map(sounds).set(id, { plan, channels: channels.map(shared) }),
          failed: without(failed, id),
        }))
      }
      // what was kept plays at once, and where the server is gone; what the server has now takes its place
      const kept = await keptSound(id, plan)
      if (kept) has(kept)
      while (!off.signal.aborted)
        try {
          const channels = await soundOf(plan, off.signal)
          if (kept && sameSound(kept, channels)) return
          has(channels)
          return void keepSound(id, plan, channels)
        } catch (error) {
          if (!kept && !off.signal.aborted) setReady((now) => ({ ...now, failed: new Map(now.failed).set(id, (error as Error).message) }))
          await new Promise((done) => setTimeout(done, AGAIN_MS))
        }
    }
    for (const [id, { plan, off: offRecord }] of plans) {
      const under = making.current.get(id)
      if (under?.plan === plan && !offRecord) continue
      under?.off.abort()
      if (offRecord) {
        making.current.delete(id)
        setReady(({ sounds, failed }) => ({ sounds: without(sounds, id), failed }))
        continue
      }
      const off = new AbortController()
      making.current.set(id, { plan, off })
      void make(id, plan, off)
    }
  }, [plans])
  useEffect(() => {
    const { current } = making
    return () => {
      current.forEach(({ off }) => off.abort())
      current.clear()
    }
  }, [])
  return ready
}

function without<T>(map: ReadonlyMap<string, T>, id: string): ReadonlyMap<string, T> {
  if (!map.has(id)) return map
  const rest = new Map(map)
  rest.delete(id)
  return rest
}

const sameSound = (a: readonly Float32Array[], b: readonly Float32Array[]): boolean =>
  a.length === b.length && a.every((channel, i) => channel.length === b[i].length && channel.every((sample, k) => sample === b[i][k]))

/** In memory that both outputs read. */
function shared(channel: Float32Array): Float32Array {
  const copy = new Float32Array(new SharedArrayBuffer(channel.byteLength))
  copy.set(channel)
  return copy
}

/** What was made for a level, so that it is not loaded anew while nothing changes. */
const leveled = new WeakMap<ClipRun, { gain: number; channels: readonly Float32Array[] }>()

/** Its channels at the board's level; the very samples of its piece where there is none. Undefined until it is known how loud it is. */
function atLevel(run: ClipRun, level: number | undefined, loud: Loud | undefined): readonly Float32Array[] | undefined {
  if (level === undefined) return run.channels
  if (!loud) return undefined
  const gain = gainTo(level, loud)
  const before = leveled.get(run)
  if (before?.gain === gain) return before.channels
  const times = factor(gain)
  const channels = run.channels.map((channel) => shared(channel.map((sample) => sample * times)))
  leveled.set(run, { gain, channels })
  return channels
}

/** How loud each clip is, where that is wanted: a clip that plays as its piece does not wait for it. */
function useLoudness(sounds: ReadonlyMap<string, ClipRun>, wanted: boolean): ReadonlyMap<Plan, Loud> {
  const [known, setKnown] = useState<ReadonlyMap<Plan, Loud>>(new Map())
  const asked = useRef(new WeakSet<Plan>())
  useEffect(() => {
    if (!wanted) return
    for (const { plan } of sounds.values()) {
      if (asked.current.has(plan)) continue
      asked.current.add(plan)
      hear({ plan, from: 0, to: plan.length }, new AbortController().signal).then(
        ({ loudness, channels }) => {
          const truePeak = Math.max(...channels.map((channel) => channel.truePeak))
          setKnown((now) => new Map(now).set(plan, { integrated: loudness.integrated, truePeak }))
        },
        () => asked.current.delete(plan),
      )
    }
  }, [sounds, wanted])
  return known
}
