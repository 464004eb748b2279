import { createServer } from 'node:http'
import { makeApp } from './app'
import { configFromEnvironment } from './config'
import { loadDemoOnce } from './demo'
import { finishIntake, resumeIntake, type IntakeJob } from './intake/intake'
import { log } from './log'
import { carryOut, resumeSends } from './send/send'
import { closeServices, openServices } from './services'

const config = configFromEnvironment()
const services = await openServices(config)
await services.jobs.work<IntakeJob>('intake', 2, (job) => finishIntake(services, job))
await services.jobs.work<{ id: string }>('send', 1, (job) => carryOut(services, job))
await resumeIntake(services)
await resumeSends(services)
if (process.env.PLAIN_CUT_DEMO !== 'none') await loadDemoOnce(services)

const server = createServer(makeApp(services))
server.requestTimeout = 0 // a long tape takes as long as it takes
server.listen(config.port, '127.0.0.1', () => process.send?.('listening'))
server.on('error', (error) => {
  log.error({ error }, 'cannot listen')
  process.exit(1)
})

let leaving = false
async function leave(): Promise<void> {
  if (leaving) return
  leaving = true
  server.close()
  server.closeAllConnections()
  await closeServices(services)
  process.exit(0)
}
process.on('SIGTERM', leave)
process.on('SIGINT', leave)
process.on('disconnect', leave) // whoever started it is gone
process.on('unhandledRejection', (error) => log.error({ error }, 'unhandled'))
