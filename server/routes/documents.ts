import { Router } from 'express'
import type { EntityManager } from 'typeorm'
import * as yup from 'yup'
import type { InferType } from 'yup'
import type { Entry } from '../../core/steps/history'
import type { BoardDocument } from '../../core/live/board'
import type { StoryDocument } from '../../core/page/story'
import { realign } from '../align/realign'
import {
  checkedBody,
  checkedSteps,
  submissionSchema,
  type AnyStep,
  type Body,
  type Kind,
  type StoredDocument,
} from '../../contract/documents'
import { id, revision } from '../../contract/ids'
import { DocumentEntity } from '../entities'
import { knownDocument } from '../documents/kinds'
import { logSince, ownFrom, toldSince } from '../documents/log'
import { insertPiece, readPiece } from '../documents/pieces'
import { References } from '../documents/references'
import { verdictText } from '../documents/verdictText'
import { submit } from '../documents/submit'
import { changed } from '../documents/write'
import { tell } from '../notices'
import { log } from '../log'
import { notFound, Refusal } from '../problem'
import { askForRenditions } from '../renditions/renditions'
import type { Services } from '../services'
import { checkedId } from './checkedId'

/** Whether a step adds a rendition to a tape. */
const makesRendition = (step: unknown): boolean => (step as { record?: { kind?: string } }).record?.kind === 'rendition'

/** What is asked of a row where its body is not needed. */
const KNOWN = { id: true, kind: true, revision: true, tape: true } as const

type Sent = InferType<typeof submissionSchema>['entries']

/** Acts with their steps checked, up to the first that makes no sense; throws ValidationError where that is the first of all. */
function checkedEntries(kind: Kind, entries: Sent): Omit<Entry<AnyStep>, 'inverse'>[] {
  const checked: Omit<Entry<AnyStep>, 'inverse'>[] = []
  for (const entry of entries) {
    try {
      checked.push({ ...entry, steps: checkedSteps(kind, entry.steps) })
    } catch (error) {
      if (!checked.length) throw error
      break
    }
  }
  return checked
}

/** Keeps a new story or board; false if one of this id is there. */
async function insertRecords(manager: EntityManager, id: string, body: StoryDocument | BoardDocument): Promise<boolean> {
  const { raw } = await manager
    .createQueryBuilder()
    .insert()
    .into(DocumentEntity)
    .values({ id, kind: body.kind, revision: 0, aside: false, body: body as object })
    .orIgnore()
    .returning('id')
    .execute()
  return (raw as unknown[]).length > 0
}

/** Documents and their steps. */
export function documentRoutes(services: Services): Router {
  const { database } = services
  const routes = Router()

  routes.param('id', checkedId)

  routes.get('/:id', async (request, response) => {
    const row = await database.manager.findOneBy(DocumentEntity, { id: request.params.id })
    if (!row) throw notFound('What you are looking for')
    const { kind } = row
    const piece = kind === 'actuality' ? await readPiece(database.manager, row.id) : null
    const { revision, aside } = piece ?? row
    response.json({ id: row.id, kind, revision, aside, body: piece?.piece ?? (row.body as Body) } satisfies StoredDocument)
  })

  routes.get('/:id/log', async (request, response) => {
    const { since, own } = await yup.object({ since: revision().optional(), own: id().optional() }).validate(request.query)
    if (!own) return void response.json(await toldSince(database.manager, request.params.id, since ?? 0))
    const from = Math.min(since ?? Infinity, await ownFrom(database.manager, request.params.id, own))
    response.json(await logSince(database.manager, request.params.id, from))
  })

  routes.put('/:id', async (request, response) => {
    const { id } = request.params
    const body = await checkedBody(request.body)
    const present = await database.manager.findOne(DocumentEntity, { where: { id }, select: KNOWN })
    if (present && present.kind !== body.kind) throw new Refusal(409, 'Twice the same', 'That id is taken.')
    if (!present) {
      await database.transaction(async (manager) => {
        if (body.kind === 'actuality') await new References(manager, true).checkSpans(body.spans)
        // where the same was sent twice at once, it is there
        const made = body.kind === 'actuality' ? await insertPiece(manager, id, body) : await insertRecords(manager, id, body)
        if (made) await tell(manager, { about: 'document', id, kind: body.kind, revision: 0 })
      })
    }
    response.status(present ? 200 : 201).json({ id })
  })

  routes.patch('/:id', async (request, response) => {
    const { aside } = await yup.object({ aside: yup.boolean().required() }).noUnknown().strict().validate(request.body)
    const row = await database.manager.findOne(DocumentEntity, { where: { id: request.params.id }, select: KNOWN })
    if (!row) throw notFound('What you are looking for')
    await database.manager.update(DocumentEntity, { id: row.id }, { aside })
    await tell(database, changed(row))
    response.json({ id: row.id, aside })
  })

  routes.post('/:id/steps', async (request, response) => {
    const { base, entries } = submissionSchema.validateSync(request.body, { strict: true })
    const { id } = request.params
    const known = await knownDocument(database, id)
    if (!known) throw notFound('What you are working on')
    const verdict = await submit(database, id, base, checkedEntries(known.kind, entries))
    // nobody asks for the same verdict again, so it needs no tag to be known by
    response.type('application/json').end(verdictText(verdict))
    if (verdict.taken.length && known.kind === 'transcript') void realign(services, id, known.tape!)
    if (verdict.taken.length && entries.some(({ steps }) => steps.some(makesRendition)))
      void askForRenditions(services, id).catch((error) => log.error({ error, id }, 'renditions'))
  })

  return routes
}
