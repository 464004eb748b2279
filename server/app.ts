import express, { type Express } from 'express'
import { join } from 'node:path'
import { guard, headers } from './guard'
import { notFound, problems } from './problem'
import { documentRoutes } from './routes/documents'
import { sendRoutes } from './routes/sends'
import { storyRoutes } from './routes/stories'
import { tapeRoutes } from './routes/tapes'
import type { Services } from './services'

export function makeApp(services: Services): Express {
  const { config } = services
  const app = express()
  app.disable('x-powered-by')
  app.use(headers, guard(config.port, process.env.PLAIN_CUT_ORIGINS?.split(',') ?? []))

  app.get('/api/events', services.notices.stream)
  app.use('/api/tapes', tapeRoutes(services))
  app.use(express.json({ limit: '8mb' }))
  app.use('/api/documents', documentRoutes(services))
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
