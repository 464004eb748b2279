import { launch } from '../e2e/browser'
import { report, median } from './figure'
import { openNewsroom, servicesOf } from './newsroom'
import { closeServices } from '../server/services'
import { beginTape } from '../server/intake/intake'
import { random } from '../core/sound/random'

/** The library with five thousand tapes in it: the list as the server gives it, and Tapes until its first rows stand. */

const TAPES = 5000
const next = random(21)
const pick = (list: readonly string[]): string => list[Math.floor(next() * list.length)]
const newsroom = await openNewsroom()
const services = await servicesOf(newsroom)
for (let i = 0; i < TAPES; i++) {
  const id = crypto.randomUUID()
  await beginTape(services, id, `tape-${i}.wav`, 0, { name: `${pick(['Quay', 'Harbour', 'Council', 'Ferry', 'Fish hall'])} ${i}`, speaker: pick(['Piet Aldous', 'Maren Ferris', 'Tamsin Roe', '']), day: `2026-${String(1 + (i % 11)).padStart(2, '0')}-${String(1 + (i % 28)).padStart(2, '0')}`, tags: [pick(['quay', 'crew', 'council']), pick(['night', 'day'])] })
}
await services.database.query(`update tape set state = 'ready', progress = 1, complete = true, channels = 1, frames = 48000 * 600, disk = 1000000`)
await closeServices(services)
const server = await newsroom.start()
const times: number[] = []
for (let i = 0; i < 9; i++) {
  const began = performance.now()
  await (await fetch(`${newsroom.address}/api/library`)).arrayBuffer()
  times.push(performance.now() - began)
}
report({ measure: 'library', name: 'library.list', value: median(times), unit: `ms for ${TAPES} tapes, median of 9` })
const browser = await launch()
const opens: number[] = []
const finds: number[] = []
for (let i = 0; i < 5; i++) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  const began = performance.now()
  await page.goto(`${newsroom.address}/tapes`)
  await page.locator('[data-testid=tapes] [role=row][aria-rowindex="5"]').waitFor()
  opens.push(performance.now() - began)
  const search = performance.now()
  await page.getByLabel('Find tapes').fill('ferry 49')
  await page.getByText(/\d+ of 5000 tapes/).waitFor()
  finds.push(performance.now() - search)
  await page.close()
}
report({ measure: 'library', name: 'library.open', value: median(opens), unit: 'ms to the first rows, median of 5' })
report({ measure: 'library', name: 'library.find', value: median(finds), unit: 'ms from typing to the narrowed list, median of 5' })
await browser.close()
await server.stop()
await newsroom.close()
