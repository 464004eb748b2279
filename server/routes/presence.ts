import { Router } from 'express'
import { presenceSchema } from '../../contract/presence'
import { tell } from '../notices'
import type { Services } from '../services'

/** Who has what open: passed on to all who listen, and kept nowhere. */
export function presenceRoutes({ database }: Services): Router {
  const routes = Router()
  routes.post('/', async (request, response) => {
    const presence = await presenceSchema.validate(request.body, { strict: true })
    await tell(database, { about: 'presence', ...presence })
    response.status(204).end()
  })
  return routes
}
