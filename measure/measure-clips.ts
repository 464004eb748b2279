import { once } from 'node:events'
import { chromium } from 'playwright-core'
import { setTimeout as wait } from 'node:timers/promises'
import { CHROMIUM } from '../e2e/browser'
import type { Actuality } from '../core/edits/actuality'
import { newBoard, PLACES, type LiveClip } from '../core/live/board'
import { random } from '../core/sound/random'
import { RATE, toFrames } from '../core/time'
import type { Captured, ClipSound } from '../web/live/clipSound'
import { percentile, report } from './figure'
import { makeTape, openNewsroom } from './newsroom'
import { words } from './speechlike'

/**
 * The board in a real browser: from a key to the first sample of its sound, with forty clips ready; and ten minutes of a loop
 * with the server killed, in which each turn must be like the one before, to the bit, and no block late.
 */

const PRESSES = 120
const MINUTES = 10
const LENGTH = toFrames(600)
const CLIP = toFrames(11)

type Here = { plainCutBoard: ClipSound; finish: () => Promise<Captured>; presses: number[]; sounded: number[] }

const next = random(20_261)
const newsroom = await openNewsroom()
const tape = await makeTape(newsroom, LENGTH, words(LENGTH, 1500))
const server = await newsroom.start()
const put = async (id: string, body: object) => {
  const response = await fetch(`${newsroom.address}/api/documents/${id}`, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(body),
  })
  if (!response.ok) throw new Error(await response.text())
}

const clips: LiveClip[] = []
for (const [i, key] of PLACES.entries()) {
  const [piece, from] = [crypto.randomUUID(), toFrames(5) + i * toFrames(14)]
  const body: Actuality = {
    kind: 'actuality',
    slug: `Clip ${i + 1}`,
    speaker: '',
    role: '',
    story: null,
    head: 0,
    tail: 0,
    spans: [{ tape, from, to: from + CLIP, sound: 'tape' }],
  }
  await put(piece, body)
  clips.push({ id: crypto.randomUUID(), kind: 'clip', piece, key, ...(i === 0 ? { loop: true as const } : {}) })
}
const board = newBoard('Measured')
const id = crypto.randomUUID()
await put(id, { ...board, records: { ...board.records, ...Object.fromEntries(clips.map((clip) => [clip.id, clip])) } })

const browser = await chromium.launch(CHROMIUM)
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
await page.goto(`${newsroom.address}/live/${id}`)
const began = performance.now()
await page.waitForFunction((count) => document.querySelectorAll('[data-state=ready]').length === count, clips.length, { timeout: 120_000 })
report({ measure: 'clips', name: 'clips.ready', value: (performance.now() - began) / 1000, unit: 's until forty clips of 11 s are ready' })

await page.evaluate(() => {
  const here = globalThis as unknown as Here
  here.presses = []
  here.sounded = []
  const seen = new Set<number>()
  window.addEventListener('keydown', (event) => here.presses.push(performance.timeOrigin + event.timeStamp), true)
  here.plainCutBoard.subscribe(() => {
    for (const { run, sounded } of here.plainCutBoard.runs) {
      if (sounded === null || seen.has(run)) continue
      seen.add(run)
      here.sounded.push(sounded)
    }
  })
})
const keys = PLACES.slice(1).map((code) => code.replace(/^(Digit|Key)/, ''))
const NAMES: Record<string, string> = { Semicolon: ';', Comma: ',', Period: '.', Slash: '/' }
for (let i = 0; i < PRESSES; i++) {
  // never the same twice in a row: that would stop it
  const key = keys[(i * 7) % keys.length]
  await page.keyboard.press(NAMES[key] ?? key)
  await wait(250 + next() * 300)
}
const { presses, sounded } = await page.evaluate(() => {
  const { presses, sounded } = globalThis as unknown as Here
  return { presses, sounded }
})
if (sounded.length !== presses.length) throw new Error(`${presses.length} keys were pressed, ${sounded.length} were heard`)
const times = presses.map((at, i) => sounded[i] - at)
report({
  measure: 'clips',
  name: 'clips.play',
  value: percentile(times, 0.95),
  unit: `ms, p95 of ${PRESSES}, from the key to its first sample`,
})
await page.keyboard.press('Escape')
await wait(500)

server.child.kill('SIGKILL')
await once(server.child, 'exit')
await page.keyboard.press('1')
let [glitches, late, compared] = [0, 0, 0]
for (let minute = 0; minute < MINUTES; minute++) {
  await page.evaluate(() => {
    const here = globalThis as unknown as Here
    here.finish = here.plainCutBoard.capture()
  })
  await wait(60_000)
  const told = await page.evaluate(async (length) => {
    const { blocks, late } = await (globalThis as unknown as Here).finish()
    const sound = new Float32Array(blocks.reduce((sum, block) => sum + block.length, 0))
    let at = 0
    for (const block of blocks) {
      sound.set(block, at)
      at += block.length
    }
    let apart = 0
    for (let i = 0; i + length < sound.length; i++) if (sound[i] !== sound[i + length]) apart++
    return { apart, late, compared: Math.max(0, sound.length - length), silent: sound.every((sample) => sample === 0) }
  }, CLIP)
  if (told.silent) glitches++
  glitches += told.apart ? 1 : 0
  late += told.late
  compared += told.compared
}
const unit = `in ${MINUTES} minutes with the server killed; ${Math.round(compared / RATE)} s compared to the bit`
report({ measure: 'clips', name: 'clips.gap', value: glitches + late, unit })

await browser.close()
await newsroom.close()
