import { Router, type Response } from 'express'
import * as yup from 'yup'
import { id } from '../../contract/ids'
import { LONGEST_RANGE, rangeQuery } from '../../contract/ranges'
import { PEAK_LEVELS, PER_BIN } from '../../core/sound/peaks'
import { takeIn } from '../intake/intake'
import { notFound, Refusal } from '../problem'
import type { Services } from '../services'
import { tapeInfo, tapeInfos, usesOf } from '../tapes'

const channelParam = yup.number().integer().min(0).max(7).required()

/** Tapes: their sound, peaks and words, by range. */
export function tapeRoutes(services: Services): Router {
  const { database, store } = services
  const routes = Router()

  routes.param('id', async (_request, _response, next, value) => {
    await id().required().validate(value)
    next()
  })

  routes.get('/', async (_request, response) => {
    response.json((await tapeInfos(database)).filter((tape) => tape.state !== 'failed'))
  })

  routes.post('/', async (request, response) => {
    const { name } = await yup.object({ name: yup.string().required().max(1000) }).validate(request.query)
    // eslint-disable-next-line no-control-regex
    const plain = name.replace(/[\u0000-\u001f\u007f\u200e\u200f\u202a-\u202e\u2066-\u2069]/g, ' ').slice(-200).trim() || 'tape'
    response.status(201).json({ id: await takeIn(services, request, plain) })
  })

  routes.get('/:id', async (request, response) => {
    response.json(await tapeInfo(database, request.params.id))
  })

  routes.get('/:id/words', async (request, response) => {
    // as text, as the database has it: 20,000 words need not be read and written again on the way
    const [row] = await database.query<{ words: string | null }[]>('select words::text from tape where id = $1', [request.params.id])
    if (!row) throw notFound('That tape')
    response.set('Cache-Control', 'no-cache').type('application/json').send(row.words ?? '[]')
  })

  routes.get('/:id/uses', async (request, response) => {
    response.json(await usesOf(database, request.params.id))
  })

  routes.get('/:id/sound/:rendition/:channel', async (request, response) => {
    const { from, to } = await rangeQuery.validate(request.query)
    const channel = await channelParam.validate(request.params.channel)
    const rendition = await yup.string().oneOf(['sound', 'tone']).required().validate(request.params.rendition)
    if (to - from > LONGEST_RANGE) throw new Refusal(400, 'Too much at once', 'That is more sound than goes into one answer.')
    const sound = rendition === 'tone' ? `${request.params.id}.tone` : request.params.id
    await sendBytes(services, response, store.channel(sound, channel), from * 4, to * 4)
  })

  routes.get('/:id/peaks/:channel/:level', async (request, response) => {
    const { from, to } = await rangeQuery.validate(request.query)
    const channel = await channelParam.validate(request.params.channel)
    const level = await yup.number().integer().min(0).max(PEAK_LEVELS.length - 1).required().validate(request.params.level)
    if (to - from > 200_000) throw new Refusal(400, 'Too much at once', 'Those are more peaks than go into one answer.')
    const bin = PER_BIN * 2
    await sendBytes(services, response, store.peaks(request.params.id, channel, level), from * bin, to * bin)
  })

  return routes
}

/** Bytes of a file, as far as it goes. What lies in the store of a tape never changes. */
async function sendBytes({ store }: Services, response: Response, path: string, from: number, to: number): Promise<void> {
  const size = await store.size(path).catch(() => {
    throw notFound('That sound')
  })
  response.set({ 'Content-Type': 'application/octet-stream', 'Cache-Control': 'private, max-age=31536000, immutable' })
  if (from >= Math.min(to, size)) {
    response.end()
    return
  }
  response.set('Content-Length', String(Math.min(to, size) - from))
  store.read(path, from, Math.min(to, size)).on('error', () => response.destroy()).pipe(response)
}
