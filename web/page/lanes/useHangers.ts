import { useEffect, useRef } from 'react'
import { toast } from 'sonner'
import { anchorAt } from '../../../core/page/anchorAt'
import type { Hold, Known, PlacedHanger } from '../../../core/page/lay'
import type { Block, Hanger, HangerSection, Lane, StoryDocument, StoryStep } from '../../../core/page/story'
import { USUAL_DIP } from '../../../core/page/dips'
import { lanesOf, USUAL_LOUDNESS } from '../../../core/page/story'
import { toFacts, type TapeInfo } from '../../../contract/tapes'
import { toFrames, type Frames } from '../../../core/time'
import type { Handlers } from '../../commands/commands'
import type { LiveDocument } from '../../documents/liveDocument'
import { edgesUnder, layUnder, upLevel, type Under } from '../../story/layUnder'
import { useKept } from '../../ui/useKept'
import type { useVoiceLevels } from '../mix/useVoiceLevels'
import { loudnessOfTape } from '../../levels/voiceLoudness'
import { firstNoteOf } from './firstNoteOf'
import type { usePage } from '../laid/usePage'

/** What the keys move an edge by. */
const STEP: Frames = toFrames(0.1)
const STEP_DB = 1.5

interface OnPage {
  owner: string
  live: LiveDocument<'story'>
  body: StoryDocument
  page: ReturnType<typeof usePage>
  place: () => Frames
  chosen: readonly Block[]
  voices: ReturnType<typeof useVoiceLevels>
}

/** The sounds that lie beside the running order: which one is chosen, and what is done with it. */
export function useHangers({ owner, live, body, page, place, chosen: blocks, voices }: OnPage) {
  const { layout, saidOf } = page
  const [id, choose] = useKept<string | null>(`${owner}/hanger`, null)
  // what was chosen last is what keys act on: who goes to another block lets go of the sound
  const on = blocks.map((block) => block.id).join()
  const before = useRef(on)
  useEffect(() => {
    if (before.current !== on) choose(null)
    before.current = on
  }, [on, choose])
  const placed = layout.hangers
  const chosen = placed.find(({ hanger }) => hanger.id === id) ?? null
  const known: Known = { lengthOf: page.lengthOf, saidIn: saidOf }
  const act = (steps: StoryStep[], label: string) => live.act(steps, { label })
  const set = <K extends keyof Hanger>(hanger: Hanger, key: K, value: Hanger[K], label: string) =>
    act([{ type: 'set', id: hanger.id, key, value }], label)
  const anchor = (at: Frames, snap = true) => anchorAt(layout, at, known, snap)

  /** Under the chosen blocks, or from the playhead. Its level comes of how loud it and the voices are; music begins on its first note. */
  const lay = (tape: TapeInfo, under: Under, stretch = { from: 0, to: tape.frames }) => {
    const { start, end } = edgesUnder(blocks, page.spine)
    const edges = { start: blocks.length ? start : anchor(place()), end }
    const { hanger, steps } = layUnder(body, { tape: tape.id, ...stretch }, under, edges)
    const options = { label: `lay ${tape.name} under`, together: crypto.randomUUID() }
    live.act(steps, options)
    const measured = Promise.all([loudnessOfTape(tape.id, stretch.from, stretch.to, () => toFacts(tape)), voices.middleMeasured()])
    void measured.then(([loudness, voice]) => {
      const now = live.body.records[hanger.id]
      const gain = upLevel(under, voice ?? page.output.loudness ?? USUAL_LOUDNESS, loudness)
      // what somebody has set meanwhile stays
      if (gain !== null && now?.kind === 'hanger' && now.gain === 0)
        live.act([{ type: 'set', id: hanger.id, key: 'gain', value: gain }], options)
    })
    if (under === 'music' && stretch.from === 0)
      void firstNoteOf(tape).then((from) => {
        const now = live.body.records[hanger.id]
        if (from > 0 && now?.kind === 'hanger' && 'tape' in now.plays && now.plays.from === stretch.from)
          live.act([{ type: 'set', id: hanger.id, key: 'plays', value: { ...now.plays, from } }], options)
      })
    choose(hanger.id)
  }

  /** Moves an edge, or all of it, to a place; what is locked stays. */
  const move = ({ hanger, lane, from, to }: PlacedHanger, edge: 'start' | 'end' | 'both', by: Frames, snap = true) => {
    if (lane.locked) return void toast(`“${lane.name}” is locked.`)
    if (edge === 'both') {
      const steps: StoryStep[] = [{ type: 'set', id: hanger.id, key: 'start', value: anchor(Math.max(0, from + by), snap) }]
      if (hanger.end) steps.push({ type: 'set', id: hanger.id, key: 'end', value: anchor(to + by, snap) })
      return act(steps, 'move the sound')
    }
    if (edge === 'start') return set(hanger, 'start', anchor(Math.max(0, Math.min(to - STEP, from + by)), snap), 'where the sound begins')
    return set(hanger, 'end', anchor(Math.max(from + STEP, to + by), snap), 'where the sound ends')
  }
  const louder = (by: number) => chosen && set(chosen.hanger, 'gain', clampDB(chosen.hanger.gain + by), 'level of the sound')
  const turn = (is: HangerSection['is']) => {
    if (!chosen) return
    const { hanger } = chosen
    const here = anchor(place())
    const others = (hanger.sections ?? []).filter(({ from }) => JSON.stringify(from) !== JSON.stringify(here))
    const steps: StoryStep[] = [{ type: 'set', id: hanger.id, key: 'sections', value: [...others, { from: here, is }] }]
    if (!hanger.dip) steps.push({ type: 'set', id: hanger.id, key: 'dip', value: USUAL_DIP })
    act(steps, is === 'under' ? 'go under here' : 'come up here')
  }
  const remove = () => {
    if (!chosen) return
    set(chosen.hanger, 'aside', true, 'set the sound aside')
    choose(null)
  }
  const step = (by: 1 | -1) => {
    const inOrder = [...placed].sort((a, b) => a.from - b.from)
    const at = inOrder.findIndex(({ hanger }) => hanger.id === id)
    const next = inOrder[at < 0 ? (by > 0 ? 0 : inOrder.length - 1) : at + by]
    if (next) choose(next.hanger.id)
  }
  const setLane = (lane: Lane, key: keyof Lane, value: unknown, label: string) => act([{ type: 'set', id: lane.id, key, value }], label)

  const unable = chosen ? null : 'Choose a sound in the lanes first.'
  const moving = (edge: 'start' | 'end', by: Frames, title: string) => ({
    title,
    free: true,
    unable,
    run: () => void (chosen && move(chosen, edge, by, false)),
  })
  const commands: Handlers = {
    'join.previous': {
      run: () => step(-1),
      title: 'Sound before',
      free: true,
      unable: placed.length ? null : 'Nothing lies in the lanes.',
    },
    'join.next': { run: () => step(1), title: 'Next sound', free: true, unable: placed.length ? null : 'Nothing lies in the lanes.' },
    'page.goUnder': { run: () => turn('under'), unable },
    'page.comeUp': { run: () => turn('up'), unable },
    'page.outHere': { run: () => chosen && set(chosen.hanger, 'end', anchor(place()), 'out by here'), unable },
    ...(chosen
      ? {
          'join.leftEarlier': moving('start', -STEP, 'Sound begins earlier'),
          'join.leftLater': moving('start', STEP, 'Sound begins later'),
          'join.rightEarlier': moving('end', -STEP, 'Sound ends earlier'),
          'join.rightLater': moving('end', STEP, 'Sound ends later'),
          'level.softer': { run: () => louder(-STEP_DB), title: 'Sound softer by 1.5 dB', free: true },
          'level.louder': { run: () => louder(STEP_DB), title: 'Sound louder by 1.5 dB', free: true },
          'edit.mute': { run: () => setLane(chosen.lane, 'muted', !chosen.lane.muted, 'mute a lane'), title: 'Mute / unmute its lane' },
          'page.aside': { run: remove, title: 'Set the sound aside' },
          'select.clear': { run: () => choose(null), title: 'Let go of the sound' },
        }
      : {}),
  }
  return { placed, lanes: lanesOf(body), chosen, choose, lay, move, set, setLane, remove, act, commands }
}

export type Hangers = ReturnType<typeof useHangers>

const clampDB = (dB: number): number => Math.max(-60, Math.min(24, Math.round(dB * 10) / 10))

/** Why something does not lie where it was put, in words. */
export const whyNot = ({ why }: Hold): string | null =>
  why === 'aside'
    ? 'its block is set aside'
    : why === 'out'
      ? 'its block is not in this output'
      : why === 'unsaid'
        ? 'its word is not said any more'
        : null
