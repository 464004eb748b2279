import { Router } from 'express'
import { voicingOrder } from '../../contract/voicings'
import type { Services } from '../services'
import { askForLines, endVoicing, voicingsOf } from '../voicing/layLines'
import { checkedId } from './checkedId'

/** Lines of copy, looked for on tapes that they were read on. */
export function voicingRoutes(services: Services): Router {
  const routes = Router()
  routes.param('tape', checkedId)
  routes.param('story', checkedId)
  routes.get('/of/:story', async (request, response) => {
    response.json(await voicingsOf(services, request.params.story))
  })
  routes.post('/:tape', async (request, response) => {
    const order = await voicingOrder.validate(request.body, { strict: true })
    await askForLines(services, request.params.tape, order)
    response.status(202).json(await voicingsOf(services, order.story))
  })
  routes.delete('/:tape', async (request, response) => {
    await endVoicing(services, request.params.tape)
    response.status(204).end()
  })
  return routes
}
