import { Router } from 'express'
import { playsOrder, type BoardRow, type Play } from '../../contract/boards'
import type { BoardDocument } from '../../core/live/board'
import { boardHead, clipsOf } from '../../core/live/board'
import { DocumentEntity } from '../entities'
import { tell } from '../notices'
import type { Services } from '../services'
import { checkedId } from './checkedId'

/** Boards of live clips, and the log of what was played on them. */
export function boardRoutes({ database }: Services): Router {
  const routes = Router()
  routes.param('id', checkedId)

  routes.get('/', async (_request, response) => {
    const rows = await database.manager.find(DocumentEntity, { where: { kind: 'board' }, order: { created: 'ASC' } })
    const boards = rows.map(({ id, aside, body }): BoardRow => {
      const board = body as BoardDocument
      return { id, aside, name: boardHead(board).name, clips: clipsOf(board).length }
    })
    response.json(boards)
  })

  const playsOf = (board: string) =>
    database.query<(Omit<Play, 'at'> & { at: Date })[]>('select * from play where board = $1 order by at desc limit 500', [board])

  routes.get('/:id/plays', async (request, response) => {
    response.json(await playsOf(request.params.id))
  })

  /** As a table, for whoever accounts for what was broadcast. */
  routes.get('/:id/plays.csv', async (request, response) => {
    const cell = (value: string) => `"${value.replace(/"/g, '""').replace(/^([=+@-])/, "'$1")}"`
    const lines = (await playsOf(request.params.id))
      .reverse()
      .map(({ at, slug, seconds, stopped, by }) =>
        [at.toISOString(), cell(slug), seconds.toFixed(1), stopped ? 'stopped' : 'whole', cell(by)].join(','),
      )
    response.attachment('played.csv').type('text/csv')
    response.send(['at,piece,seconds,how,by', ...lines, ''].join('\r\n'))
  })

  /** What a browser played; told again, it is there already. */
  routes.post('/plays', async (request, response) => {
    const plays = (await playsOrder.validate(request.body, { strict: true })) as Play[]
    for (const { id, board, piece, slug, at, seconds, stopped, by } of plays)
      await database.query(
        `insert into play (id, board, piece, slug, at, seconds, stopped, by)
          values ($1, $2, $3, $4, $5, $6, $7, $8) on conflict do nothing`,
        [id, board, piece, slug, at, seconds, stopped, by],
      )
    for (const id of new Set(plays.map(({ board }) => board))) await tell(database, { about: 'plays', id })
    response.status(204).end()
  })
  return routes
}
