import { Router } from 'express'
import { keepRulesSchema, spareOrder, type KeepRules } from '../../contract/keepRules'
import { goingTapes, keepRules, setKeepRules, spareTapes } from '../keeping/rules'
import type { Services } from '../services'

/** How long things are kept, and what will go by that. */
export function keepRuleRoutes(services: Services): Router {
  const routes = Router()

  routes.get('/', async (_request, response) => {
    response.json(await keepRules(services))
  })

  routes.put('/', async (request, response) => {
    const rules = (await keepRulesSchema.validate(request.body, { strict: true })) as KeepRules
    await setKeepRules(services, rules)
    response.json(await keepRules(services))
  })

  routes.get('/going', async (_request, response) => {
    response.json(await goingTapes(services))
  })

  routes.post('/spare', async (request, response) => {
    const { tapes } = await spareOrder.validate(request.body, { strict: true })
    await spareTapes(services, tapes)
    response.status(204).end()
  })
  return routes
}
