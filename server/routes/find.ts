import { Router } from 'express'
import { findQuery } from '../../contract/find'
import { find } from '../find/find'
import { findMarks } from '../find/marks'
import type { Services } from '../services'

/** What was said, and what was marked, found again. */
export function findRoutes({ database }: Services): Router {
  const routes = Router()
  routes.get('/', async (request, response) => {
    response.json(await find(database, await findQuery.validate(request.query)))
  })
  routes.get('/marks', async (request, response) => {
    response.json(await findMarks(database, await findQuery.validate(request.query)))
  })
  return routes
}
