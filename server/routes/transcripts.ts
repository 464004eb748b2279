import { Router } from 'express'
import { id } from '../../contract/ids'
import { transcriptQuery, type TranscriptFormat } from '../../contract/transcripts'
import type { Services } from '../services'
import { transcript } from '../transcripts'

const TYPES: Record<TranscriptFormat, string> = {
  txt: 'text/plain; charset=utf-8',
  srt: 'application/x-subrip; charset=utf-8',
  vtt: 'text/vtt; charset=utf-8',
  json: 'application/json',
  log: 'text/tab-separated-values; charset=utf-8',
  docx: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
}
const ENDINGS: Partial<Record<TranscriptFormat, string>> = { log: 'tsv' }

/** Words written out, of a tape, a stretch of it, or a piece. */
export function transcriptRoutes(services: Services): Router {
  const routes = Router()
  routes.get('/:id', async (request, response) => {
    const of = await id().required().validate(request.params.id)
    const { as, from, to } = await transcriptQuery.validate(request.query)
    const { name, content } = await transcript(services, of, as, from, to)
    response
      .attachment(`${name.replace(/[/\\:*?"<>|\n]+/g, ' ').trim() || 'words'}.${ENDINGS[as] ?? as}`)
      .type(TYPES[as])
      .send(content)
  })
  return routes
}
