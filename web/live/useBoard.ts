import { useEffect, useMemo, useState, useSyncExternalStore } from 'react'
import { toast } from 'sonner'
import {
  boardHead,
  clipsOf,
  movedTo,
  neighbour,
  PLACES,
  placesOf,
  type BoardDocument,
  type BoardStep,
  type LiveClip,
} from '../../core/live/board'
import { RATE, type Frames } from '../../core/time'
import { useMyName } from '../present/present'
import type { LiveDocument } from '../documents/liveDocument'
import { player } from '../sound/player'
import { ClipSound, type Run } from './clipSound'
import { logPlay } from './playLog'
import { useKeptBoard } from './useKeptBoard'
import { usePrepared, type Prepared } from './usePrepared'

const air = new ClipSound()
const ears = new ClipSound()
const OUTPUTS = [air, ears]
// for tests and measurements, which drive the real page
Object.assign(globalThis, { plainCutBoard: air })

export const useRuns = (output: ClipSound): readonly Run[] => useSyncExternalStore(output.subscribe, () => output.runs)
/** The way out on air, and the one on which the reporter alone hears. */
export const outputs = { air, ears }

/** A board as it is played: what is on which key, what plays, what is cued. */
export function useBoard(id: string, live: LiveDocument<'board'>, body: BoardDocument) {
  const clips = useMemo(() => clipsOf(body), [body])
  const places = useMemo(() => placesOf(body), [body])
  const { name, level } = boardHead(body)
  const { prepared, facts, plans } = usePrepared(clips, OUTPUTS, level)
  const kept = useKeptBoard(
    id,
    pathsOf(id, clips, prepared, facts),
    useMemo(() => ({ body, plans }), [body, plans]),
  )
  const runs = useRuns(air)
  const heard = useRuns(ears)
  const [cuedKey, setCued] = useState<string | null>(null)
  const cued = cuedKey !== null && places.has(cuedKey) ? cuedKey : (PLACES.find((key) => places.has(key)) ?? null)
  const [paused, setPaused] = useState<{ clip: string; at: Frames } | null>(null)
  /** The clip that is to go to another key. */
  const [moving, setMoving] = useState<string | null>(null)
  const act = (steps: BoardStep[], label: string) => live.act(steps, { label })
  const runOf = (clip: string) => runs.findLast((run) => run.clip === clip && !run.stopping)
  const slugOf = (clip: LiveClip) => prepared.get(clip.piece)?.piece?.slug || 'Untitled'

  useEffect(() => {
    localStorage.board = id
    // one listens to the board now
    player.stop()
    void air.open(localStorage.boardAir ?? '').catch(() => undefined)
    return () => {
      air.stopAll()
      ears.stopAll()
    }
  }, [id])

  useEffect(() => {
    air.onEnded = ({ clip, heard: frames, stopped, pressed, sounded }) => {
      const one = clips.find((known) => known.id === clip)
      if (!one || frames === 0) return
      const at = new Date(sounded ?? pressed).toISOString()
      const play = { id: crypto.randomUUID(), board: id, piece: one.piece, slug: slugOf(one), at, seconds: frames / RATE, stopped }
      void logPlay({ ...play, by: useMyName.getState().name })
    }
  })

  /** Begins a clip; others stop or fade, unless either was asked to play beside others. */
  const start = (clip: LiveClip, from: Frames) => {
    setPaused(null)
    if (!air.has(clip.id)) {
      const { reason = '' } = prepared.get(clip.piece) ?? {}
      return void toast.error(`“${slugOf(clip)}” can’t be played yet. ${reason || 'Its sound is being fetched.'}`)
    }
    air.play(clip.id, { loop: clip.loop, from })
    if (!air.awake) void air.open(localStorage.boardAir ?? '')
    if (clip.over) return
    for (const other of runs) {
      const record = clips.find((known) => known.id === other.clip)
      if (!record?.over && !other.stopping) air.stop(other.run, record?.fade)
    }
  }

  /** Plays what is on a key; what plays already is stopped, or faded. */
  const press = (key: string) => {
    const clip = places.get(key)
    if (moving) {
      act(movedTo(body, moving, key), 'move on the board')
      return setMoving(null)
    }
    if (!clip) return
    const run = runOf(clip.id)
    if (run) air.stop(run.run, clip.fade)
    else start(clip, 0)
  }

  /** Plays what is cued, or pauses it, and goes on where it was paused. */
  const playCued = () => {
    const clip = cued === null ? undefined : places.get(cued)
    if (!clip) return
    const run = runOf(clip.id)
    if (!run) return start(clip, paused?.clip === clip.id ? paused.at : 0)
    air.stop(run.run)
    setPaused({ clip: clip.id, at: run.at })
  }

  /** Heard by the reporter alone. Without an output of their own nothing is: it would go on air. */
  const listen = (key: string) => {
    const clip = places.get(key)
    if (!clip) return
    const device = localStorage.boardEars ?? ''
    if (!device || device === (localStorage.boardAir ?? ''))
      return void toast.error('Choose another sound output for yourself first: this one is on air.')
    const run = heard.find((one) => one.clip === clip.id && !one.stopping)
    ears.stopAll()
    if (run) return
    void ears
      .open(device)
      .then(() => ears.play(clip.id))
      .catch(() => toast.error('That sound output is not available.'))
  }

  const stopAll = () => {
    if (moving) return setMoving(null)
    setPaused(null)
    air.stopAll()
    ears.stopAll()
  }

  const change = (clip: LiveClip, key: 'loop' | 'over' | 'fade', value: unknown, label: string) => {
    act([{ type: 'set', id: clip.id, key, value }], label)
    const run = runOf(clip.id)
    if (key === 'loop' && run) air.setLoop(run.run, Boolean(value))
  }

  return {
    id,
    name,
    /** It opens without a server, as it is now. */
    kept,
    level,
    setLevel: (value: number | undefined) => act([{ type: 'set', id: 'board', key: 'level', value }], 'level of all clips'),
    clips,
    places,
    prepared,
    facts,
    runs,
    heard,
    cued,
    cue: setCued,
    cueTo: (by: 'left' | 'right' | 'up' | 'down') => cued && setCued(neighbour(places, cued, by)),
    press,
    playCued,
    paused,
    listen,
    stopAll,
    moving,
    move: setMoving,
    change,
    slugOf,
    rename: (name: string) => act([{ type: 'set', id: 'board', key: 'name', value: name }], 'name of the board'),
    put: (piece: string, key: string) =>
      act([{ type: 'put', record: { id: crypto.randomUUID(), kind: 'clip', piece, key } }], 'put on the board'),
    remove: (clip: LiveClip) => act([{ type: 'drop', id: clip.id }], 'take off the board'),
  }
}

/** The addresses that a board is opened from; null while not all of its clips are ready. */
function pathsOf(
  board: string,
  clips: readonly LiveClip[],
  prepared: ReadonlyMap<string, Prepared>,
  facts: { tapes: readonly { id: string }[] } | null,
): string[] | null {
  if (!facts || clips.some(({ piece }) => prepared.get(piece)?.state === 'loading')) return null
  const documents = [board, ...new Set(clips.map(({ piece }) => piece))].map((id) => `/api/documents/${id}`)
  return ['/api/boards', ...documents, ...facts.tapes.flatMap(({ id }) => [`/api/tapes/${id}`, `/api/tapes/${id}/words`])]
}

export type Board = ReturnType<typeof useBoard>
