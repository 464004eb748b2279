import { Router, type Response } from 'express'
import * as yup from 'yup'
import { LONGEST_RANGE, rangeQuery } from '../../contract/ranges'
import { spotSchema } from '../../contract/twins'
import { PEAK_LEVELS, PER_BIN } from '../../core/sound/peaks'
import { leaveNothing } from '../intake/intake'
import { twinsOf } from '../patches/patches'
import { notFound, Refusal } from '../problem'
import { sideFile, takeBack } from '../renditions/outAndBack'
import type { Services } from '../services'
import { runOf, tapeInfo, tapeInfos, usesOf } from '../tapes'
import { figuresOfTape } from '../tapeFigures'
import { checkedId } from './checkedId'

/** What a tape's sound is asked for by: as recorded, its made tone, a rendition, or tone made of that. */
const renditionParam = yup
  .string()
  .matches(/^(sound|tone|[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}(-tone)?)$/, 'there is no such rendition')
  .required()

async function soundNamed({ id, rendition }: { id: string; rendition: string }): Promise<string> {
  const name = await renditionParam.validate(rendition)
  return name === 'sound' ? id : `${id}.${name}`
}

/** A day of tenths of seconds, in bytes. */
const LONGEST_LOUDNESS = 24 * 36_000 * 4

/** Channels of a side, as `0` or `0,1`. */
const sideQuery = yup
  .object({
    channels: yup
      .string()
      .matches(/^[0-7](,[0-7])?$/, 'there is no such side')
      .required(),
  })
  .required()
const channelsOf = async (query: unknown): Promise<number[]> => (await sideQuery.validate(query)).channels.split(',').map(Number)

const channelParam = yup.number().integer().min(0).max(7).required()

/** Tapes: their sound, peaks and words, by range. */
export function tapeRoutes(services: Services): Router {
  const { database, store } = services
  const routes = Router()

  routes.param('id', checkedId)

  routes.get('/', async (_request, response) => {
    response.json(await tapeInfos(database))
  })

  routes.get('/:id', async (request, response) => {
    response.json(await tapeInfo(database, request.params.id))
  })

  /** Calls an arrival off, or clears away one that was refused. A tape that is in is not taken away by this. */
  routes.delete('/:id/arrival', async (request, response) => {
    const { state } = await tapeInfo(database, request.params.id)
    if (state === 'ready') throw new Refusal(409, 'It is in', 'That tape is in by now. To be rid of it, set it aside.')
    await leaveNothing(services, request.params.id)
    response.status(204).end()
  })

  routes.get('/:id/words', async (request, response) => {
    // as text, as the database has it: 20,000 words need not be read and written again on the way
    const [row] = await database.query<{ document: string }[]>(
      `select json_build_object('id', id, 'kind', kind, 'revision', revision, 'aside', aside, 'body', body)::text as document
        from document where tape = $1`,
      [request.params.id],
    )
    if (!row) throw notFound('That tape')
    response.set('Cache-Control', 'no-cache').type('application/json').send(row.document)
  })

  /** The names of the files of the recording that it is one file of, in their order. */
  routes.get('/:id/run', async (request, response) => {
    response.json((await runOf(database, request.params.id)).map((tape) => ({ id: tape.id, name: tape.name })))
  })

  routes.get('/:id/figures', async (request, response) => {
    response.json(await figuresOfTape(services, request.params.id))
  })

  routes.get('/:id/loudness/:channel', async (request, response) => {
    const channel = await channelParam.validate(request.params.channel)
    await sendBytes(services, response, store.loudness(request.params.id, channel), 0, LONGEST_LOUDNESS)
  })

  routes.get('/:id/uses', async (request, response) => {
    response.json(await usesOf(database, request.params.id))
  })

  routes.get('/:id/twins', async (request, response) => {
    response.json(await twinsOf(services, request.params.id, await spotSchema.validate(request.query)))
  })

  routes.get('/:id/sound/:rendition/:channel', async (request, response) => {
    const { from, to } = await rangeQuery.validate(request.query)
    const channel = await channelParam.validate(request.params.channel)
    if (to - from > LONGEST_RANGE) throw new Refusal(400, 'Too much at once', 'That is more sound than goes into one answer.')
    const sound = await soundNamed(request.params)
    await sendBytes(services, response, store.channel(sound, channel), from * 4, to * 4)
  })

  /** A side as recorded, to be treated in another program, … */
  routes.get('/:id/side', async (request, response) => {
    const path = await sideFile(services, request.params.id, await channelsOf(request.query))
    response.download(path, 'side.wav', (error) => {
      void store.remove(path)
      if (error && !response.headersSent) response.status(500).end()
    })
  })

  /** … and what was made of it there, as a file. */
  routes.post('/:id/side', async (request, response) => {
    response.status(201).json({ rendition: await takeBack(services, request.params.id, await channelsOf(request.query), request) })
  })

  routes.get('/:id/peaks/:rendition/:channel/:level', async (request, response) => {
    const { from, to } = await rangeQuery.validate(request.query)
    const channel = await channelParam.validate(request.params.channel)
    const level = await yup
      .number()
      .integer()
      .min(0)
      .max(PEAK_LEVELS.length - 1)
      .required()
      .validate(request.params.level)
    if (to - from > 200_000) throw new Refusal(400, 'Too much at once', 'Those are more peaks than go into one answer.')
    const bin = PER_BIN * 2
    await sendBytes(services, response, store.peaks(await soundNamed(request.params), channel, level), from * bin, to * bin)
  })

  return routes
}

/**
 * Bytes of a file, as far as it goes. What lies in the store of a tape never changes, but it may
 * yet grow: an answer that falls short is not to be kept.
 */
async function sendBytes({ store }: Services, response: Response, path: string, from: number, to: number): Promise<void> {
  const bytes = await store.stretch(path, from, to).catch(() => {
    throw notFound('That sound')
  })
  response.set({
    'Content-Type': 'application/octet-stream',
    'Cache-Control': bytes.length === to - from ? 'private, max-age=31536000, immutable' : 'no-store',
    'Content-Length': String(bytes.length),
  })
  response.end(bytes)
}
