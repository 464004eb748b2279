import { raw, Router } from 'express'
import { bringQuery, LARGEST_TEXT } from '../../contract/bringings'
import { bringIn, bringingOf, endBringing } from '../bringing/bring'
import type { Services } from '../services'
import { checkedId } from './checkedId'

/** Files of words, brought in for a tape. */
export function bringingRoutes(services: Services): Router {
  const routes = Router()
  routes.param('tape', checkedId)
  routes.get('/:tape', async (request, response) => {
    response.json(await bringingOf(services, request.params.tape))
  })
  routes.post('/:tape', raw({ type: '*/*', limit: LARGEST_TEXT }), async (request, response) => {
    const { name, author } = await bringQuery.validate(request.query)
    response
      .status(202)
      .json(await bringIn(services, request.params.tape, name, author, Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0)))
  })
  routes.delete('/:tape', async (request, response) => {
    await endBringing(services, request.params.tape)
    response.status(204).end()
  })
  return routes
}
