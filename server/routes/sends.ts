import { join } from 'node:path'
import { Router } from 'express'
import * as yup from 'yup'
import { id } from '../../contract/ids'
import { sendSchema, type FigurePreview, type SendOrder, type SendPreview } from '../../contract/sends'
import { captionsOf, plainText, srt, webVtt } from '../../core/send/captions'
import { RATE } from '../../core/time'
import { SendEntity } from '../entities'
import { notFound } from '../problem'
import { takeIn } from '../intake/intake'
import { cancel, changedSinceSent, newestReceipts, placeOrder, receiptsFor, receiptsOf } from '../send/send'
import { lastLook } from '../send/look'
import type { FiguresReport } from '../send/figures'
import { fromOf } from '../send/filmOf'
import { prepare } from '../send/order'
import { scriptFile } from '../send/script'
import { fileNameFrom } from '../../core/page/fileName'
import { editListOf } from '../send/editList'
import { workshopZip } from '../send/workshop'
import { wordsInFile } from '../send/words'
import type { Services } from '../services'
import type { SendThreadOrder } from '../send/thread'
import { runThread } from '../thread'
import { checkedId } from './checkedId'

const wordsQuery = yup.object({
  as: yup
    .string()
    .oneOf(['txt', 'srt', 'vtt', 'otio', 'zip'] as const)
    .required(),
  kind: yup
    .string()
    .oneOf(['story', 'actuality'] as const)
    .required(),
  id: id().required(),
  output: id().optional(),
  unrecorded: yup
    .string()
    .oneOf(['out', 'tone'] as const)
    .optional(),
})
const scriptQuery = wordsQuery.pick(['kind', 'id', 'output'])

/** What does not matter to words. */
const WORDS_ORDER = { format: 'wav', rate: RATE, bits: 24, channels: 1, kbps: 192, pattern: '{slug}_{date}' } as const

/** Sending: orders, their progress, the files, the receipts. */
export function sendRoutes(services: Services): Router {
  const { database, store } = services
  const routes = Router()

  routes.param('id', checkedId)

  routes.get('/', async (request, response) => {
    const { of } = await yup.object({ of: id().required() }).validate(request.query)
    response.json(await receiptsFor(services, of))
  })

  /** What an order would come to, without carrying it out. */
  routes.post('/preview', async (request, response) => {
    const order = (await sendSchema.validate(request.body, { strict: true })) as SendOrder
    const prepared = await prepare(services, order)
    const { plan, fileName, target, title } = prepared
    const look = await lastLook(services, order, prepared)
    const from = fromOf(prepared)
    response.json({ frames: plan.length, channels: plan.channels, title, from, fileName, look, target } satisfies SendPreview)
  })

  /** How loud its file would be. Whoever asks no longer is not answered. */
  routes.post('/figures', async (request, response) => {
    const order = (await sendSchema.validate(request.body, { strict: true })) as SendOrder
    const { plan } = await prepare(services, order)
    const measure: SendThreadOrder = { figures: { plan, media: join(services.config.data, 'media'), channels: order.channels } }
    let figures: FigurePreview | undefined
    await runThread<FiguresReport>('send', measure, (report) => {
      if ('figures' in report) figures = report.figures
      return !response.destroyed
    })
    if (figures) response.json(figures)
  })

  routes.post('/', async (request, response) => {
    const order = (await sendSchema.validate(request.body, { strict: true })) as SendOrder
    response.status(201).json(await placeOrder(services, order))
  })

  /** What is said in a file that an order would come to, as captions that are timed to it or as text; and its edit list. */
  routes.get('/words', async (request, response) => {
    const { as, unrecorded, ...what } = await wordsQuery.validate(request.query)
    const order = { ...WORDS_ORDER, what, unrecorded } as SendOrder
    // what may not go out does not go out as text either
    const prepared = await prepare(services, order)
    const { fileName } = prepared
    const name = fileName.slice(0, fileName.lastIndexOf('.'))
    if (as === 'zip') {
      const zip = await workshopZip(services, order.what, prepared, name, order.unrecorded)
      response.attachment(`${name}-edit.zip`)
      zip.on('error', () => response.destroy()).pipe(response)
      return void response.on('close', () => zip.destroy())
    }
    response.attachment(`${name}.${as}`)
    if (as === 'otio') return void response.json(await editListOf(services, order.what, prepared, order.unrecorded))
    const words = await wordsInFile(services, order.what, order.unrecorded)
    const text = as === 'txt' ? plainText(words) : { srt, vtt: webVtt }[as](captionsOf(words))
    response.type(as === 'vtt' ? 'text/vtt' : 'text/plain').send(text)
  })

  /** The script of a story's output, or the cue sheet of a piece, as it is now. */
  routes.get('/script', async (request, response) => {
    const what = await scriptQuery.validate(request.query)
    const { title, file } = (await scriptFile(services, what))!
    response.attachment(fileNameFrom('{slug}', { slug: title, client: '', date: '', length: 0 }, 'docx')).send(file)
  })

  routes.get('/newest', async (_request, response) => {
    response.json(await newestReceipts(services))
  })

  routes.get('/:id/changed', async (request, response) => {
    response.json({ lines: await changedSinceSent(services, request.params.id) })
  })

  routes.get('/:id', async (request, response) => {
    const row = await database.manager.findOneBy(SendEntity, { id: request.params.id })
    if (!row) throw notFound('That receipt')
    const [receipt] = await receiptsOf(services, [row])
    response.json(receipt)
  })

  routes.get('/:id/file', async (request, response) => {
    const row = await database.manager.findOneBy(SendEntity, { id: request.params.id, state: 'done' })
    if (!row) throw notFound('That file')
    response.attachment(row.fileName).set('Content-Length', String(row.bytes))
    store
      .read(store.sent(row.id))
      .on('error', () => response.destroy())
      .pipe(response)
  })

  routes.get('/:id/script', async (request, response) => {
    const row = await database.manager.findOneBy(SendEntity, { id: request.params.id, state: 'done' })
    if (!row?.script) throw notFound('That script')
    response.attachment(row.script.fileName)
    store
      .read(store.script(row.id))
      .on('error', () => response.destroy())
      .pipe(response)
  })

  /** Imports a file that was made as a tape of its own. */
  routes.post('/:id/tape', async (request, response) => {
    const row = await database.manager.findOneBy(SendEntity, { id: request.params.id, state: 'done' })
    if (!row) throw notFound('That file')
    const { what } = row.request
    const stories = what.kind === 'story' ? [what.id] : []
    const tape = await takeIn(services, store.read(store.sent(row.id)), row.fileName, { stories })
    response.status(201).json({ id: tape })
  })

  routes.delete('/:id', async (request, response) => {
    await cancel(services, request.params.id)
    response.json({ id: request.params.id })
  })

  return routes
}
