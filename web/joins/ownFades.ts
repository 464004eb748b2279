import * as yup from 'yup'
import type { CrossFade } from '../../core/edits/fades'
import type { EndFade } from '../../core/edits/actuality'

/** The fades that somebody wants without asking for them each time: kept in the browser that they work in. */
export interface OwnFades {
  /** At a cut; null where it is chosen for what meets there. */
  join: CrossFade | null
  /** At the ends of a piece; null where they are as long as its handles. */
  fadeIn: EndFade | null
  fadeOut: EndFade | null
}

const shape = yup
  .string()
  .oneOf(['power', 'gain'] as const)
  .required()
const end = yup
  .object({ length: yup.number().integer().min(0).required(), shape })
  .nullable()
  .default(null)
const schema = yup.object({
  join: yup
    .object({ fade: yup.number().integer().min(0).required(), shape })
    .nullable()
    .default(null),
  fadeIn: end,
  fadeOut: end,
})

export function ownFades(): OwnFades {
  try {
    return schema.validateSync(JSON.parse(localStorage.fades ?? '{}')) as OwnFades
  } catch {
    return { join: null, fadeIn: null, fadeOut: null }
  }
}

export function keepOwnFades(fades: OwnFades): void {
  localStorage.fades = JSON.stringify(fades)
}
