import { Router } from 'express'
import { In } from 'typeorm'
import { takeSchema } from '../../contract/cards'
import { id } from '../../contract/ids'
import { cardsNow, takeFromCard } from '../card/cards'
import { CallEntity } from '../entities'
import { tell } from '../notices'
import { notFound } from '../problem'
import type { Services } from '../services'

/** Ways in other than files: recorders' cards and the telephone line. */
export function intakeRoutes(services: Services): Router {
  const { database } = services
  const routes = Router()

  routes.get('/cards', async (_request, response) => {
    response.json(await cardsNow(services))
  })

  routes.post('/cards/take', async (request, response) => {
    const { card, paths } = await takeSchema.validate(request.body, { strict: true })
    response.json(await takeFromCard(services, card, paths))
  })

  routes.get('/calls', async (_request, response) => {
    response.json(
      await database.manager.find(CallEntity, { where: { state: In(['ringing', 'answering', 'on', 'ending']) }, order: { at: 'DESC' } }),
    )
  })

  /** A wish about a call: whoever holds the line carries it out. */
  const wish = (path: string, from: string, to: string) =>
    routes.post(`/calls/:id/${path}`, async (request, response) => {
      const call = await id().required().validate(request.params.id)
      const { affected } = await database.manager.update(CallEntity, { id: call, state: from as 'ringing' }, { state: to as 'ringing' })
      if (!affected) throw notFound('That call')
      await tell(database, { about: 'call', id: call })
      response.status(204).end()
    })
  wish('answer', 'ringing', 'answering')
  wish('decline', 'ringing', 'declining')
  wish('end', 'on', 'ending')

  return routes
}
