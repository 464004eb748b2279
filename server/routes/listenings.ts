import { Router } from 'express'
import { listenOrder } from '../../contract/listenings'
import type { Services } from '../services'
import { askToListen, cancelListening, heardOn, listeningOf } from '../tidy/listening'
import { checkedId } from './checkedId'

/** What finders that go by the sound of a tape need to know of it. */
export function listeningRoutes(services: Services): Router {
  const routes = Router()
  routes.param('tape', checkedId)
  routes.get('/:tape', async (request, response) => {
    response.json(await listeningOf(services, request.params.tape))
  })
  routes.get('/:tape/heard', async (request, response) => {
    response
      .set('Cache-Control', 'no-cache')
      .type('application/json')
      .send(await heardOn(services, request.params.tape))
  })
  routes.post('/', async (request, response) => {
    const { tape } = await listenOrder.validate(request.body, { strict: true })
    response.status(202).json(await askToListen(services, tape))
  })
  routes.delete('/:tape', async (request, response) => {
    await cancelListening(services, request.params.tape)
    response.status(204).end()
  })
  return routes
}
