import type { StoredDocument } from '../contract/documents'
import { spineOf, type Block, type StoryDocument } from '../core/page/story'
import { execFileSync } from 'node:child_process'
import { join } from 'node:path'
import type { Page } from 'playwright-core'
import { chromium } from 'playwright-core'
import type { PieceRow } from '../contract/desk'
import type { TapeInfo } from '../contract/tapes'
import { LINE_RATE } from '../server/phone/jitter'
import { RATE, toFrames } from '../core/time'
import { CHROMIUM } from '../e2e/browser'
import { COUNCIL, FERRY, QUAY } from '../e2e/demoIds'
import { openNewsroom } from '../measure/newsroom'
import { call } from '../server/standins/caller'
import { guestRecording } from '../server/standins/guest'
import { Inbox, PASSWORD, USER } from '../server/standins/inbox'
import { openPlayout } from '../server/standins/playout'
import { channelOf } from './channelOf'
import { requirePackages } from './machine'
import { serve } from './serving'

/** `npm run pictures [NAME …]`: takes the pictures of docs/screenshots/ anew, all or those that are named, on a demo of its own. */

requirePackages('postgresql', 'ffmpeg', 'chromium-headless-shell', 'pocketsphinx', 'pocketsphinx-en-us')
const top = join(import.meta.dirname, '..')
const newsroom = await openNewsroom()
const server = await serve({
  PORT: String(newsroom.port),
  PLAIN_CUT_DATA: newsroom.data,
  PLAIN_CUT_DATABASE: newsroom.cluster.url,
  PLAIN_CUT_RECOGNISE: 'asked',
})
// what the microphone hears
const spoken = join(newsroom.data, 'spoken.wav')
execFileSync('ffmpeg', ['-v', 'error', '-i', join(top, 'demo', 'tapes', 'voice-tracks.flac'), '-ar', '44100', spoken])
const browser = await chromium.launch({
  ...CHROMIUM,
  args: [
    ...CHROMIUM.args,
    '--use-fake-device-for-media-stream',
    '--use-fake-ui-for-media-stream',
    `--use-file-for-fake-audio-capture=${spoken}`,
  ],
})
const { address } = newsroom
const api = async <T>(path: string): Promise<T> => (await (await fetch(`${address}/api${path}`)).json()) as T
const post = async (path: string, body: object, method = 'POST') =>
  void (await fetch(`${address}/api${path}`, { method, headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) }))
const pieces = new Map((await api<PieceRow[]>('/pieces')).map(({ id, body }) => [body.slug, id]))

const drawn = (page: Page) => page.waitForSelector('canvas[data-drawn=words], canvas[data-drawn=even]')
const press = async (page: Page, ...keys: string[]) => {
  for (const key of keys) await page.keyboard.press(key)
}
const times = (key: string, count: number) => Array.from({ length: count }, () => key)
const selectFrom = (page: Page, stepsOn: number, words: number) =>
  press(page, 'Home', ...times('Control+ArrowRight', stepsOn), ...times('Shift+ArrowRight', words))
const COUNCIL_CALL = join(top, 'demo', 'tapes', 'call-council-2.flac')
const upload = (page: Page, name: string, buffer: Buffer) =>
  page.getByTestId('file-input').setInputFiles({ name, mimeType: 'audio/wav', buffer })
const lineOf = async (beginning: string): Promise<Block> =>
  spineOf((await api<StoredDocument & { body: StoryDocument }>(`/documents/${FERRY}`)).body).find(({ text }) => text.startsWith(beginning))!
const tapeCalled = async (name: string, state: TapeInfo['state']): Promise<string> => {
  for (;;) {
    const found = (await api<TapeInfo[]>('/tapes')).find((tape) => tape.name === name && tape.state === state && tape.frames > 0)
    if (found) return found.id
    await new Promise((done) => setTimeout(done, 200))
  }
}

const PICTURES: Record<string, (page: Page) => Promise<void>> = {
  desk: async (page) => {
    await page.goto(address)
    await page.getByTestId('stories').waitFor()
  },
  tapes: async (page) => {
    await page.goto(`${address}/tapes`)
    await page.getByTestId('tapes').getByRole('link').first().waitFor()
  },
  sheet: async (page) => {
    await page.goto(`${address}/tapes/${QUAY}?story=${FERRY}`)
    await drawn(page)
    await selectFrom(page, 14, 9)
  },
  sides: async (page) => {
    await page.goto(`${address}/tapes/${COUNCIL}`)
    await drawn(page)
    await selectFrom(page, 13, 2)
  },
  tidy: async (page) => {
    await page.goto(`${address}/tapes/${QUAY}?story=${FERRY}`)
    await drawn(page)
    await press(page, 'Shift+D')
    await page.getByTestId('tidy-none').waitFor()
    await page
      .getByTestId('tidy-kinds')
      .getByRole('button', { name: /Fillers/ })
      .click()
    await press(page, ']', ']')
    await page.waitForTimeout(800)
  },
  words: async (page) => {
    await page.goto(`${address}/tapes/${COUNCIL}?at=${toFrames(27)}`)
    await drawn(page)
    await page.waitForTimeout(800)
    await press(page, 'd')
    await page.getByTestId('word-editor').waitFor()
  },
  bench: async (page) => {
    await page.goto(`${address}/pieces/${pieces.get('Nobody told us')}`)
    await drawn(page)
    await page.getByTestId('joins').getByRole('button').nth(1).click()
    await page.waitForTimeout(2500)
  },
  'fair-edit-record': async (page) => {
    await page.goto(`${address}/pieces/${pieces.get('Nobody told us')}/record`)
    await page.getByText('It shows what was done').waitFor()
  },
  page: async (page) => {
    await page.goto(`${address}/stories/${FERRY}`)
    await page.getByTestId('page').getByText('tie her up.').waitFor()
    await page.getByTestId('mix').getByText('LUFS').waitFor()
    await page.getByTestId('hanger').first().focus()
    await page.waitForTimeout(2500)
  },
  fit: async (page) => {
    await page.goto(`${address}/stories/${FERRY}`)
    await page.getByTestId('mix').getByText('LUFS').waitFor()
    await press(page, 'Alt+Shift+F', ']')
    await page.getByTestId('fit-runs').waitFor()
  },
  send: async (page) => {
    await page.goto(`${address}/stories/${FERRY}`)
    await page.getByTestId('page').getByText('tie her up.').waitFor()
    await press(page, 'Control+Enter')
    await page.getByRole('dialog').getByText('LUFS').first().waitFor()
  },
  board: async (page) => {
    await page.goto(`${address}/live`)
    await page.getByText('of 6 ready').waitFor()
    await page.waitForFunction(() => document.querySelectorAll('[data-state=ready]').length === 6)
    await press(page, '1')
    await page.waitForFunction(() => document.querySelector('[data-testid=last-seconds]') !== null)
  },
  sendings: async (page) => {
    const inboxes = ['one', 'two'].map((name) => new Inbox(join(newsroom.data, name)))
    const doors = await Promise.all(inboxes.map((inbox) => openPlayout(inbox)))
    inboxes[1].faults = { full: true }
    const to = await Promise.all(
      (['sftp', 'ftp'] as const).map(async (kind, i) => {
        const id = crypto.randomUUID()
        const name = ['Playout', 'Mainland relay'][i]
        const own = { name, kind, address: doors[i].addresses[kind], user: USER, secret: PASSWORD, field: 'file' }
        await post(`/destinations/${id}`, { ...own, heedsKey: false, sameName: 'ask' }, 'PUT')
        return id
      }),
    )
    const form = { format: 'wav', rate: 48_000, bits: 24, channels: 1, kbps: 192, pattern: '{slug}_{date}_{length}', to }
    await post('/programmes/Brackle%20Sound', { ...form, to: [to[0]], loudness: -23 }, 'PUT')
    await post('/sends', { ...form, what: { kind: 'story', id: FERRY }, by: 'Tamsin Roe' })
    await page.goto(`${address}/sendings`)
    await page
      .getByTestId('deliveries')
      .getByText(/Tried 2 times/)
      .waitFor()
  },
  mend: async (page) => {
    await page.goto(`${address}/tapes/${QUAY}?story=${FERRY}`)
    await drawn(page)
    await press(page, 'Alt+Shift+M')
    await page.getByTestId('mend-offers').getByRole('button').last().click()
    const mend = page.getByTestId('mend')
    await mend.getByText('copy to B').click()
    await mend.getByRole('button', { name: 'Add a step' }).click()
    await page.getByRole('menuitem', { name: /^Level/ }).click()
    await page.waitForTimeout(4000)
  },
  find: async (page) => {
    await page.goto(address)
    await page.getByTestId('stories').waitFor()
    await press(page, 'Control+f')
    await page.getByRole('dialog').waitFor()
    await page.keyboard.type('nobody told us')
    await page.locator('[data-hit]').first().waitFor()
    await page.waitForTimeout(600)
  },
  voicing: async (page) => {
    await page.goto(`${address}/stories/${FERRY}`)
    await page.getByText('tie her up.').waitFor()
    await press(page, 'Alt+Shift+T')
    await page.keyboard.type('voice tracks')
    await page.keyboard.press('Enter')
    await page.getByTestId('voicing').getByText('on the page').waitFor()
    await page.goto(`${address}/stories/${FERRY}/voice?takes&line=${(await lineOf('The council’s answer')).id}`)
    await page.getByTestId('takes').getByText('nearest').waitFor()
    await page.waitForTimeout(800)
  },
  record: async (page) => {
    await page.goto(`${address}/record?story=${FERRY}`)
    await page.getByText('ready', { exact: true }).waitFor()
    await press(page, 'Shift+R')
    await page.getByText('recording', { exact: true }).first().waitFor()
    await page.waitForTimeout(6000)
  },
  lineup: async (page) => {
    const guest = guestRecording(channelOf(COUNCIL_CALL, 1, RATE), { later: toFrames(3.7), ppm: 41 })
    await page.goto(address)
    await upload(page, 'Maren Ferris, own recording.wav', guest)
    await tapeCalled('Maren Ferris, own recording', 'ready')
    await page.goto(`${address}/tapes/${COUNCIL}`)
    await drawn(page)
    await page.getByRole('button', { name: /Line up with other/ }).click()
    const dialog = page.getByRole('dialog')
    await dialog.getByRole('checkbox', { name: 'Maren Ferris, own recording' }).check()
    await dialog.getByRole('button', { name: 'Compare them' }).click()
    await dialog.getByRole('list', { name: 'What was found' }).waitFor({ timeout: 60_000 })
    await page.waitForTimeout(800)
  },
  call: async (page) => {
    const [near, far] = [channelOf(COUNCIL_CALL, 0, LINE_RATE), channelOf(COUNCIL_CALL, 1, LINE_RATE)]
    await page.goto(address)
    void call(newsroom.port, {
      name: 'Harbour office',
      near: near.subarray(0, 60 * LINE_RATE),
      far: far.subarray(0, 60 * LINE_RATE),
      loss: 0.01,
      jitter: 40,
      seed: 3,
    })
    await page.getByText('Harbour office is calling').waitFor()
    await press(page, 'Alt+y')
    await page.waitForTimeout(9000)
    await page
      .getByRole('button', { name: 'Read and cut', exact: false })
      .or(page.getByRole('link', { name: /Harbour office/ }))
      .first()
      .click()
    await drawn(page)
    await page.waitForTimeout(9000)
  },
}

const wanted = process.argv.slice(2)
for (const [name, stage] of Object.entries(PICTURES)) {
  if (wanted.length && !wanted.includes(name)) continue
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, permissions: ['microphone'] })
  const page = await context.newPage()
  try {
    await stage(page)
    await page.waitForTimeout(400)
    await page.screenshot({ path: join(top, 'docs', 'screenshots', `${name}.png`) })
    console.log(name)
  } catch (error) {
    console.error(`${name}: ${(error as Error).message}`)
    process.exitCode = 1
  }
  await context.close()
}
await browser.close()
await server.stop()
await newsroom.close()
// the doors of the stand-in are open still
process.exit()
