import type { MendStep } from './chain'
import type { Treatment } from './treatment'

/** Steps that make a sound other than it was, for drama. They are called effects wherever they are heard on somebody's words. */
export const EFFECTS = ['telephone', 'addedRoom'] as const satisfies MendStep['kind'][]
export type Effect = (typeof EFFECTS)[number]

export const isEffect = (kind: MendStep['kind']): kind is Effect => (EFFECTS as readonly string[]).includes(kind)

/** The effects of a treatment, each once. */
export const effectsIn = (treatment: Treatment): Effect[] =>
  treatment.kind === 'chain' ? EFFECTS.filter((effect) => treatment.steps.some(({ kind, off }) => kind === effect && !off)) : []
