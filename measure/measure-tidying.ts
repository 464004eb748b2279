import { launch } from '../e2e/browser'
import { toFrames } from '../core/time'
import { percentile, report } from './figure'
import { makeTape, openNewsroom } from './newsroom'
import { words } from './speechlike'

/** Tidy on an hour of tape in the built application in Chromium: a figure that is turned, and all of a kind applied. */

const LENGTH = toFrames(60 * 60)
/** Of so many words one is not said, so that 300 pauses in the hour are long ones. */
const UNSAID = 15
const PLACES = 4500 / UNSAID
const newsroom = await openNewsroom()
const said = words(LENGTH, 4500).filter((_, i) => i % UNSAID > 0)
const tape = await makeTape(newsroom, LENGTH, said)
const server = await newsroom.start()
const browser = await launch()
const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage()
const figure = (name: string, value: number, unit: string) => report({ measure: 'tidying', name: `tidy.${name}`, value, unit })

await page.addInitScript('globalThis.__name = (named) => named') // what the TypeScript loader leaves in functions
await page.goto(`${newsroom.address}/tapes/${tape}`)
await page.waitForSelector('canvas[data-drawn=words]')
await page.keyboard.press('Shift+D')
await page.getByTestId('tidy-none').waitFor({ timeout: 300_000 })
await page.waitForTimeout(1000)

/** Turns the figure once a frame, up and down over all that it can be, and gives the times between frames, in ms. */
const gaps = await page.evaluate(
  () =>
    new Promise<number[]>((done) => {
      const slider = document.querySelector<HTMLInputElement>('input[type=range]')!
      const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!
      const [least, most] = [Number(slider.min), Number(slider.max)]
      const times: number[] = []
      requestAnimationFrame(function frame(time) {
        times.push(time)
        if (times.length > 300) return done(times.slice(1).map((one, i) => one - times[i]))
        const share = Math.abs(((times.length / 75) % 2) - 1)
        set.call(slider, String(least + share * (most - least)))
        slider.dispatchEvent(new Event('input', { bubbles: true }))
        requestAnimationFrame(frame)
      })
    }),
)
figure('turn', percentile(gaps, 0.95), 'ms, p95, between frames while a figure is turned on an hour, once a frame')

// the figure at which about so many are found
const found = async (value: number): Promise<number> => {
  await page.getByRole('slider').fill(String(value))
  await page.waitForTimeout(100)
  const [row] = await page
    .getByTestId('tidy-kinds')
    .getByRole('button', { name: /Pauses/ })
    .allInnerTexts()
  return Number(/(\d+)/.exec(row ?? '0')![1])
}
let value = 2.5
while (value > 0.3 && (await found(Number(value.toFixed(2)))) < PLACES) value -= 0.05
const count = await found(Number(value.toFixed(2)))
// where joins fall and how they would sound is worked out with the places
await page.waitForTimeout(20_000)
const took = await page.evaluate(
  () =>
    new Promise<number>((done) => {
      const canvas = document.querySelector<HTMLCanvasElement>('canvas[data-painted]')!
      const row = [...document.querySelectorAll('[data-testid=tidy-kinds] button')].find((one) => one.textContent!.startsWith('Pauses'))!
      const [before, painted, began] = [row.textContent, canvas.dataset.painted, performance.now()]
      document.dispatchEvent(new KeyboardEvent('keydown', { key: 'Q', code: 'KeyQ', shiftKey: true, bubbles: true }))
      requestAnimationFrame(function frame() {
        if (row.textContent !== before && canvas.dataset.painted !== painted) done(performance.now() - began)
        else if (performance.now() - began > 20_000) done(Infinity)
        else requestAnimationFrame(frame)
      })
    }),
)
const left = await page
  .getByTestId('tidy-kinds')
  .getByRole('button', { name: /Pauses/ })
  .innerText()
figure('apply', took, `ms, from “apply all” of ${count} places to painted; left open: ${left.replace(/\s+/g, ' ')}`)

await browser.close()
await server.stop()
await newsroom.close()
