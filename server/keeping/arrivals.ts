import { FileStore } from '@tus/file-store'
import { Server } from '@tus/server'
import { randomUUID } from 'node:crypto'
import type { RequestHandler } from 'express'
import { LARGEST, shownName } from '../intake/intake'
import type { Services } from '../services'
import { bringBackArrived } from './keepings'

export const STORY_FILES = '/api/storyFiles'

/** Story files that come in from a browser (tus 1.0): what has arrived stays, and goes on after a line or a server that was gone. */
export function storyFileArrivals(services: Services): RequestHandler {
  const { store } = services
  const refusal = (status_code: number, body: string) => ({ status_code, body })
  const tus = new Server({
    path: STORY_FILES,
    datastore: new FileStore({ directory: store.arrivals }),
    relativeLocation: true,
    maxSize: LARGEST,
    namingFunction: () => randomUUID(),
    onUploadCreate: async (_request, upload) => {
      if (!upload.metadata?.filename) throw refusal(400, 'A file needs a name.')
      if (!upload.size) throw refusal(422, `“${shownName(upload.metadata.filename)}” is empty. Nothing was kept of it.`)
      return {}
    },
    onUploadFinish: async (_request, { id, metadata }) => {
      await bringBackArrived(services, id, metadata?.filename ?? 'story.zip')
      return {}
    },
  })
  return (request, response) => void tus.handle(request, response)
}
