import { FileStore } from '@tus/file-store'
import { Server } from '@tus/server'
import { randomUUID } from 'node:crypto'
import type { RequestHandler } from 'express'
import { id } from '../../contract/ids'
import { TapeEntity } from '../entities'
import type { Services } from '../services'
import { allCame, beginTape, LARGEST, seeTo, shownName } from './intake'

export const UPLOADS = '/api/uploads'

/**
 * Resumable uploads (tus 1.0): a file comes in as many goes as it takes, and whatever has arrived
 * stays. An upload's name is the tape's. A length may be told at the end, as recordings do it.
 */
export function uploads(services: Services): RequestHandler {
  const { store } = services
  const files = new FileStore({ directory: store.uploads })
  const refusal = (status_code: number, body: string) => ({ status_code, body })
  const tus = new Server({
    path: UPLOADS,
    datastore: files,
    relativeLocation: true,
    maxSize: LARGEST,
    namingFunction: () => randomUUID(),
    onUploadCreate: async (_request, upload) => {
      const { filename } = upload.metadata ?? {}
      if (!filename) throw refusal(400, 'A file needs a name.')
      if (upload.size === 0) throw refusal(422, `“${shownName(filename)}” is empty. Nothing was kept of it.`)
      const { story } = upload.metadata ?? {}
      await beginTape(services, upload.id, shownName(filename), upload.size ?? 0, story && id().isValidSync(story) ? { stories: [story] } : {})
      return {}
    },
    onIncomingRequest: async (request, upload) => {
      if (request.method === 'PATCH' || request.method === 'HEAD') await called(upload)
    },
    onUploadFinish: async (_request, upload) => {
      await allCame(services, upload.id, upload.size ?? upload.offset)
      return {}
    },
  })

  /** Somebody sends more of it: whoever tends to it is called, and what was lost on the way is said. */
  async function called(tape: string): Promise<void> {
    if (!(await services.database.manager.existsBy(TapeEntity, { id: tape }))) throw refusal(410, 'That upload is not there any more.')
    await seeTo(services, tape)
  }

  return (request, response) => void tus.handle(request, response)
}
