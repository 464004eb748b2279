import { Router } from 'express'
import * as yup from 'yup'
import { realign } from '../align/realign'
import { checkedBody, checkedSteps, submissionSchema, type StoredDocument } from '../../contract/documents'
import { id, revision } from '../../contract/ids'
import { DocumentEntity } from '../entities'
import { changed, checkSpans, logSince, ownFrom, submit } from '../documents/submit'
import { tell } from '../notices'
import { notFound, Refusal } from '../problem'
import type { Services } from '../services'

/** Documents and their steps. */
export function documentRoutes(services: Services): Router {
  const { database } = services
  const routes = Router()

  routes.param('id', async (_request, _response, next, value) => {
    await id().required().validate(value)
    next()
  })

  routes.get('/:id', async (request, response) => {
    const row = await database.manager.findOneBy(DocumentEntity, { id: request.params.id })
    if (!row) throw notFound('What you are looking for')
    const { body, kind, aside } = row
    response.json({ id: row.id, kind, revision: row.revision, aside, body } satisfies StoredDocument)
  })

  routes.get('/:id/log', async (request, response) => {
    const { since, own } = await yup.object({ since: revision().optional(), own: id().optional() }).validate(request.query)
    const from = own ? Math.min(since ?? Infinity, await ownFrom(database.manager, request.params.id, own)) : (since ?? 0)
    response.json(await logSince(database.manager, request.params.id, from))
  })

  routes.put('/:id', async (request, response) => {
    const body = await checkedBody(request.body)
    const present = await database.manager.findOneBy(DocumentEntity, { id: request.params.id })
    if (present && present.kind !== body.kind) throw new Refusal(409, 'Twice the same', 'That id is taken.')
    if (!present) {
      await database.transaction(async (manager) => {
        if (body.kind === 'actuality') await checkSpans(manager, body.spans)
        const made = await manager
          .createQueryBuilder()
          .insert()
          .into(DocumentEntity)
          .values({ id: request.params.id, kind: body.kind, revision: 0, aside: false, body: body as object })
          .orIgnore()
          .returning('id')
          .execute()
        // the same was sent twice at once: it is there
        if ((made.raw as unknown[]).length) await tell(manager, { about: 'document', id: request.params.id, kind: body.kind, revision: 0 })
      })
    }
    response.status(present ? 200 : 201).json({ id: request.params.id })
  })

  routes.patch('/:id', async (request, response) => {
    const { aside } = await yup.object({ aside: yup.boolean().required() }).noUnknown().strict().validate(request.body)
    const row = await database.manager.findOneBy(DocumentEntity, { id: request.params.id })
    if (!row) throw notFound('What you are looking for')
    await database.manager.update(DocumentEntity, { id: row.id }, { aside })
    await tell(database, changed(row))
    response.json({ id: row.id, aside })
  })

  routes.post('/:id/steps', async (request, response) => {
    const { base, entry } = await submissionSchema.validate(request.body, { strict: true })
    const row = await database.manager.findOneBy(DocumentEntity, { id: request.params.id })
    if (!row) throw notFound('What you are working on')
    const steps = await checkedSteps(row.kind, entry.steps)
    const verdict = await submit(database, row.id, base, { ...entry, steps })
    response.json(verdict)
    if (verdict.taken && row.kind === 'transcript') void realign(services, row.id, row.tape!)
  })

  return routes
}
