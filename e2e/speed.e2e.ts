import { spawnSync } from 'node:child_process'
import type { Page } from 'playwright-core'
import { beforeAll, beforeEach, expect, it } from 'vitest'
import { here } from './here'
import { heardDuring, listen } from './listen'
import { boxOf, bring, seconds, sheetDrawn, until, useBrowser, visit } from './newsroom'
import { another } from './wav'

useBrowser()

let tone: string
let page: Page
const place = async () => seconds((await page.getByTestId('place').textContent())!)
/** What of a sound is no silence, in parts of a hundredth of a second. */
const sounding = (sound: Float32Array) => {
  const parts = Array.from({ length: Math.floor(sound.length / 480) }, (_, i) => sound.subarray(480 * i, 480 * (i + 1))).filter((part) =>
    part.some((sample) => Math.abs(sample) > 0.01),
  )
  const out = new Float32Array(480 * parts.length)
  parts.forEach((part, i) => out.set(part, 480 * i))
  return out
}
/** Passages through nothing, upwards. */
const cycles = (sound: Float32Array) => sound.reduce((sum, sample, i) => sum + (i > 0 && sound[i - 1] < 0 && sample >= 0 ? 1 : 0), 0)
const speed = () => page.getByTestId('speed').innerText()

beforeAll(async () => {
  const { stdout } = spawnSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', 'sine=f=440:d=6', '-f', 'wav', 'pipe:1'])
  tone = (await bring('Six seconds of a tone.wav', stdout)).id
})
beforeEach(async () => {
  ;({ page } = await visit(`/tapes/${tone}`))
  await sheetDrawn(page)
})

it('is heard faster at the same pitch, at one key, and as it is at the same key', async () => {
  for (let i = 0; i < 5; i++) await page.keyboard.press('.')
  expect(await speed()).toBe('1.5×')
  await page.keyboard.press('/')
  expect(await speed()).toBe('1×')
  await page.keyboard.press('/')
  const [left] = await listen(page, () => page.keyboard.press('Space'))
  expect(Math.abs(left.length / 48_000 - 4)).toBeLessThan(0.1)
  expect(Math.abs(1200 * Math.log2(cycles(left.subarray(24_000, 72_000)) / 440))).toBeLessThan(8)
  expect(await place()).toBeCloseTo(6, 1)
})

it('goes backwards and forwards like a shuttle, faster with each press', async () => {
  await page.keyboard.press('End')
  await page.keyboard.press('j')
  await until(place, (at) => at < 5.5)
  expect(await speed()).toBe('−1×')
  await page.keyboard.press('j')
  expect(await speed()).toBe('−1.5×')
  await page.keyboard.press('l')
  const turned = await place()
  expect(await speed()).toBe('1×')
  await until(place, (at) => at > turned)
  await page.keyboard.press('l')
  await page.keyboard.press('l')
  expect(await speed()).toBe('2×')
  await page.keyboard.press('k')
  expect(await speed()).toBe('1×')
  const stood = await place()
  await page.waitForTimeout(300)
  expect(await place()).toBe(stood)
})

it('goes round in what is selected until it is stopped', async () => {
  await page.keyboard.press('i')
  await page.keyboard.press('Control+ArrowRight')
  await page.keyboard.press('Control+ArrowRight')
  await page.keyboard.press('o')
  await page.keyboard.press('Shift+l')
  await page.waitForTimeout(1500)
  expect(await place()).toBeLessThan(0.7)
  expect(await page.getByRole('button', { name: 'Pause' }).count()).toBe(1)
  await page.keyboard.press('Space')
  await page.getByRole('button', { name: 'Play', exact: true }).waitFor()
})

it('sounds what the playhead is drawn over, there and back, and is silent where the hand rests', async () => {
  const head = await boxOf(page.getByTestId('playhead'))
  const drawn = async (from: number, to: number) => {
    for (let step = 1; step <= 40; step++) {
      await page.mouse.move(head.x + 1 + from + ((to - from) * step) / 40, head.y + head.height)
      await page.waitForTimeout(25)
    }
  }
  // by its grip, below the line
  await page.mouse.move(head.x + 1, head.y + head.height)
  await page.mouse.down()
  for (const [from, to] of [
    [0, 200],
    [200, 60],
  ]) {
    const [left] = await heardDuring(page, () => drawn(from, to))
    const loud = sounding(left)
    expect(loud.length).toBeGreaterThan(0.4 * 48_000)
    expect(Math.abs((cycles(loud) * 48_000) / loud.length / 440 - 1)).toBeLessThan(0.05)
  }
  await page.waitForTimeout(500)
  const [rest] = await heardDuring(page, () => page.waitForTimeout(400))
  expect(Math.max(0, ...rest.map(Math.abs))).toBe(0)
  const under = await place()
  expect(under).toBeGreaterThan(0.3)
  await page.mouse.up()
  expect(await place()).toBe(under)
  expect(await page.getByTestId('selection').innerText()).toContain('Nothing selected')
})

it('goes faster where nobody speaks, if that is wanted', async () => {
  const { stdout } = spawnSync('ffmpeg', [
    '-v',
    'error',
    '-f',
    'lavfi',
    '-i',
    `aevalsrc='if(lt(mod(t,4),1.6),0.3*sin(2*PI*200*t),0)+0.0005*sin(2*PI*${1200 + another()}*t)':d=8:s=48000`,
    '-f',
    'wav',
    'pipe:1',
  ])
  const { id } = await bring('Two words and two pauses.wav', stdout)
  await page.goto(`${here.address}/tapes/${id}`)
  await sheetDrawn(page)
  await page.keyboard.press('Shift+Y')
  expect(await speed()).toContain('»')
  const [left] = await listen(page, () => page.keyboard.press('Space'))
  expect(left.length / 48_000).toBeGreaterThan(4.8)
  expect(left.length / 48_000).toBeLessThan(6)
  // what is said takes the time that it takes
  const loud = left.reduce((sum, sample) => sum + (Math.abs(sample) > 0.1 ? 1 : 0), 0)
  expect(Math.abs(loud / 48_000 / (3.2 * (1 - (2 / Math.PI) * Math.asin(1 / 3))) - 1)).toBeLessThan(0.05)
})
