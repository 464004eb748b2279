import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { chromium, type Page } from 'playwright-core'
import { expect, it, onTestFinished } from 'vitest'
import type { StoredDocument } from '../contract/documents'
import { hangersOf, isRecorded, outputsOf, spineOf, type StoryDocument } from '../core/page/story'
import { clock, toFrames } from '../core/time'
import { CHROMIUM } from './browser'
import { here } from './here'
import { api, COUNCIL, figure, open, pieces, QUAY, saved, seconds, sent, sheetDrawn, until } from './newsroom'
import { wavOf } from './wav'

/** Somebody whose hands stay on the keys: counts what they press, by what they are at. What is typed as words is no stroke. */
class Hands {
  readonly strokes = new Map<string, number>()
  private at = ''

  constructor(private readonly page: Page) {}

  begin(part: string): void {
    this.at = part
  }

  async press(...keys: string[]): Promise<void> {
    this.strokes.set(this.at, (this.strokes.get(this.at) ?? 0) + keys.length)
    for (const key of keys) await this.page.keyboard.press(key)
  }

  type = (words: string): Promise<void> => this.page.keyboard.type(words)
}

const times = <T>(count: number, one: T): T[] => Array.from({ length: count }, () => one)

it(
  'a whole package is made with the keys: cut, written, voiced, mixed, fitted, sent, and a short version',
  { timeout: 180_000 },
  async () => {
    const folder = mkdtempSync(join(tmpdir(), 'plain-cut-job-'))
    // what the microphone hears
    writeFileSync(
      join(folder, 'voice.wav'),
      wavOf(10, 44_100, (t) => 6000 * Math.sin(2 * Math.PI * 160 * t) * (0.6 + 0.4 * Math.sin(2 * Math.PI * 3 * t))),
    )
    const context = await chromium.launchPersistentContext(join(folder, 'profile'), {
      ...CHROMIUM,
      args: [
        ...CHROMIUM.args,
        '--use-fake-device-for-media-stream',
        '--use-fake-ui-for-media-stream',
        `--use-file-for-fake-audio-capture=${join(folder, 'voice.wav')}`,
      ],
      viewport: { width: 1280, height: 800 },
      permissions: ['microphone'],
    })
    onTestFinished(async () => {
      await context.close()
      rmSync(folder, { recursive: true, force: true })
    })
    const { page, complaints } = await open(context, '/')
    const hands = new Hands(page)
    const rows = page.locator('[data-block]')
    const count = (many: number) =>
      until(
        () => rows.count(),
        (now) => now === many,
      )

    hands.begin('story')
    await page.getByTestId('stories').waitFor()
    await hands.press('Shift+N')
    await page.getByLabel('Slug').waitFor()
    await hands.type('Boats at night')
    // past the day and the time that it airs
    const slot = page.getByLabel('Slot')
    while (!(await slot.evaluate((field) => field === document.activeElement))) await hands.press('Tab')
    await hands.type('1:40')
    await hands.press('Enter')
    await page.getByText('An empty page.').waitFor()
    const id = page.url().split('/').at(-1)!
    const story = async () => (await api<StoredDocument>(`/documents/${id}`)).body as StoryDocument

    hands.begin('actualities')
    for (const [tape, on] of [
      [QUAY, 20],
      [QUAY, 60],
      [COUNCIL, 30],
    ] as const) {
      await page.goto(`${here.address}/tapes/${tape}?story=${id}`)
      await sheetDrawn(page)
      const before = (await pieces(id)).length
      await hands.press('Home', ...times(on, 'Control+ArrowRight'), ...times(24, 'Shift+ArrowRight'), 'p')
      await until(
        async () => (await pieces(id)).length,
        (now) => now === before + 1,
      )
    }

    hands.begin('script')
    await page.goto(`${here.address}/stories/${id}`)
    await page.getByText('An empty page.').waitFor()
    await hands.press('h')
    await hands.type('The last boat to Brackle leaves at six. After that the island is on its own.')
    await hands.press('Escape')
    for (const line of [
      'Nobody on the quay was told before it was in the paper.',
      'The company says that the boat has never paid for itself.',
      'The council meets again on Monday, and the boat stays where it is.',
    ]) {
      await hands.press('c')
      await hands.type(line)
      await hands.press('Escape', 't')
      await page.getByRole('dialog').getByRole('button').nth(1).waitFor()
      await hands.press('Enter')
      await page.getByRole('dialog').waitFor({ state: 'detached' })
    }
    await count(7)

    hands.begin('voice a line')
    const length = async () => seconds((await page.getByTestId('take-length').textContent())!)
    await hands.press(...times(5, 'ArrowUp'))
    const strokes: number[] = []
    for (let line = 0; line < 3; line++) {
      const before = hands.strokes.get('voice a line') ?? 0
      // from a page one key opens the microphone; the same key ends the take and goes on to the next line
      await hands.press('r')
      await until(length, (now) => now > 2)
      await hands.press('r')
      await page.getByText('ready', { exact: true }).waitFor()
      strokes.push(hands.strokes.get('voice a line')! - before)
    }
    hands.strokes.set('voice a line', Math.max(...strokes))
    await until(
      async () => spineOf(await story()).filter((block) => isRecorded(block) && block.piece).length,
      (voiced) => voiced === 3,
      30_000,
    )

    hands.begin('ambience under')
    await page.goto(`${here.address}/stories/${id}`)
    await count(7)
    await rows.nth(1).click({ position: { x: 100, y: 10 } })
    await hands.press('Shift+ArrowDown', 'Alt+O')
    await page.getByTestId('under-tapes').getByText('Quay at night').waitFor()
    await hands.type('quay')
    await hands.press('Enter')
    await page.getByTestId('hanger').waitFor()

    hands.begin('bed in and out')
    await rows.nth(4).click({ position: { x: 100, y: 10 } })
    await hands.press('Shift+ArrowDown', 'Alt+O')
    await page.getByTestId('under-tapes').getByText('Quay at night').waitFor()
    await hands.type('bed')
    await hands.press('Enter')
    await page.getByTestId('hanger').nth(1).waitFor()
    expect(hangersOf(await until(story, (now) => hangersOf(now).length === 2)).map(({ dip }) => Boolean(dip))).toEqual([true, true])

    hands.begin('level all speakers')
    const levels = page.getByTestId('block-level')
    await until(
      () => levels.count(),
      (measured) => measured === 6,
      30_000,
    )
    await hands.press('Control+e')
    await page.getByText(/brought to −23.0 LUFS/).waitFor()

    hands.begin('bring to target')
    await page.getByTestId('mix').getByText(/LUFS/).waitFor({ timeout: 30_000 })
    await hands.press('Control+b')
    await page.getByTestId('mix').getByText('−23.0 LUFS', { exact: true }).waitFor({ timeout: 30_000 })

    hands.begin('fit')
    // a slot that is a little less than what there is
    const trt = await figure(page, 'TRT')
    await page.getByLabel('Slot', { exact: true }).fill(clock(toFrames(trt - 1.2)))
    await page.keyboard.press('Enter')
    await page.getByText('over by').waitFor()
    await hands.press('Alt+Shift+F')
    await page.getByTestId('fit-runs').waitFor()
    await hands.press('Alt+Shift+F')
    await page.getByText('on time', { exact: true }).waitFor()
    await saved(page)

    hands.begin('send')
    await hands.press('Control+Enter')
    await page.getByTestId('preview').getByText('samples', { exact: false }).waitFor()
    await hands.press('Control+Enter')
    await page.getByTestId('receipts').getByRole('link', { name: 'Save' }).waitFor({ timeout: 30_000 })
    const receipt = await sent(id)
    expect(receipt.state).toBe('done')
    expect(Math.abs(receipt.loudness! + 23)).toBeLessThan(0.5)
    expect(receipt.truePeak!).toBeLessThan(-0.9)
    await hands.press('Escape')

    hands.begin('short version')
    await hands.press('Alt+Shift+N')
    await page.getByTestId('output').getByText('2 of 2').waitFor()
    await hands.type('0:30')
    await hands.press('Enter')
    await rows.nth(5).click({ position: { x: 100, y: 10 } })
    await hands.press('Shift+ArrowDown', 'Backspace')
    await count(5)
    await saved(page)
    const all = await story()
    expect(outputsOf(all).map(({ slot }) => slot)[1]).toBe(30 * 48_000)

    const told = Object.fromEntries(hands.strokes)
    console.log(JSON.stringify({ name: 'job.strokes', ...told, all: Object.values(told).reduce((sum, one) => sum + one, 0) }))
    const most = {
      'voice a line': 3,
      'ambience under': 3,
      'bed in and out': 4,
      'level all speakers': 1,
      'bring to target': 1,
      fit: 2,
      send: 3,
      'short version': 8,
    }
    expect(Object.entries(most).filter(([part, limit]) => told[part] > limit)).toEqual([])
    expect(complaints).toEqual([])
  },
)
