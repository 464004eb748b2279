import { chromium } from 'playwright-core'
import { CHROMIUM } from '../e2e/browser'
import { everyFault } from '../e2e/layout/every'
import { SIZES, STATES } from '../e2e/layout/states'
import { serve } from '../scripts/serving'
import { report } from './figure'
import { openNewsroom } from './newsroom'

/**
 * Text and controls that are cut off, lie over one another or out of reach, in every view and dialog at every size, by day
 * and by night. Part of a state's name measures that alone.
 */

const only = process.argv[3] ?? ''
const newsroom = await openNewsroom()
const server = await serve({
  PORT: String(newsroom.port),
  PLAIN_CUT_DATA: newsroom.data,
  PLAIN_CUT_DATABASE: newsroom.cluster.url,
  PLAIN_CUT_RECOGNISE: 'asked',
})
const browser = await chromium.launch({
  ...CHROMIUM,
  args: [...CHROMIUM.args, '--use-fake-device-for-media-stream', '--use-fake-ui-for-media-stream'],
})
const faults = await everyFault(browser, newsroom.address, ['day', 'night'], only, (state, found) => {
  for (const { size, theme, what } of found) if (theme === 'day') console.error(`${state}, ${size}: ${what}`)
})
const states = STATES.filter(({ name }) => name.includes(only)).length
report({
  measure: 'layout',
  name: 'layout.clipped',
  value: faults.length,
  unit: `faults in ${states} states at ${SIZES.length} sizes in two themes`,
})
await browser.close()
await server.stop()
await newsroom.close()
