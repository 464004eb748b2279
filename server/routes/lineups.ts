import { Router } from 'express'
import { joinSchema, lineUpSchema, moveSchema, mutesSchema, sequenceSchema, splitSchema, type JoinOrder } from '../../contract/lineups'
import { beginJoin, beginLineUp, beginSequence, beginSplit, cancelLineUp, lineUpInfo, madeOf, movePiece, mutesOf } from '../lineup/lineUps'
import type { Services } from '../services'
import { checkedId } from './checkedId'

/** Putting recordings of one conversation in step. */
export function lineUpRoutes(services: Services): Router {
  const routes = Router()

  routes.param('id', checkedId)

  routes.post('/', async (request, response) => {
    const { tapes } = await lineUpSchema.validate(request.body, { strict: true })
    response.status(201).json(await beginLineUp(services, tapes))
  })

  routes.post('/sequence', async (request, response) => {
    const { tapes, name } = await sequenceSchema.validate(request.body, { strict: true })
    response.status(201).json(await beginSequence(services, tapes, name))
  })

  routes.post('/split', async (request, response) => {
    const { tape, side } = await splitSchema.validate(request.body, { strict: true })
    response.status(201).json(await beginSplit(services, tape, side))
  })

  routes.get('/:id', async (request, response) => {
    response.json(await lineUpInfo(services, request.params.id))
  })

  routes.post('/:id/join', async (request, response) => {
    response.json(await beginJoin(services, request.params.id, (await joinSchema.validate(request.body, { strict: true })) as JoinOrder))
  })

  routes.post('/:id/mutes', async (request, response) => {
    response.json(await mutesOf(services, request.params.id, (await mutesSchema.validate(request.body, { strict: true })) as JoinOrder))
  })

  routes.delete('/:id', async (request, response) => {
    await cancelLineUp(services, request.params.id)
    response.status(204).end()
  })

  /** What a tape was made of, by the joined tape's id. */
  routes.get('/of/:id', async (request, response) => {
    response.json(await madeOf(services, request.params.id))
  })

  routes.post('/of/:id/move', async (request, response) => {
    const { piece, author } = await moveSchema.validate(request.body, { strict: true })
    await movePiece(services, request.params.id, piece, author)
    response.status(204).end()
  })

  return routes
}
