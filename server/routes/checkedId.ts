import type { RequestParamHandler } from 'express'
import { id } from '../../contract/ids'

const anId = id().required()

/** Refuses what is no id before anything is looked for by it. */
export const checkedId: RequestParamHandler = (_request, _response, next, value) => {
  anId.validateSync(value)
  next()
}
