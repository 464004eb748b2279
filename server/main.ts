import { createServer } from 'node:http'
import { makeApp } from './app'
import { layWords, resumeBringings } from './bringing/bring'
import { cardQueue, CardWatch, copyFromCard } from './card/cards'
import { configFromEnvironment } from './config'
import { loadDemoOnce } from './demo'
import { resumeArrivals, tend, type IntakeJob } from './intake/tend'
import { keep, resumeKeepings } from './keeping/keepings'
import { applyKeepRules } from './keeping/rules'
import { clearStills } from './picture/stills'
import { clearDeleted } from './library'
import { resumeLineUps, workOnLineUp } from './lineup/lineUps'
import { log } from './log'
import { makeLooks } from './patches/patches'
import { PhoneLine } from './phone/line'
import { isAway } from './problem'
import { recognise, resumeRecognitions } from './recognise/recognise'
import { carryOut, resumeSends } from './send/send'
import { makeRendition, resumeRenditions } from './renditions/renditions'
import { deliver, startDeliveries } from './delivery/deliver'
import { closeServices, openServices } from './services'
import { TakeOver } from './takeOver'
import { layLines, resumeVoicings } from './voicing/layLines'
import { listenForTidy, resumeListenings } from './tidy/listening'
import { keepAtHand } from './thread'

const config = configFromEnvironment()
const services = await openServices(config)
await services.jobs.work<IntakeJob>('intake', 3, (job) => tend(services, job))
await services.jobs.work<{ id: string }>('send', 1, (job) => carryOut(services, job))
await services.jobs.work<{ id: string }>('deliver', 3, (job) => deliver(services, job))
await services.jobs.work<{ id: string }>('keep', 1, (job) => keep(services, job))
await services.jobs.work<{ tape: string }>('recognise', 1, (job) => recognise(services, job))
await services.jobs.work<{ tape: string }>('bringIn', 1, (job) => layWords(services, job))
await services.jobs.work<{ tape: string }>('listenForTidy', 1, (job) => listenForTidy(services, job))
await services.jobs.work<{ tape: string }>('layLines', 1, (job) => layLines(services, job))
await services.jobs.work<{ tape: string }>('looks', 1, (job) => makeLooks(services, job))
await services.jobs.work<{ id: string }>('rendition', 1, (job) => makeRendition(services, job))
await services.jobs.work<{ id: string }>('lineUp', 1, (job) => workOnLineUp(services, job))
await services.jobs.work<{ id: string }>(cardQueue(config), 1, (job) => copyFromCard(services, job))
await resumeArrivals(services)
await clearDeleted(services)
await applyKeepRules(services)
const clearAway = () => Promise.all([applyKeepRules(services), clearStills(services)])
setInterval(() => void clearAway().catch((error: unknown) => log.error({ error }, 'rules')), 3_600_000).unref()
await resumeSends(services)
await startDeliveries(services)
await resumeKeepings(services)
await resumeLineUps(services)
await resumeRecognitions(services)
await resumeBringings(services)
await resumeRenditions(services)
await resumeListenings(services)
await resumeVoicings(services)
if (process.env.PLAIN_CUT_DEMO !== 'none') await loadDemoOnce(services)

keepAtHand('arrive')
const takeOver = new TakeOver(services)
takeOver.open()
const cards = new CardWatch(services)
await cards.open()
const line = new PhoneLine(services)
if (!(await line.open(config.phone))) log.info({ port: config.phone }, 'another server has the telephone line')

const server = createServer(makeApp(services))
server.requestTimeout = 0 // a long tape takes as long as it takes
// a connection on which nothing moves is closed: its headers must come at once, and then something every two minutes
server.headersTimeout = 20_000
server.setTimeout(120_000)
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
  cards.close()
  takeOver.close()
  await line.close()
  await closeServices(services).catch((error: unknown) => log.debug({ error }, 'leaving'))
  process.exit(0)
}
process.on('SIGTERM', leave)
process.on('SIGINT', leave)
process.on('disconnect', leave) // whoever started it is gone
// what is under way while one leaves, or while the database starts again, fails by itself and is said where it was asked for
process.on('unhandledRejection', (error) => leaving || isAway(error) || log.error({ error }, 'unhandled'))
process.on('uncaughtException', (error) => {
  if (leaving || isAway(error)) return log.debug({ error }, 'away')
  log.fatal({ error }, 'uncaught')
  process.exit(1)
})
