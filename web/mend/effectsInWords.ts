import { EFFECTS, type Effect } from '../../core/mend/effects'

const NAMES: Record<Effect, string> = { telephone: 'telephone colour', addedRoom: 'an added room' }

/** `telephone colour and an added room` */
export const effectsInWords = (effects: readonly Effect[]): string =>
  EFFECTS.filter((effect) => effects.includes(effect))
    .map((effect) => NAMES[effect])
    .join(' and ')
