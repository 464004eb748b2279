import { rmSync } from 'node:fs'
import { chromium } from 'playwright-core'
import { expect, it, onTestFinished } from 'vitest'
import { freePort, startCluster } from '../scripts/cluster'
import { ownFolder } from '../scripts/leftOvers'
import { serve } from '../scripts/serving'
import { CHROMIUM } from './browser'
import { everyFault } from './layout/every'
import { layoutFaults } from './layout/faults'

const MICROPHONE = ['--use-fake-device-for-media-stream', '--use-fake-ui-for-media-stream']

it('nothing is cut off, lies over something else or out of reach, in any view or dialog at any size', { timeout: 600_000 }, async () => {
  // on a demo of its own: it records, and does things on Benches
  const data = ownFolder('e2e')
  const cluster = await startCluster(data)
  const port = await freePort()
  const server = await serve({ PORT: String(port), PLAIN_CUT_DATA: data, PLAIN_CUT_DATABASE: cluster.url, PLAIN_CUT_RECOGNISE: 'asked' })
  const browser = await chromium.launch({ ...CHROMIUM, args: [...CHROMIUM.args, ...MICROPHONE] })
  onTestFinished(async () => {
    await browser.close()
    await server.stop()
    await cluster.stop()
    rmSync(data, { recursive: true, force: true })
  })
  const faults = await everyFault(browser, `http://localhost:${port}`, ['day'])
  expect(faults.map(({ state, size, what }) => `${state}, ${size}: ${what}`)).toEqual([])
})

it('and what is wrong would be found', async () => {
  const browser = await chromium.launch(CHROMIUM)
  const page = await browser.newPage({ viewport: { width: 400, height: 300 } })
  await page.addInitScript('globalThis.__name = (named) => named')
  await page.setContent(`
    <p style="position:absolute;left:10px;top:10px">one line</p>
    <p style="position:absolute;left:20px;top:12px">over another</p>
    <p style="position:absolute;left:10px;top:80px;width:60px;overflow:hidden;white-space:nowrap">cut off at the side</p>
    <p style="position:absolute;left:10px;top:110px;width:90px;overflow:hidden;white-space:nowrap;text-overflow:ellipsis"
      >a long name that ends on purpose</p>
    <div style="position:absolute;left:10px;top:140px;height:12px;overflow:hidden">half<br>seen</div>
    <p style="position:absolute;left:380px;top:180px;white-space:nowrap">beyond the window</p>
    <button style="position:absolute;left:10px;top:200px">Covered</button>
    <div style="position:absolute;left:0;top:190px;width:200px;height:40px;background:white"></div>
    <div style="position:absolute;left:10px;top:240px;height:40px;width:80px;overflow-y:auto"><p>first</p><p>scrolled to</p></div>
    <span style="position:absolute;clip:rect(0,0,0,0)">for screen readers alone</span>`)
  const found = (await page.evaluate(layoutFaults)).join('\n')
  for (const fault of [
    '“one line” and “over another” lie over one another',
    'text “cut off at the side” is cut off',
    'text “seen” is cut off above or below',
    'text “beyond the window”',
    'button “Covered” lies under',
  ])
    expect(found).toContain(fault)
  for (const fine of ['a long name', 'scrolled to', 'for screen readers', '“first”']) expect(found).not.toContain(fine)
  await browser.close()
})
