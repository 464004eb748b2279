import { Router } from 'express'
import { findQuery } from '../../contract/find'
import { find } from '../find/find'
import type { Services } from '../services'

/** What was said, found again. */
export function findRoutes({ database }: Services): Router {
  const routes = Router()
  routes.get('/', async (request, response) => {
    response.json(await find(database, await findQuery.validate(request.query)))
  })
  return routes
}
