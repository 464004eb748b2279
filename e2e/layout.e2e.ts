import { chromium } from 'playwright-core'
import { expect, it } from 'vitest'
import { CHROMIUM } from './browser'
import { here } from './here'
import { everyFault } from './layout/every'
import { layoutFaults } from './layout/faults'

const MICROPHONE = ['--use-fake-device-for-media-stream', '--use-fake-ui-for-media-stream']

it('nothing is cut off, lies over something else or out of reach, in any view or dialog at any size', { timeout: 300_000 }, async () => {
  const browser = await chromium.launch({ ...CHROMIUM, args: [...CHROMIUM.args, ...MICROPHONE] })
  try {
    const faults = await everyFault(browser, here.address, ['day'])
    expect(faults.map(({ state, size, what }) => `${state}, ${size}: ${what}`)).toEqual([])
  } finally {
    await browser.close()
  }
})

it('and what is wrong would be found', async () => {
  const browser = await chromium.launch(CHROMIUM)
  const page = await browser.newPage({ viewport: { width: 400, height: 300 } })
  await page.addInitScript('globalThis.__name = (named) => named')
  await page.setContent(`
    <p style="position:absolute;left:10px;top:10px">one line</p>
    <p style="position:absolute;left:20px;top:12px">over another</p>
    <p style="position:absolute;left:10px;top:80px;width:60px;overflow:hidden;white-space:nowrap">cut off at the side</p>
    <p style="position:absolute;left:10px;top:110px;width:90px;overflow:hidden;white-space:nowrap;text-overflow:ellipsis">a long name that ends on purpose</p>
    <div style="position:absolute;left:10px;top:140px;height:12px;overflow:hidden">half<br>seen</div>
    <p style="position:absolute;left:380px;top:180px;white-space:nowrap">beyond the window</p>
    <button style="position:absolute;left:10px;top:200px">Covered</button><div style="position:absolute;left:0;top:190px;width:200px;height:40px;background:white"></div>
    <div style="position:absolute;left:10px;top:240px;height:40px;width:80px;overflow-y:auto"><p>first</p><p>scrolled to</p></div>
    <span style="position:absolute;clip:rect(0,0,0,0)">for screen readers alone</span>`)
  const found = (await page.evaluate(layoutFaults)).join('\n')
  for (const fault of ['“one line” and “over another” lie over one another', 'text “cut off at the side” is cut off', 'text “seen” is cut off above or below', 'text “beyond the window”', 'button “Covered” lies under']) expect(found).toContain(fault)
  for (const fine of ['a long name', 'scrolled to', 'for screen readers', '“first”']) expect(found).not.toContain(fine)
  await browser.close()
})
