import type { Browser } from 'playwright-core'
import type { PieceRow } from '../../contract/desk'
import { FERRY } from '../demoIds'
import { layoutFaults } from './faults'
import { SIZES, STATES, type State } from './states'

export interface Fault {
  state: string
  size: string
  theme: 'day' | 'night'
  what: string
}

/** Opens a state once and looks at it at each size, in the themes that are named. One that does not come about is a fault. */
async function faultsOf(
  browser: Browser,
  address: string,
  state: State,
  pieces: ReadonlyMap<string, string>,
  themes: readonly Fault['theme'][],
): Promise<Fault[]> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, permissions: ['microphone'] })
  const page = await context.newPage()
  await page.addInitScript('globalThis.__name = (named) => named')
  const found: Fault[] = []
  try {
    await page.goto(address + state.path(pieces))
    await state.act?.(page)
    for (const theme of themes) {
      await page.evaluate((now) => (document.documentElement.dataset.theme = now), theme)
      for (const { name: size, width, height } of SIZES) {
        await page.setViewportSize({ width, height })
        // laid out, and what the new size brings about, too
        await page.evaluate(() => new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(() => setTimeout(drawn, 40)))))
        for (const what of await page.evaluate(layoutFaults)) found.push({ state: state.name, size, theme, what })
      }
    }
  } catch (error) {
    found.push({ state: state.name, size: 'any', theme: themes[0], what: `it did not come about: ${(error as Error).message}` })
  } finally {
    await context.close()
  }
  return found
}

/** All faults of layout in all states, or in those whose name holds `only`. `done` hears of each state. */
export async function everyFault(
  browser: Browser,
  address: string,
  themes: readonly Fault['theme'][],
  only = '',
  done: (state: string, faults: Fault[]) => void = () => undefined,
): Promise<Fault[]> {
  // what is done on a Bench is done to a copy
  const ask = async <T>(path: string, method = 'GET', body?: object) =>
    (await (
      await fetch(`${address}/api${path}`, {
        method,
        ...(body ? { headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) } : {}),
      })
    ).json()) as T
  const copy = (await ask<{ id: string }>(`/stories/${FERRY}/duplicate`, 'POST', {})).id
  const pieces = new Map((await ask<PieceRow[]>(`/pieces?story=${copy}`)).map((row) => [row.body.slug, row.id]))
  const waiting = STATES.filter(({ name }) => name.includes(only))
  const all: Fault[] = []
  const worker = async () => {
    for (let state = waiting.shift(); state; state = waiting.shift()) {
      const faults = await faultsOf(browser, address, state, pieces, themes)
      all.push(...faults)
      done(state.name, faults)
    }
  }
  await Promise.all([worker(), worker()])
  await ask(`/documents/${copy}`, 'PATCH', { aside: true })
  return all
}
