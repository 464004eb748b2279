import express, { Router } from 'express'
import { MOST_STILL_BYTES } from '../../contract/pictures'
import { takeStill } from '../picture/stills'
import { notFound } from '../problem'
import type { Services } from '../services'
import { checkedId } from './checkedId'

/** Still images for pictures with sound. */
export function stillRoutes(services: Services): Router {
  const { store } = services
  const routes = Router()
  routes.param('id', checkedId)

  routes.post('/', express.raw({ type: () => true, limit: MOST_STILL_BYTES }), async (request, response) => {
    const bytes = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0)
    response.status(201).json({ id: await takeStill(services, bytes) })
  })

  routes.get('/:id', async (request, response) => {
    const path = store.still(request.params.id)
    await store.size(path).catch(() => {
      throw notFound('That still image')
    })
    response.type('image/jpeg').set('Cache-Control', 'private, max-age=31536000, immutable')
    store
      .read(path)
      .on('error', () => response.destroy())
      .pipe(response)
  })

  return routes
}
