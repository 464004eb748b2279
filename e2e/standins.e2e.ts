import { spawn } from 'node:child_process'
import { mkdirSync, mkdtempSync, renameSync, rmSync, statSync, utimesSync, writeFileSync } from 'node:fs'
import { createHash } from 'node:crypto'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, afterEach, beforeAll, describe, expect, it, onTestFinished } from 'vitest'
import type { CallInfo } from '../contract/calls'
import type { LineUpInfo } from '../contract/lineups'
import type { TapeInfo } from '../contract/tapes'
import { LINE_RATE } from '../server/phone/jitter'
import { RATE } from '../core/time'
import { freePort } from '../scripts/cluster'
import { serve, type Serving } from '../scripts/serving'
import { call } from '../server/standins/caller'
import { insertCard, pullCard } from '../server/standins/card'
import { guestRecording } from '../server/standins/guest'
import { here } from './here'
import { api, bring, COUNCIL, until, useBrowser, visit, watchTapes } from './newsroom'
import { makeWav } from './wav'

const top = join(import.meta.dirname, '..')
const cards = mkdtempSync(join(tmpdir(), 'plain-cut-cards-'))
const sha = (file: Uint8Array) => createHash('sha256').update(file).digest('hex')
const tapes = watchTapes()
const named = async (name: string) => (await tapes()).find((tape) => tape.name === name)

useBrowser()

// cards and the line belong to a server of their own, beside the one of all tests
let server: Serving
let port = 0
const address = () => `http://localhost:${port}`
beforeAll(async () => {
  port = await freePort()
  server = await serve({
    PORT: String(port),
    PLAIN_CUT_DATA: here.data,
    PLAIN_CUT_DATABASE: here.database,
    PLAIN_CUT_DEMO: 'none',
    PLAIN_CUT_CARDS: cards,
  })
})
afterAll(async () => {
  await server.stop()
  rmSync(cards, { recursive: true, force: true })
})

describe('a recorder’s card', () => {
  it('is offered when it comes in, and nothing is taken unasked', async () => {
    const { page } = await visit('/')
    await page.goto(`${address()}/tapes`)
    const quay = join(top, 'demo', 'tapes', 'tape-043.mp3')
    const from = Math.random() // another recording each time: the same one is taken in once
    const card = insertCard(cards, 'FIELD-7', '2026-11-24', [
      { source: quay, time: '14:05:00', from, to: from + 6 },
      { source: quay, time: '14:05:06', from: from + 6, to: from + 11 },
      { source: quay, time: '16:00:00', from: 20, to: 24 },
    ])
    onTestFinished(() => pullCard(card))
    await page.getByText('FIELD-7 is in: 3 new recordings').waitFor()
    expect(await named('REC 0001')).toBeUndefined()
    await page.getByRole('button', { name: 'Choose what to take' }).click()
    const list = page.getByRole('list', { name: 'Recordings on the card' })
    await list.getByRole('checkbox', { name: /REC_0003/ }).uncheck()
    await page.getByRole('button', { name: 'Take 2' }).click()
    const first = await until(
      () => named('REC 0001'),
      (tape) => tape?.state === 'ready',
    )
    const second = await until(
      () => named('REC 0002'),
      (tape) => tape?.state === 'ready',
    )
    expect([first!.day, first!.origin.time, first!.origin.originator]).toEqual(['2026-11-24', '14:05:00', 'Field recorder'])
    await page.getByText('FIELD-7 is in: 1 new recording').waitFor()

    // the recorder split one recording in two: they are offered as one tape
    await page.goto(`${address()}/tapes/${first!.id}`)
    await page.getByText('One recording with “REC 0002”').waitFor()
    await page.getByRole('button', { name: 'Make them one tape' }).click()
    const whole = await until(
      () => named('REC 0001, whole'),
      (tape) => tape?.state === 'ready',
    )
    expect(whole!.frames).toBe(first!.frames + second!.frames)
    await page.waitForURL(`**/tapes/${whole!.id}`)
    pullCard(card)
    await page.goto(`${address()}/tapes`)
    await page.getByText(/FIELD-7 is in/).waitFor({ state: 'detached' })
  })

  it('may vanish half way: what was copied stays, and goes on when it is back', async () => {
    mkdirSync(join(cards, 'B'))
    onTestFinished(() => ['B', '.B'].forEach((card) => pullCard(join(cards, card))))
    /** Takes a new file, and pulls the card before the copy begins; a copy that was quicker than the hand is tried again. */
    const pulledAtOnce = async (tries: number): Promise<{ file: Buffer; place: string; mtime: Date; id: string }> => {
      const file = makeWav(60 + tries, RATE)
      const place = join(cards, 'B', `LONG${tries}.WAV`)
      writeFileSync(place, file)
      const { mtime } = statSync(place)
      const [id] = (await (
        await fetch(`${address()}/api/intake/cards/take`, {
          method: 'POST',
          headers: { 'Content-Type': 'application/json' },
          body: JSON.stringify({ card: 'B', paths: [`LONG${tries}.WAV`] }),
        })
      ).json()) as string[]
      renameSync(join(cards, 'B'), join(cards, '.B'))
      await new Promise((done) => setTimeout(done, 1500))
      if ((await api<TapeInfo>(`/tapes/${id}`)).state === 'arriving') return { file, place, mtime, id }
      if (tries === 0) expect.fail('the copy was always quicker')
      renameSync(join(cards, '.B'), join(cards, 'B'))
      return pulledAtOnce(tries - 1)
    }
    const { file, place, mtime, id } = await pulledAtOnce(4)
    // the half of it that a copy would have got by then
    writeFileSync(join(here.data, 'media', 'uploads', id), file.subarray(0, 2_000_000))
    renameSync(join(cards, '.B'), join(cards, 'B'))
    utimesSync(place, mtime, mtime)
    const tape = await until(
      () => api<TapeInfo>(`/tapes/${id}`),
      ({ state }) => state === 'ready',
      20_000,
    )
    expect(tape.sha256).toBe(sha(file))
  })
})

describe('the telephone line', () => {
  // each side says something else, at a place that can be found again
  const side = (hertz: number, from: number, to: number) =>
    Float32Array.from({ length: 6 * LINE_RATE }, (_, i) =>
      i >= from * LINE_RATE && i < to * LINE_RATE ? 0.4 * Math.sin((2 * Math.PI * hertz * i) / LINE_RATE) : 0,
    )
  const near = side(500, 1, 3)
  const far = side(800, 3, 5)
  const calls = async () => (await (await fetch(`${address()}/api/intake/calls`)).json()) as CallInfo[]
  const wish = (id: string, what: 'answer' | 'decline' | 'end') => fetch(`${address()}/api/intake/calls/${id}/${what}`, { method: 'POST' })

  // one call at a time: what a test left on the line would make it busy for the next
  afterEach(async () => {
    for (const { id, state } of await calls()) await wish(id, state === 'ringing' ? 'decline' : 'end')
    await until(calls, (list) => !list.length)
  })

  it('rings, is answered, and both sides are recorded apart and in step', async () => {
    const { page } = await visit('/')
    await page.goto(`${address()}/`)
    const over = call(port, { name: 'Harbour office', near, far, loss: 0.02, jitter: 60, seed: 3 })
    await page.getByText('Harbour office is calling').waitFor()
    await page.getByRole('button', { name: 'Answer and record' }).click()
    await page.waitForURL('**/tapes/*')
    await page.getByText(/Still arriving/).waitFor()
    expect(await over).toBe('sent')
    const tape = await until(
      () => named('Call, Harbour office'),
      (found) => found?.state === 'ready',
      20_000,
    )
    expect(tape!.sides.map(({ name }) => name)).toEqual(['near end', 'Harbour office'])
    // where each side is loud, in twentieths of a second; a machine that is busy may answer or hang up a little late
    const loud = async (channel: number) => {
      const sound = new Float32Array(
        await (await fetch(`${address()}/api/tapes/${tape!.id}/sound/sound/${channel}?from=0&to=${tape!.frames}`)).arrayBuffer(),
      )
      const part = RATE / 20
      const levels = Array.from({ length: Math.floor(sound.length / part) }, (_, i) =>
        Math.sqrt(sound.subarray(i * part, (i + 1) * part).reduce((sum, sample) => sum + sample * sample, 0) / part),
      )
      return {
        from: levels.findIndex((level) => level > 0.1),
        to: levels.findLastIndex((level) => level > 0.1) + 1,
        share: levels.filter((level) => level > 0.1).length / 20,
      }
    }
    const [own, other] = [await loud(0), await loud(1)]
    expect(tape!.frames / RATE).toBeGreaterThan(5)
    expect(own.from).toBeLessThan(2.5 * 20)
    for (const { share } of [own, other]) expect(Math.abs(share - 2)).toBeLessThan(0.2)
    expect(Math.abs(other.from - own.to)).toBeLessThanOrEqual(3)
    expect(tape!.findings.map(({ what }) => what)).not.toContain('unfinished')
  })

  it('records by itself as it is picked up, where that was asked for, and reminds that the caller must be told', async () => {
    const { page } = await visit('/')
    await page.goto(`${address()}/record`)
    await page.getByLabel(/Record each call as it is picked up/).check()
    await page.goto(`${address()}/`)
    const over = call(port, { name: 'Ferry office', near, far, loss: 0, jitter: 0, seed: 1 })
    await page.getByText('Tell the caller that this is recorded.').waitFor()
    // whoever is at something stays there
    expect(new URL(page.url()).pathname).toBe('/')
    await page.getByRole('button', { name: 'Told' }).click()
    await page.getByText('Tell the caller that this is recorded.').waitFor({ state: 'detached' })
    await page.getByRole('button', { name: 'Hang up' }).click()
    expect(await over).toBe('hungUp')
    await page.evaluate(() => localStorage.removeItem('callsByThemselves'))
  })

  it('rings on a page that had asked just before, and hears only afterwards that nobody called', async () => {
    const { page } = await visit('/')
    let answered = () => undefined as void
    const first = new Promise<void>((asked) => {
      let times = 0
      void page.route('**/api/intake/calls', async (route) => {
        if (times++) return route.continue()
        const response = await route.fetch()
        const held = new Promise<void>((done) => (answered = done))
        asked()
        await held
        await route.fulfill({ response })
      })
    })
    await page.goto(`${address()}/`)
    await first
    const over = call(port, { name: 'Early caller', near, far, loss: 0, jitter: 0, seed: 1 })
    await until(calls, (list) => list.length === 1)
    await page.waitForTimeout(300)
    answered()
    await page.getByText('Early caller is calling').waitFor()
    await page.getByRole('button', { name: 'Decline' }).click()
    expect(await over).toBe('refused')
  })

  it('is hung up from here, and declined', async () => {
    const { page } = await visit('/')
    await page.goto(`${address()}/`)
    const first = call(port, { name: 'Long talker', near, far, loss: 0, jitter: 0, seed: 1 })
    await page.getByRole('button', { name: 'Answer and record' }).click()
    await page.getByRole('button', { name: 'Hang up' }).waitFor()
    await page.waitForTimeout(1000)
    await page.getByRole('button', { name: 'Hang up' }).click()
    expect(await first).toBe('hungUp')
    await until(
      () => named('Call, Long talker'),
      (tape) => tape?.state === 'ready',
      20_000,
    )
    const second = call(port, { name: 'Wrong number', near, far, loss: 0, jitter: 0, seed: 1 })
    await page.getByRole('button', { name: 'Decline' }).click()
    expect(await second).toBe('refused')
    expect(await calls()).toEqual([])
  })

  it('cut off by an end of the server leaves a tape', async () => {
    const talk = call(port, { name: 'Cut off', near, far, loss: 0, jitter: 0, seed: 1 })
    const [{ id }] = await until(calls, (list) => list.length === 1)
    await wish(id, 'answer')
    await until(calls, ([one]) => one?.state === 'on')
    await new Promise((done) => setTimeout(done, 2000))
    server.child.kill('SIGKILL')
    expect(await talk).toBe('sent')
    server = await serve({
      PORT: String(port),
      PLAIN_CUT_DATA: here.data,
      PLAIN_CUT_DATABASE: here.database,
      PLAIN_CUT_DEMO: 'none',
      PLAIN_CUT_CARDS: cards,
    })
    const tape = await until(
      () => named('Call, Cut off'),
      (found) => found?.state === 'ready',
      20_000,
    )
    expect(tape!.frames / RATE).toBeGreaterThan(1)
    expect(await calls()).toEqual([])
  })
})

describe('a remote guest', () => {
  it('is put in step with the call, as their clock ran', async () => {
    const decoder = spawn('ffmpeg', [
      '-v',
      'error',
      '-i',
      join(top, 'demo', 'tapes', 'call-council-2.flac'),
      '-af',
      'pan=mono|c0=c1',
      '-ar',
      String(RATE),
      '-f',
      'f32le',
      'pipe:1',
    ])
    const parts: Buffer[] = []
    for await (const part of decoder.stdout) parts.push(part as Buffer)
    const all = Buffer.concat(parts)
    const guest = new Float32Array(all.buffer.slice(all.byteOffset, all.byteOffset + all.byteLength)).subarray(0, 80 * RATE)
    const tape = await bring('Guest, own recording.wav', guestRecording(guest, { later: 2.5 * RATE, ppm: -41 }))
    const { id } = await api<LineUpInfo>('/lineups', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ tapes: [COUNCIL, tape.id] }),
    })
    const info = await until(
      () => api<LineUpInfo>(`/lineups/${id}`),
      ({ state }) => state === 'compared',
      50_000,
    )
    const [, fit] = info.fits
    expect(fit.belongs).toBe(true)
    expect(Math.abs(fit.offset / RATE - 2.5)).toBeLessThan(0.001)
    expect(Math.abs(fit.offset + tape.frames * (1 + fit.drift) - (2.5 * RATE + tape.frames * (1 - 41e-6))) / RATE).toBeLessThan(0.002)
  })
})
