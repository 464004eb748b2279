import { Router } from 'express'
import * as yup from 'yup'
import type { Desk } from '../../contract/desk'
import { id } from '../../contract/ids'
import type { Services } from '../services'
import { duplicateStory, pieceRows, recent } from '../stories'
import { storyRows } from '../storyRows'

/** The Desk, and the pieces that stories are made of. */
export function storyRoutes({ database }: Services): Router {
  const routes = Router()

  routes.get('/desk', async (_request, response) => {
    const [stories, last] = await Promise.all([storyRows(database), recent(database, 6)])
    response.json({ ...stories, recent: last } satisfies Desk)
  })

  routes.get('/pieces', async (request, response) => {
    const { story, tape } = await yup.object({ story: id().optional(), tape: id().optional() }).validate(request.query)
    response.json(await pieceRows(database, { story, tape }))
  })

  routes.post('/stories/:id/duplicate', async (request, response) => {
    const story = await id().required().validate(request.params.id)
    response.status(201).json({ id: await duplicateStory(database, story) })
  })

  return routes
}
