import * as yup from 'yup'
import { FINDER_NAMES } from '../core/tidy/finder'
import type { Dismissal } from '../core/tidy/rules'
import { id } from './ids'
import { chosenBy, language, name } from './shapes'

/** What a newsroom settled once about tidying. */

const finder = () => yup.string().oneOf(FINDER_NAMES).required()
const scope = yup.string().required()
const words = () => yup.string().max(500)

/** What is not to be offered again; its id is in the address. */
export const dismissalOrder = chosenBy(
  'scope',
  {
    words: yup
      .object({ scope, finder: finder(), speaker: name().defined(), language: language().required(), words: words().required() })
      .noUnknown(),
    tape: yup.object({ scope, finder: finder(), tape: id().required() }).noUnknown(),
  },
  'nothing that can be dismissed',
)

/** The filler words and phrases of a language, in small letters; null for the usual ones. */
export const phrasesOrder = yup
  .object({ phrases: yup.array(words().trim().min(1).max(80).required()).max(500).nullable().defined() })
  .noUnknown()

type WithoutId<T> = T extends unknown ? Omit<T, 'id'> : never
export type DismissalOrder = WithoutId<Dismissal>
