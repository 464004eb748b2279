import { Router } from 'express'
import { statfs } from 'node:fs/promises'
import { pageSchema, searchSchema, type KeptSearch } from '../../contract/library'
import { deleteTape, libraryFacts, libraryPage, takeBackTape } from '../library'
import { tell } from '../notices'
import type { Services } from '../services'
import { checkedId } from './checkedId'

/** The library: all tapes as they are filed, what was said on them, and searches that were kept. */
export function libraryRoutes(services: Services): Router {
  const { database } = services
  const routes = Router()

  routes.param('id', checkedId)

  routes.post('/page', async (request, response) => {
    response.json(await libraryPage(database, await pageSchema.validate(request.body, { strict: true })))
  })

  routes.get('/facts', async (_request, response) => {
    response.json(await libraryFacts(database))
  })

  routes.delete('/tapes/:id', async (request, response) => {
    await deleteTape(services, request.params.id)
    response.status(204).end()
  })

  routes.post('/tapes/:id/back', async (request, response) => {
    await takeBackTape(services, request.params.id)
    response.status(204).end()
  })

  routes.post('/tapes/:id/heard', async (request, response) => {
    const [rows] = (await database.query('update tape set heard = true where id = $1 and not heard returning id', [request.params.id])) as [
      unknown[],
      number,
    ]
    if (rows.length) await tell(database, { about: 'tape', id: request.params.id })
    response.status(204).end()
  })

  routes.get('/disk', async (_request, response) => {
    const { bavail, bsize } = await statfs(services.config.data)
    response.json({ free: bavail * bsize })
  })

  routes.get('/searches', async (_request, response) => {
    response.json(await database.query<KeptSearch[]>('select id, name, filter from search order by name'))
  })

  routes.put('/searches/:id', async (request, response) => {
    const { name, filter } = await searchSchema.validate(request.body, { strict: true })
    await database.query(
      'insert into search (id, name, filter) values ($1, $2, $3) on conflict (id) do update set name = $2, filter = $3',
      [request.params.id, name, filter],
    )
    response.status(204).end()
  })

  routes.delete('/searches/:id', async (request, response) => {
    await database.query('delete from search where id = $1', [request.params.id])
    response.status(204).end()
  })

  return routes
}
