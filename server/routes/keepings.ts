import { Router } from 'express'
import { fromFolderOrder, searchQuery } from '../../contract/storyFiles'
import { askToBringBackFrom, askToTakeOut, cancelKeeping, keepings, storyFileOf } from '../keeping/keepings'
import { searchFolder } from '../keeping/searchFolder'
import type { Services } from '../services'
import { checkedId } from './checkedId'

/** Stories that go out into a file, and back. */
export function keepingRoutes(services: Services): Router {
  const routes = Router()
  routes.param('id', checkedId)

  routes.get('/', async (_request, response) => {
    response.json(await keepings(services))
  })

  routes.post('/out/:id', async (request, response) => {
    response.status(201).json(await askToTakeOut(services, request.params.id))
  })

  routes.get('/search', async (request, response) => {
    const { folder, words } = await searchQuery.validate(request.query)
    response.json(await searchFolder(folder, words))
  })

  routes.post('/backFrom', async (request, response) => {
    const { path } = await fromFolderOrder.validate(request.body, { strict: true })
    response.status(201).json(await askToBringBackFrom(services, path))
  })

  routes.delete('/:id', async (request, response) => {
    await cancelKeeping(services, request.params.id)
    response.status(204).end()
  })

  routes.get('/:id/file', async (request, response) => {
    const { path, fileName, bytes } = await storyFileOf(services, request.params.id)
    response.attachment(fileName).set('Content-Length', String(bytes))
    services.store
      .read(path)
      .on('error', () => response.destroy())
      .pipe(response)
  })
  return routes
}
