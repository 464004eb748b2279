import { Router } from 'express'
import { recogniseOrder, voicesOrder } from '../../contract/recognitions'
import { askForWords, cancelRecognition, recognitionOf } from '../recognise/recognise'
import { suggestVoices } from '../speakers/speakers'
import type { Services } from '../services'
import { checkedId } from './checkedId'

/** Words of tapes on their way. */
export function recognitionRoutes(services: Services): Router {
  const routes = Router()
  routes.param('tape', checkedId)
  routes.get('/:tape', async (request, response) => {
    response.json(await recognitionOf(services, request.params.tape))
  })
  routes.post('/', async (request, response) => {
    const { tape } = await recogniseOrder.validate(request.body, { strict: true })
    response.status(202).json(await askForWords(services, tape))
  })
  routes.post('/:tape/voices', async (request, response) => {
    const { author } = await voicesOrder.validate(request.body, { strict: true })
    response.json({ voices: await suggestVoices(services, request.params.tape, author) })
  })
  routes.delete('/:tape', async (request, response) => {
    await cancelRecognition(services, request.params.tape)
    response.status(204).end()
  })
  return routes
}
