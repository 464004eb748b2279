import { Router } from 'express'
import * as yup from 'yup'
import { checkedBody, checkedSteps, submissionSchema, type StoredDocument } from '../../contract/documents'
import { id, revision } from '../../contract/ids'
import { DocumentEntity } from '../entities'
import { checkTapes, logSince, submit } from '../documents/submit'
import { tell } from '../notices'
import { notFound, Refusal } from '../problem'
import type { Services } from '../services'

/** Documents and their steps. */
export function documentRoutes({ database }: Services): Router {
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
    const { since } = await yup.object({ since: revision().required() }).validate(request.query)
    response.json(await logSince(database.manager, request.params.id, since))
  })

  routes.put('/:id', async (request, response) => {
    const body = await checkedBody(request.body)
    const present = await database.manager.findOneBy(DocumentEntity, { id: request.params.id })
    if (present && present.kind !== body.kind) throw new Refusal(409, 'Twice the same', 'That id is taken.')
    if (!present) {
      if (body.kind === 'actuality') {
        const ends = new Map<string, number>()
        for (const span of body.spans) ends.set(span.tape, Math.max(ends.get(span.tape) ?? 0, span.to))
        await checkTapes(database.manager, ends)
      }
      await database.transaction(async (manager) => {
        await manager.insert(DocumentEntity, { id: request.params.id, kind: body.kind, revision: 0, aside: false, body: body as object })
        await tell(manager, { about: 'document', id: request.params.id, kind: body.kind, revision: 0 })
      })
    }
    response.status(present ? 200 : 201).json({ id: request.params.id })
  })

  routes.patch('/:id', async (request, response) => {
    const { aside } = await yup.object({ aside: yup.boolean().required() }).noUnknown().strict().validate(request.body)
    const row = await database.manager.findOneBy(DocumentEntity, { id: request.params.id })
    if (!row) throw notFound('What you are looking for')
    await database.manager.update(DocumentEntity, { id: row.id }, { aside })
    await tell(database, { about: 'document', id: row.id, kind: row.kind, revision: row.revision })
    response.json({ id: row.id, aside })
  })

  routes.post('/:id/steps', async (request, response) => {
    const { base, entry } = await submissionSchema.validate(request.body, { strict: true })
    const row = await database.manager.findOneBy(DocumentEntity, { id: request.params.id })
    if (!row) throw notFound('What you are working on')
    const steps = await checkedSteps(row.kind, entry.steps)
    response.json(await submit(database, row.id, base, { ...entry, steps }))
  })

  return routes
}
