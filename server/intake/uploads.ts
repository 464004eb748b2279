import { FileStore } from '@tus/file-store'
import { Server } from '@tus/server'
import { randomUUID } from 'node:crypto'
import type { RequestHandler } from 'express'
import * as yup from 'yup'
import { id } from '../../contract/ids'
import { TapeEntity } from '../entities'
import type { Services } from '../services'
import { allCame, beginTape, LARGEST, seeTo, shownName } from './intake'

export const UPLOADS = '/api/uploads'

/** What an upload says of what it is for: the story that it joins, and for a take the line of copy, and who recorded it. */
const madeFor = yup.object({ story: id().optional(), line: id().optional(), author: id().optional() })

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
      const { story, line, author } = await madeFor.validate(upload.metadata ?? {}).catch(() => {
        throw refusal(400, 'What the upload is for makes no sense.')
      })
      await beginTape(services, upload.id, shownName(filename), upload.size ?? 0, story ? { stories: [story] } : {})
      await services.database.manager.update(
        TapeEntity,
        { id: upload.id },
        {
          sender: new Date(),
          line: story && line && author ? { story, block: line, author, piece: randomUUID(), act: randomUUID() } : null,
        },
      )
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
    const [, there] = (await services.database.query('update tape set sender = now() where id = $1', [tape])) as [unknown, number]
    if (!there) throw refusal(410, 'That upload is not there any more.')
    await seeTo(services, tape)
  }

  return (request, response) => void tus.handle(request, response)
}
