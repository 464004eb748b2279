import type { Anchor } from '../../core/page/anchors'
import { USUAL_DIP } from '../../core/page/dips'
import { placeAt } from '../../core/page/order'
import { lanesOf, type Block, type Hanger, type Lane, type StoryDocument, type StoryStep } from '../../core/page/story'
import { toFrames, type Frames } from '../../core/time'

/**
 * What lies under the voices of a page: an ambience goes on as long as it is wanted, music is over when it is over. An effect is
 * a sound at a place: it stays up, whoever speaks.
 */
export type Under = 'ambience' | 'music' | 'effect'

const LANES: Record<Under, Pick<Lane, 'name' | 'colour'>> = {
  ambience: { name: 'Ambience', colour: 'ink' },
  music: { name: 'Music', colour: 'voice' },
  effect: { name: 'Effects', colour: 'tape' },
}
const FADES: Record<Under, Pick<Hanger, 'fadeIn' | 'fadeOut'>> = {
  ambience: { fadeIn: toFrames(1), fadeOut: toFrames(1.5) },
  music: { fadeOut: toFrames(2.5) },
  effect: {},
}

/** What a tape most likely is, by what it is called. */
export const likely = (name: string): Under => (/\b(music|bed|theme|song|tune|sting|jingle)\b/i.test(name) ? 'music' : 'ambience')

/** The lane that such sound lies on, and the steps that make it where there is none. */
function laneFor(story: StoryDocument, under: Under): { lane: string; steps: StoryStep[] } {
  const lanes = lanesOf(story)
  const { name, colour } = LANES[under]
  const there = lanes.find((lane) => lane.name === name && !lane.locked)
  if (there) return { lane: there.id, steps: [] }
  const { order, others } = placeAt(lanes, lanes.length)
  const lane: Lane = { id: crypto.randomUUID(), kind: 'lane', name, colour, order, locked: false, muted: false, gain: 0 }
  const ordered = others.map((one): StoryStep => ({ type: 'set', id: one.id, key: 'order', value: one.order }))
  return { lane: lane.id, steps: [...ordered, { type: 'put', record: lane }] }
}

/** How far each lies below the voices while it is up, in LU, and how much further it goes down under them, in dB. */
const UP_BELOW: Record<Under, number> = { ambience: 8, music: 2, effect: 8 }
const DIPS: Record<Under, number | null> = { ambience: -8, music: USUAL_DIP.dB, effect: null }
/** More would bring up the noise that it was recorded with, in dB. */
const MOST_GAIN = 24

/** The level of a sound that is laid under, in dB: `voice` and its own loudness in LUFS. Null where it cannot be told. */
export function upLevel(under: Under, voice: number | null, loudness: number): number | null {
  if (voice === null || !Number.isFinite(loudness)) return null
  return Math.max(-60, Math.min(MOST_GAIN, Math.round((voice - UP_BELOW[under] - loudness) * 10) / 10))
}

/** Ambience and music begin so long before the words that they lie under, and end so long after them. */
const BEFORE: Frames = toFrames(1)
const AFTER: Frames = toFrames(1.5)

/** Where sound lies that is laid under blocks; of all of a page, it ends with it. */
export function edgesUnder(blocks: readonly Block[], spine: readonly Block[]): { start: Anchor; end: Anchor | null } {
  const [first, last] = [blocks[0] ?? spine[0], blocks.at(-1) ?? spine.at(-1)]
  if (!first || !last) return { start: { at: 0 }, end: null }
  return {
    start: { block: first.id, at: 'start', offset: first === spine[0] ? 0 : -BEFORE },
    end: { block: last.id, at: 'end', offset: last === spine.at(-1) ? 0 : AFTER },
  }
}

/** A new hanger that dips under voices, and the steps that put it on the page: on a lane of its kind where none is named. */
export function layUnder(
  story: StoryDocument,
  plays: Hanger['plays'],
  under: Under,
  { start, end }: { start: Anchor; end: Anchor | null },
  on?: string,
): { hanger: Hanger; steps: StoryStep[] } {
  const { lane, steps } = on ? { lane: on, steps: [] } : laneFor(story, under)
  const dB = DIPS[under]
  const hanger: Hanger = {
    id: crypto.randomUUID(),
    kind: 'hanger',
    lane,
    aside: false,
    plays,
    start,
    end,
    gain: 0,
    ...(dB === null ? {} : { dip: { ...USUAL_DIP, dB } }),
    ...FADES[under],
    ...(under === 'ambience' && 'tape' in plays ? { goesOn: true } : {}),
  }
  return { hanger, steps: [...steps, { type: 'put', record: hanger }] }
}
