import { overlaps, without } from '../stretches'
import { scramble } from '../sound/random'
import { milliseconds, RATE, toFrames, type Frames, type Stretch } from '../time'
import type { Finder, Found, Looked, Setting } from './finder'
import { DEAD_AIR } from './deadAir'
import { gapsOf, type SilentGap } from './gaps'

/**
 * Pauses inside speech that are longer than a figure go to this speaker's own: each to one of the lengths that the speaker
 * leaves at such places, so that they are never all equal.
 */

/** No pause is left shorter. */
const FLOOR: Frames = milliseconds(120)
/** Fewer of a speaker's pauses at a kind of place tell nothing: then those at all places do. */
const FEWEST = 4
/** A usual pause where nothing is known, and how many times its usual one a speaker's pause is long. */
const USUAL: Frames = milliseconds(350)
const TIMES_USUAL = 2
/** Of what is left, so much stands before what goes: a last sound dies away there, and the next word begins sharply. */
const BEFORE = 0.6

interface Measured {
  tape: string
  gaps: readonly SilentGap[]
  /** By speaker and kind of place, the pauses that count as usual, the shortest first. */
  own: ReadonlyMap<string, readonly Frames[]>
}

const keyOf = ({ speaker, kind }: Pick<SilentGap, 'speaker' | 'kind'>): string => `${kind}/${speaker}`
const middle = (sorted: readonly number[]): number => sorted[Math.floor((sorted.length - 1) / 2)]
const length = ({ from, to }: SilentGap): Frames => to - from

/** What a speaker leaves at a kind of place; at any place where little is known of that one. */
function ownAt({ own }: Measured, gap: Pick<SilentGap, 'speaker' | 'kind'>): readonly Frames[] {
  const here = own.get(keyOf(gap)) ?? []
  if (here.length >= FEWEST) return here
  const all = [...own].filter(([key]) => key.endsWith(`/${gap.speaker}`)).flatMap(([, some]) => some)
  return all.length >= FEWEST ? all.sort((a, b) => a - b) : []
}

export const pauses: Finder = (looked) => {
  const measured = measure(looked)
  return { setting: settingOf(measured), find: (setting) => longPauses(measured, toFrames(setting)) }
}

function measure(looked: Looked): Measured {
  const gaps = gapsOf(looked).flatMap((gap) => silentParts(gap, looked))
  const own = new Map<string, Frames[]>()
  for (const gap of gaps) {
    if (length(gap) < FLOOR || gap.kind === 'turn') continue
    const some = own.get(keyOf(gap))
    if (some) some.push(length(gap))
    else own.set(keyOf(gap), [length(gap)])
  }
  for (const some of own.values()) some.sort((a, b) => a - b)
  return { tape: looked.tape, gaps, own }
}

/** A gap without what is loud in it: a cough between two words leaves two silences. */
function silentParts(gap: SilentGap, { heard }: Looked): SilentGap[] {
  const bangs = (heard ?? []).flatMap(({ loud }) => loud.filter((one) => one.voiceless && overlaps(one, gap)))
  return bangs.length ? without(gap, bangs).map((part) => ({ ...gap, ...part })) : [gap]
}

/** In seconds: a pause is long at some times what the tape's speakers leave at the ends of sentences. */
function settingOf({ own }: Measured): Setting {
  const usual = [...own].filter(([key, some]) => key.startsWith('sentence/') && some.length >= FEWEST).map(([, some]) => middle(some))
  const seconds = (Math.max(0, ...usual) || USUAL) * (TIMES_USUAL / RATE)
  return { unit: 's', least: 0.3, most: 2.5, step: 0.05, usual: Math.min(1.5, Math.max(0.5, Math.round(seconds * 20) / 20)) }
}

function longPauses(measured: Measured, longer: Frames): Found[] {
  const known = new Map<string, Frames[]>()
  /** What this speaker leaves at such places, of each once. */
  const usualAt = (gap: SilentGap): Frames[] => {
    const at = { speaker: gap.speaker, kind: gap.kind === 'turn' ? ('sentence' as const) : gap.kind }
    const usual = known.get(keyOf(at)) ?? ownAt(measured, at).filter((one) => one < longer)
    known.set(keyOf(at), usual)
    return usual
  }
  return measured.gaps.flatMap((gap): Found[] => {
    if (length(gap) < longer || length(gap) >= DEAD_AIR) return []
    const kept = leftOf(measured, gap, usualAt(gap), longer)
    const { from, to, speaker, kind, asked } = gap
    return [
      {
        from,
        to,
        ...(speaker ? { speaker } : {}),
        proposes: { do: 'takeOut', goes: partOf(gap, kept), room: 0 },
        sure: 1,
        ...(asked || kind === 'turn' ? { care: 'may be the story' as const } : {}),
      },
    ]
  })
}

/** What goes of a pause so that so much is left of it. */
export function partOf({ from, to }: Stretch, kept: Frames): Stretch {
  const before = Math.round(kept * BEFORE)
  return { from: from + before, to: to - (kept - before) }
}

/** How long a pause is left: as one of those of the speaker's own that are not too long themselves. */
function leftOf({ tape }: Measured, { from }: SilentGap, usual: readonly Frames[], longer: Frames): Frames {
  if (!usual.length) return Math.max(FLOOR, Math.min(USUAL, longer))
  return Math.max(FLOOR, usual[scramble(tape, from) % usual.length])
}
