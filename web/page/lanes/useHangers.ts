import { useEffect, useRef } from 'react'
import { toast } from 'sonner'
import { toFacts, type TapeInfo } from '../../../contract/tapes'
import { anchorAt } from '../../../core/page/anchorAt'
import { USUAL_DIP, type SectionIs } from '../../../core/page/dips'
import { copyHanger, exchanged, slipHanger, splitHanger } from '../../../core/page/hangerActs'
import type { Hold, Known, PlacedHanger } from '../../../core/page/lay'
import { lanesOf, USUAL_LOUDNESS, type Block, type Hanger, type Lane, type StoryDocument, type StoryStep } from '../../../core/page/story'
import { planOf } from '../../../core/render/plan'
import { toFrames, type Frames } from '../../../core/time'
import type { LiveDocument } from '../../documents/liveDocument'
import { loudnessOfTape } from '../../levels/voiceLoudness'
import { edgesUnder, layUnder, upLevel, type Under } from '../../story/layUnder'
import { alikeIn } from '../../sound/hear'
import { useKept } from '../../ui/useKept'
import type { usePage } from '../laid/usePage'
import type { useVoiceLevels } from '../mix/useVoiceLevels'
import { firstNoteOf, lastNoteOf } from './musicEndsOf'

/** A sound is never made shorter than this by hand. */
const SHORTEST: Frames = toFrames(0.1)

interface OnPage {
  owner: string
  live: LiveDocument<'story'>
  body: StoryDocument
  page: ReturnType<typeof usePage>
  place: () => Frames
  chosen: readonly Block[]
  voices: ReturnType<typeof useVoiceLevels>
  tapes: readonly TapeInfo[]
}

/** Where a sound is laid: the page's blocks, or a lane at a place of the page. */
export interface LaidAt {
  lane?: string
  at?: Frames
}

/** The sounds that lie beside the running order: which one is chosen, and what is done with it. */
export function useHangers({ owner, live, body, page, place, chosen: blocks, voices, tapes }: OnPage) {
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
  const exactly = (at: Frames) => anchor(at, false)
  const tapeOf = ({ plays }: Hanger) => ('tape' in plays ? tapes.find((tape) => tape.id === plays.tape) : undefined)

  /**
   * Under the chosen blocks, from the playhead, or in a lane at a place. Its level comes of how loud it and the voices are; music
   * begins on its first note.
   */
  const lay = (tape: TapeInfo, under: Under, stretch = { from: 0, to: tape.frames }, { lane, at }: LaidAt = {}) => {
    const around = edgesUnder(blocks, page.spine)
    const start = at === undefined ? (blocks.length ? around.start : anchor(place())) : anchor(at)
    // what is put at a place plays from there, as long as it is
    const end = under === 'ambience' || (under === 'music' && at === undefined) ? around.end : null
    const { hanger, steps } = layUnder(body, { tape: tape.id, ...stretch }, under, { start, end }, lane)
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

  /** A piece in a lane at a place, as long as it is. */
  const layPiece = (piece: string, slug: string, { lane, at = place() }: LaidAt) => {
    const { hanger, steps } = layUnder(body, { piece }, 'effect', { start: anchor(at), end: null }, lane)
    act(steps, `lay ${slug || 'a piece'} in a lane`)
    choose(hanger.id)
  }

  const lockedOut = ({ lane }: PlacedHanger): boolean => {
    if (lane.locked) toast(`“${lane.name}” is locked.`)
    return lane.locked
  }
  /** Moves an edge, or all of it, to a place; what is locked stays. */
  const move = (one: PlacedHanger, edge: 'start' | 'end' | 'both', by: Frames, snap = true) => {
    const { hanger, from, to } = one
    if (lockedOut(one)) return
    if (edge === 'both') {
      const steps: StoryStep[] = [{ type: 'set', id: hanger.id, key: 'start', value: anchor(Math.max(0, from + by), snap) }]
      if (hanger.end) steps.push({ type: 'set', id: hanger.id, key: 'end', value: anchor(to + by, snap) })
      return act(steps, 'move the sound')
    }
    if (edge === 'start')
      return set(hanger, 'start', anchor(Math.max(0, Math.min(to - SHORTEST, from + by)), snap), 'where the sound begins')
    return set(hanger, 'end', anchor(Math.max(from + SHORTEST, to + by), snap), 'where the sound ends')
  }
  /** From a place of the page on it is under, deeper under or up. */
  const turn = ({ hanger }: PlacedHanger, is: SectionIs, at = place()) => {
    const here = anchor(at)
    const others = (hanger.sections ?? []).filter(({ from }) => JSON.stringify(from) !== JSON.stringify(here))
    const steps: StoryStep[] = [{ type: 'set', id: hanger.id, key: 'sections', value: [...others, { from: here, is }] }]
    if (!hanger.dip) steps.push({ type: 'set', id: hanger.id, key: 'dip', value: USUAL_DIP })
    act(steps, is === 'up' ? 'come up here' : is === 'deep' ? 'go deeper under here' : 'go under here')
  }
  /** Moves the place from which a section counts. */
  const moveSection = ({ hanger }: PlacedHanger, index: number, at: Frames, snap: boolean) =>
    set(
      hanger,
      'sections',
      (hanger.sections ?? []).map((section, i) => (i === index ? { ...section, from: anchor(at, snap) } : section)),
      'where it goes under or up',
    )
  const remove = ({ hanger }: PlacedHanger) => {
    set(hanger, 'aside', true, 'set the sound aside')
    choose(null)
  }
  const split = (one: PlacedHanger, at = place()) => {
    if (lockedOut(one)) return
    const second = crypto.randomUUID()
    const steps = splitHanger(one, at, exactly, second)
    if (!steps.length)
      return void toast('piece' in one.hanger.plays ? 'A piece is split on its Bench.' : 'Put the playhead within the sound first.')
    act(steps, 'split the sound')
    choose(second)
  }
  /** The sound once more, from a place on. */
  const copyTo = (one: PlacedHanger, at: Frames) => {
    const again = crypto.randomUUID()
    act(copyHanger(one, at, anchor, again), 'duplicate the sound')
    choose(again)
  }
  const slip = (one: PlacedHanger, by: Frames) => {
    if (lockedOut(one)) return
    const steps = slipHanger(one, by, tapeOf(one.hanger)?.frames ?? 0)
    if (!steps.length) return void toast(by < 0 ? 'The tape begins there.' : 'The tape is over there.')
    act(steps, 'slip the sound')
  }
  /** Another tape in its place, as loud as it is; music from its first note to its last. */
  const exchange = async (one: PlacedHanger, tape: TapeInfo) => {
    const { hanger } = one
    const old = tapeOf(hanger)
    const music = !hanger.goesOn
    const [from, to] = music ? await Promise.all([firstNoteOf(tape), lastNoteOf(tape)]) : [0, tape.frames]
    const plays = { tape: tape.id, from, to }
    const loud = async (of: TapeInfo, a: Frames, b: Frames) => loudnessOfTape(of.id, a, b, () => toFacts(of))
    const was = old && 'tape' in hanger.plays ? await loud(old, hanger.plays.from, hanger.plays.to) : NaN
    const by = was - (await loud(tape, from, to))
    const now = live.body.records[hanger.id]
    if (now?.kind === 'hanger') act(exchanged(now, plays, Number.isFinite(by) ? by : 0), `exchange it for ${tape.name}`)
  }
  /** Whether music ends with what it is under: then its last note lies at its end. */
  const endWithLastNote = (one: PlacedHanger, whether: boolean) => {
    const { hanger } = one
    const options = { label: whether ? 'end with its last note' : 'begin with its first note', together: crypto.randomUUID() }
    const steps: StoryStep[] = [{ type: 'set', id: hanger.id, key: 'by', value: whether ? 'end' : undefined }]
    if (whether && !hanger.end) steps.push({ type: 'set', id: hanger.id, key: 'end', value: edgesUnder([], page.spine).end })
    live.act(steps, options)
    const tape = whether && tapeOf(hanger)
    if (!tape) return
    void lastNoteOf(tape).then((to) => {
      const now = live.body.records[hanger.id]
      if (now?.kind !== 'hanger' || now.by !== 'end' || !('tape' in now.plays) || to <= now.plays.from || to === now.plays.to) return
      live.act([{ type: 'set', id: hanger.id, key: 'plays', value: { ...now.plays, to } }], options)
    })
  }
  /** Whether music that is too short goes back to a place that sounds alike, as often as is needed. */
  const repeat = async ({ hanger }: PlacedHanger, whether: boolean) => {
    const { plays } = hanger
    const tape = tapeOf(hanger)
    if (!tape || !('tape' in plays)) return
    if (!whether) return set(hanger, 'back', undefined, 'repeat no more')
    const plan = planOf([{ ...plays, sound: 'tape' }], () => toFacts(tape))
    const waiting = toast.loading('Looking for places that sound alike …')
    const found = await alikeIn(plan).finally(() => toast.dismiss(waiting))
    if (!found) return void toast('No two places of it sound alike: it can’t be repeated unheard.')
    const now = live.body.records[hanger.id]
    // what somebody has exchanged meanwhile has other places
    if (now?.kind !== 'hanger' || !('tape' in now.plays) || now.plays.tape !== plays.tape || now.plays.from !== plays.from) return
    const back = { ...found, from: plays.from + found.from, to: plays.from + found.to }
    const steps: StoryStep[] = [{ type: 'set', id: hanger.id, key: 'back', value: back }]
    if (now.goesOn) steps.push({ type: 'set', id: hanger.id, key: 'goesOn', value: undefined })
    act(steps, 'repeat where it is too short')
  }
  const setLane = (lane: Lane, key: keyof Lane, value: unknown, label: string) => act([{ type: 'set', id: lane.id, key, value }], label)
  const lanes = lanesOf(body)
  /** All lanes at once, by so many dB. */
  const turnLanes = (by: number) =>
    act(
      lanes.map(({ id: lane, gain }): StoryStep => ({ type: 'set', id: lane, key: 'gain', value: clampDB(gain + by) })),
      'level of all lanes',
    )
  return {
    placed,
    lanes,
    chosen,
    choose,
    lay,
    layPiece,
    move,
    turn,
    moveSection,
    set,
    repeat,
    setLane,
    turnLanes,
    remove,
    split,
    copyTo,
    slip,
    exchange,
    endWithLastNote,
    act,
  }
}

export type Hangers = ReturnType<typeof useHangers>

export const clampDB = (dB: number): number => Math.max(-60, Math.min(24, Math.round(dB * 10) / 10))

/** Why something does not lie where it was put, in words. */
export const whyNot = ({ why }: Hold): string | null =>
  why === 'aside'
    ? 'its block is set aside'
    : why === 'out'
      ? 'its block is not in this output'
      : why === 'unsaid'
        ? 'its word is not said any more'
        : null
