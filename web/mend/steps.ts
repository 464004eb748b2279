import type { MendStep } from '../../core/mend/chain'
import type { VoiceLevels } from '../../core/mend/sameVoice'

/** What each step of mending is called, what it is for, how it begins, and what can be set. */

type Kind = MendStep['kind']

/** The voice that a step is set for: levels in dBFS. */
export type Voice = VoiceLevels
/** Where nothing was measured yet. */
export const USUAL_VOICE: Voice = { speechLevel: -26, floor: -60, peak: -6 }

/** A figure that is typed, or one of several that is chosen. */
export interface Field {
  key: string
  label: string
  unit: string
  least: number
  most: number
  /** In whole numbers. */
  whole?: true
  oneOf?: readonly (readonly [number, string])[]
}

interface StepInfo {
  name: string
  why: string
  usual: (voice: Voice) => MendStep
  fields: readonly Field[]
}

const figure = (key: string, label: string, unit: string, least: number, most: number): Field => ({ key, label, unit, least, most })
const choice = (key: string, label: string, oneOf: Field['oneOf']): Field => ({ key, label, unit: '', least: 0, most: 0, oneOf })

const HERTZ = figure('hertz', 'frequency', 'Hz', 20, 20_000)
const TURNED = figure('dB', 'by', 'dB', -60, 24)
const LESS = figure('dB', 'by', 'dB less', 0, 24)
const SLOPE = choice(
  'slope',
  'slope',
  [6, 12, 18, 24].map((dB) => [dB, `${dB} dB an octave`] as const),
)
const round = (dB: number): number => Math.round(dB * 2) / 2
/** Between a voice and its room: where one ends and the other begins. */
const between = ({ speechLevel, floor }: Voice): number => round(Math.max(floor + 6, Math.min(speechLevel - 12, (speechLevel + floor) / 2)))

export const STEPS: Record<Kind, StepInfo> = {
  clipping: {
    name: 'Clipping',
    why: 'peaks that were cut off',
    usual: ({ peak }) => ({ kind: 'clipping', at: Math.round((peak - 0.1) * 100) / 100 }),
    fields: [figure('at', 'clipped from', 'dBFS on', -40, 6)],
  },
  clicks: {
    name: 'Clicks',
    why: 'clicks and crackle',
    usual: () => ({ kind: 'clicks', over: 26 }),
    fields: [figure('over', 'from', 'dB over what is expected', 12, 60)],
  },
  pops: {
    name: 'Pops',
    why: 'breath on p and b, bumps',
    usual: () => ({ kind: 'pops', over: 12 }),
    fields: [figure('over', 'from', 'dB over the usual low end', 3, 40)],
  },
  lowCut: {
    name: 'Low cut',
    why: 'rumble, wind, handling',
    usual: () => ({ kind: 'lowCut', hertz: 80, slope: 12 }),
    fields: [HERTZ, SLOPE],
  },
  hum: {
    name: 'Hum',
    why: 'mains and its harmonics',
    usual: () => ({ kind: 'hum', mains: 50, harmonics: 10 }),
    fields: [
      choice('mains', 'mains', [
        [50, '50 Hz'],
        [60, '60 Hz'],
      ]),
      { ...figure('harmonics', 'harmonics', 'harmonics', 1, 40), whole: true },
    ],
  },
  noise: { name: 'Noise', why: 'hiss, a fan, a street', usual: () => ({ kind: 'noise', dB: 12 }), fields: [{ ...LESS, most: 40 }] },
  movingNoise: {
    name: 'Moving noise',
    why: 'a street, a crowd',
    usual: () => ({ kind: 'movingNoise', blend: 0.8 }),
    fields: [],
  },
  reverberation: {
    name: 'Reverberation',
    why: 'a room that rings on',
    usual: () => ({ kind: 'reverberation', seconds: 0.5 }),
    fields: [figure('seconds', 'rings for', 's', 0.1, 2)],
  },
  dip: {
    name: 'Dip',
    why: 'one tone of the room',
    usual: () => ({ kind: 'dip', hertz: 400, dB: -5, width: 0.5 }),
    fields: [HERTZ, TURNED, figure('width', 'width', 'octaves', 0.02, 4)],
  },
  deEsser: {
    name: 'De-esser',
    why: 'a sharp s',
    usual: ({ speechLevel }) => ({ kind: 'deEsser', hertz: 6500, dB: 6, from: round(speechLevel - 12) }),
    fields: [HERTZ, LESS, figure('from', 'from', 'dBFS on', -120, 6)],
  },
  highCut: {
    name: 'High cut',
    why: 'hiss above what speech needs',
    usual: () => ({ kind: 'highCut', hertz: 12_000, slope: 12 }),
    fields: [HERTZ, SLOPE],
  },
  lowShelf: {
    name: 'Low shelf',
    why: 'too close to the microphone',
    usual: () => ({ kind: 'lowShelf', hertz: 200, dB: -4 }),
    fields: [HERTZ, TURNED],
  },
  highShelf: {
    name: 'High shelf',
    why: 'dull, or too sharp',
    usual: () => ({ kind: 'highShelf', hertz: 5000, dB: 3 }),
    fields: [HERTZ, TURNED],
  },
  expander: {
    name: 'Expander',
    why: 'a softer room in pauses',
    usual: (voice) => ({ kind: 'expander', dB: 6, from: between(voice) }),
    fields: [LESS, figure('from', 'a voice from', 'dBFS on', -120, 6)],
  },
  level: {
    name: 'Level',
    why: 'now too near, now too far',
    usual: (voice) => ({ kind: 'level', average: round(voice.speechLevel), ratio: 3, least: between(voice), passes: 2 }),
    fields: [
      figure('average', 'held at', 'dBFS', -120, 6),
      { ...figure('ratio', 'ratio', ': 1', 1, 20) },
      figure('least', 'a voice from', 'dBFS on', -120, 6),
      choice('passes', 'passes', [
        [1, 'phrases'],
        [2, 'phrases and bursts'],
      ]),
    ],
  },
  curve: {
    name: 'Match',
    why: 'as another passage sounds',
    usual: () => ({ kind: 'curve', thirds: Array<number>(25).fill(0) }),
    fields: [],
  },
  telephone: {
    name: 'Telephone',
    why: 'an effect: as from a telephone',
    usual: () => ({ kind: 'telephone', low: 300, high: 3400 }),
    fields: [
      { ...HERTZ, key: 'low', label: 'band from', most: 2000 },
      { ...HERTZ, key: 'high', label: 'to', least: 1000 },
    ],
  },
  addedRoom: {
    name: 'Added room',
    why: 'an effect: as in a room',
    usual: () => ({ kind: 'addedRoom', seconds: 0.5, dB: -12 }),
    fields: [figure('seconds', 'rings for', 's', 0.1, 0.75), { ...TURNED, label: 'room', unit: 'dB to the voice', least: -40, most: 6 }],
  },
  gain: { name: 'Gain', why: 'too soft, or too loud', usual: () => ({ kind: 'gain', dB: 3 }), fields: [TURNED] },
}

/** Those that are added by hand, in the order in which they do best: what is broken first, then noise, tone, and level at the end. */
export const STEP_KINDS = (Object.keys(STEPS) as Kind[]).filter((kind) => kind !== 'curve')

/** Where a step goes into a chain: behind all that should come before it. */
export function placeFor(kind: Kind, steps: readonly MendStep[]): number {
  const order = Object.keys(STEPS)
  const before = steps.findLastIndex((step) => order.indexOf(step.kind) <= order.indexOf(kind))
  return before + 1
}

/** Why two neighbours would do better the other way round; null where they stand well. */
export function orderRemark(steps: readonly MendStep[]): string | null {
  const at = (kind: Kind) => steps.findIndex((step) => step.kind === kind && !step.off)
  const [clipping, clicks, noise, level, expander] = [at('clipping'), at('clicks'), at('noise'), at('level'), at('expander')]
  if (clipping > 0 && steps.slice(0, clipping).some((step) => !step.off))
    return 'Clipping goes first: once anything has changed the peaks, it cannot tell where they were cut off.'
  if (noise >= 0 && level >= 0 && level < noise) return 'Noise goes before level: once the level rides, the noise rises and falls with it.'
  if (noise >= 0 && clicks > noise) return 'Clicks go before noise: it would take them for speech and smear them.'
  if (expander >= 0 && level > expander) return 'Level goes before the expander: it would lift again what was made softer.'
  return null
}
