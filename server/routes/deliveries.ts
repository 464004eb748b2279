import { Router } from 'express'
import { In } from 'typeorm'
import { deliveryOrder, sayingSchema } from '../../contract/deliveries'
import { destinationSchema, type DestinationOrder } from '../../contract/destinations'
import { saidOf, startDeliveries } from '../delivery/deliver'
import {
  chosenDestinations,
  destinations,
  forgetHostKey,
  keepDestination,
  reach,
  removeDestination,
  toDestination,
} from '../delivery/destinations'
import { DeliveryEntity, DestinationEntity, toDelivery } from '../delivery/rows'
import { SendEntity } from '../entities'
import { tell } from '../notices'
import { notFound } from '../problem'
import { airTimeOfOrder, sendTo, receiptsOf } from '../send/send'
import type { Services } from '../services'
import { checkedId } from './checkedId'

/** Where files are sent to. */
export function destinationRoutes(services: Services): Router {
  const { database } = services
  const routes = Router()
  routes.param('id', checkedId)
  const changed = () => tell(database, { about: 'destinations' })

  routes.get('/', async (_request, response) => {
    response.json(await destinations(services))
  })

  routes.put('/:id', async (request, response) => {
    const order = (await destinationSchema.validate(request.body, { strict: true })) as DestinationOrder
    response.json(await keepDestination(services, request.params.id, order))
    await changed()
  })

  routes.delete('/:id', async (request, response) => {
    await removeDestination(services, request.params.id)
    await changed()
    response.status(204).end()
  })

  /** Goes there and back, without leaving anything. */
  routes.post('/:id/try', async (request, response) => {
    const row = await database.manager.findOneBy(DestinationEntity, { id: request.params.id, gone: false })
    if (!row) throw notFound('That destination')
    await reach(services, row)
    const now = await database.manager.findOneByOrFail(DestinationEntity, { id: row.id })
    response.json(toDestination(now))
    await changed()
  })

  routes.delete('/:id/hostKey', async (request, response) => {
    await forgetHostKey(services, request.params.id)
    await changed()
    response.status(204).end()
  })
  return routes
}

/** The ways of files: all that are not at their end, and what a person says of one. */
export function deliveryRoutes(services: Services): Router {
  const { database } = services
  const routes = Router()
  routes.param('id', checkedId)

  /** Receipts of what is under way, or stands still and wants a person. */
  routes.get('/open', async (_request, response) => {
    const open = await database.manager.findBy(DeliveryEntity, { state: In(['waiting', 'sending', 'perhaps', 'exists', 'failed']) })
    const sends = await database.manager.find(SendEntity, {
      where: [{ id: In(open.map(({ send }) => send)) }, { state: In(['waiting', 'working']) }],
      order: { at: 'DESC' },
      take: 200,
    })
    response.json(await receiptsOf(services, sends))
  })

  routes.post('/:id/say', async (request, response) => {
    const { say } = await sayingSchema.validate(request.body, { strict: true })
    response.json(await saidOf(services, request.params.id, say))
  })

  /** A file that was made goes to one destination more. */
  routes.post('/of/:id', async (request, response) => {
    const { destination } = await deliveryOrder.validate(request.body, { strict: true })
    const send = await database.manager.findOneBy(SendEntity, { id: request.params.id, state: In(['waiting', 'working', 'done']) })
    if (!send) throw notFound('That file')
    const [to] = await chosenDestinations(services, [destination])
    const row = await sendTo(database.manager, send, to, await airTimeOfOrder(services, send.request))
    await tell(database, { about: 'send', id: send.id })
    await startDeliveries(services)
    response.status(201).json(toDelivery(row))
  })
  return routes
}
