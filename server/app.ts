import express, { type Express } from 'express'
import { join } from 'node:path'
import { guard, headers } from './guard'
import { uploads, UPLOADS } from './intake/uploads'
import { json } from './json'
import { notFound, problems } from './problem'
import { boardRoutes } from './routes/boards'
import { bringingRoutes } from './routes/bringings'
import { deliveryRoutes, destinationRoutes } from './routes/deliveries'
import { documentRoutes } from './routes/documents'
import { findRoutes } from './routes/find'
import { intakeRoutes } from './routes/intakes'
import { STORY_FILES, storyFileArrivals } from './keeping/arrivals'
import { keepRuleRoutes } from './routes/keepRules'
import { keepingRoutes } from './routes/keepings'
import { libraryRoutes } from './routes/library'
import { lineUpRoutes } from './routes/lineups'
import { listeningRoutes } from './routes/listenings'
import { recognitionRoutes } from './routes/recognitions'
import { sendRoutes } from './routes/sends'
import { programmeRoutes } from './routes/programmes'
import { presenceRoutes } from './routes/presence'
import { stillRoutes } from './routes/stills'
import { storyRoutes } from './routes/stories'
import { tapeRoutes } from './routes/tapes'
import { tidyRuleRoutes } from './routes/tidyRules'
import { treatmentRoutes } from './routes/treatments'
import { transcriptRoutes } from './routes/transcripts'
import { voicingRoutes } from './routes/voicings'
import type { Services } from './services'

export function makeApp(services: Services): Express {
  const { config } = services
  const app = express()
  app.disable('x-powered-by')
  app.use(headers, guard(config.port, process.env.PLAIN_CUT_ORIGINS?.split(',') ?? []))

  const tus = uploads(services)
  app.get('/api/events', services.notices.stream)
  app.route(UPLOADS).post(tus).options(tus)
  app.route(`${UPLOADS}/:id`).patch(tus).head(tus).options(tus)
  const arrivals = storyFileArrivals(services)
  app.route(STORY_FILES).post(arrivals).options(arrivals)
  app.route(`${STORY_FILES}/:id`).patch(arrivals).head(arrivals).options(arrivals).delete(arrivals)
  app.use('/api/tapes', tapeRoutes(services))
  app.use('/api/bringings', bringingRoutes(services))
  app.use(json('8mb'))
  app.use('/api/boards', boardRoutes(services))
  app.use('/api/keepings', keepingRoutes(services))
  app.use('/api/keepRules', keepRuleRoutes(services))
  app.use('/api/deliveries', deliveryRoutes(services))
  app.use('/api/destinations', destinationRoutes(services))
  app.use('/api/documents', documentRoutes(services))
  app.use('/api/find', findRoutes(services))
  app.use('/api/library', libraryRoutes(services))
  app.use('/api/intake', intakeRoutes(services))
  app.use('/api/lineups', lineUpRoutes(services))
  app.use('/api/presence', presenceRoutes(services))
  app.use('/api/programmes', programmeRoutes(services))
  app.use('/api/recognitions', recognitionRoutes(services))
  app.use('/api/listenings', listeningRoutes(services))
  app.use('/api/tidy', tidyRuleRoutes(services))
  app.use('/api/voicings', voicingRoutes(services))
  app.use('/api/treatments', treatmentRoutes(services))
  app.use('/api/transcripts', transcriptRoutes(services))
  app.use('/api/stills', stillRoutes(services))
  app.use('/api/sends', sendRoutes(services))
  app.use('/api', storyRoutes(services))
  app.use('/api', () => {
    throw notFound('That address')
  })

  if (config.web) {
    const { web } = config
    app.use('/assets', express.static(join(web, 'assets'), { immutable: true, maxAge: '1y' }))
    app.use(express.static(web, { index: false }))
    app.get(/.*/, (_request, response) => {
      response.sendFile(join(web, 'index.html'), { headers: { 'Cache-Control': 'no-cache' } })
    })
  }
  app.use(problems)
  return app
}
