import { describe, expect, it } from 'vitest'
import type { StoredDocument } from '../contract/documents'
import type { TapeInfo } from '../contract/tapes'
import type { Actuality } from '../core/edits/actuality'
import { random } from '../core/sound/random'
import { resampled } from '../core/sound/resample'
import { toFrames, type Frames } from '../core/time'
import { here } from './here'
import { api, bring, pieces, seconds, sheetDrawn, until, useBrowser, visit } from './newsroom'
import { another, wavOf } from './wav'

const SECONDS = 70
const RATE = 48_000

/** What a speaker says, in turns with another: bursts of coloured noise. */
function talk(seed: number, mine: (second: number) => boolean): Float32Array {
  const next = random(seed)
  const out = new Float32Array(SECONDS * RATE)
  for (let at = 0; at < out.length;) {
    const length = Math.round(RATE * (0.06 + 0.2 * next()))
    const hertz = 200 + 2500 * next() ** 2
    const loud = mine(at / RATE) && next() > 0.2 ? 0.3 : 0
    for (let i = 0; i < length && at < out.length; i++, at++)
      out[at] = loud * Math.sin((Math.PI * i) / length) * (Math.sin((2 * Math.PI * hertz * i) / RATE) + 0.6 * (next() - 0.5))
  }
  return out
}

const host = talk(1, (second) => second % 10 < 5)
const guest = talk(2, (second) => second % 10 >= 5)
const DRIFT = 40e-6
const START = toFrames(3.2)

/** A microphone that hears one well and the other a little, as a machine with a clock of its own writes it down. */
function machine(near: Float32Array, far: Float32Array, seed: number, start: Frames, drift: number): Buffer {
  const next = random(seed)
  const read = (from: Frames, to: Frames) =>
    Float32Array.from({ length: to - from }, (_, i) => (near[from + i] ?? 0) + 0.08 * (far[from + i] ?? 0))
  const sound = resampled(read, start, 1 + drift, Math.floor((near.length - start) / (1 + drift)) - 100)
  return wavOf(sound.length / RATE, RATE, (t) => 32_767 * ((sound[Math.round(t * RATE)] ?? 0) + 0.0008 * (next() - 0.5)))
}

useBrowser()

describe('lining up', () => {
  it('makes one tape of two machines’ recordings, in step, and moves pieces over', { timeout: 90_000 }, async () => {
    // made before any of them is sent: it takes longer than a connection is kept open
    const tried = another()
    const named = (name: string) => `${name} ${tried}`
    const files = [
      machine(host, guest, another(), 0, 0),
      machine(guest, host, another(), START, DRIFT),
      machine(
        talk(9, () => true),
        talk(10, () => false),
        another(),
        0,
        0,
      ),
    ]
    const first = await bring(`${named('host side')}.wav`, files[0])
    const second = await bring(`${named('guest side')}.wav`, files[1])
    const stranger = await bring(`${named('other talk')}.wav`, files[2])
    // a piece of the guest's own tape, from what they say at 0:28
    const piece = crypto.randomUUID()
    const at = toFrames(25)
    await api(`/documents/${piece}`, {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({
        kind: 'actuality',
        slug: 'Guest said',
        speaker: '',
        role: '',
        story: null,
        spans: [{ tape: second.id, from: at, to: at + RATE, sound: 'tape' }],
        head: 0,
        tail: 0,
        sides: { [second.id]: second.sides },
      }),
    })

    const { page } = await visit(`/tapes/${first.id}`)
    await page.getByRole('button', { name: /Line up with other/ }).click()
    const dialog = page.getByRole('dialog')
    for (const name of ['guest side', 'other talk'].map(named)) {
      await dialog.getByLabel('Find tapes').fill(name)
      await dialog.getByRole('checkbox', { name }).check()
    }
    await dialog.getByRole('button', { name: 'Compare them' }).click()
    const found = dialog.getByRole('list', { name: 'What was found' })
    await found.waitFor({ timeout: 30_000 })
    await found.getByText(/It starts 0:03\.2 later, and its clock ran (3|4)\d ppm slow/).waitFor()
    await found.getByText(/Not recorded together with the first/).waitFor()
    expect(await found.getByRole('checkbox', { name: `Use ${named('other talk')}` }).isChecked()).toBe(false)
    await found.getByLabel(`Who speaks on ${named('host side')}`).fill('Host')
    await found.getByLabel(`Who speaks on ${named('guest side')}`).fill('Guest')
    await dialog.getByLabel('What the new tape is called').fill(named('Both of them'))
    await dialog.getByRole('button', { name: 'Make the tape' }).click()

    const joined = await until(
      async () => (await api<TapeInfo[]>('/tapes')).find((tape) => tape.name === named('Both of them')),
      (tape) => tape?.state === 'ready',
      30_000,
    )
    await page.waitForURL(`**/tapes/${joined!.id}*`)
    expect(joined!.sides.map((side) => side.name)).toEqual(['Host', 'Guest'])
    // what the guest said lies in step on both sides: the far microphone's copy and the near one's
    const read = async (channel: number, from: Frames, to: Frames) =>
      new Float32Array(
        await (await fetch(`${here.address}/api/tapes/${joined!.id}/sound/sound/${channel}?from=${from}&to=${to}`)).arrayBuffer(),
      )
    for (const second_ of [16, 36, 66]) {
      const [own, bleed] = await Promise.all([read(1, second_ * RATE, (second_ + 1) * RATE), read(0, second_ * RATE, (second_ + 1) * RATE)])
      expect(Math.abs(bestLag(own, bleed, 60))).toBeLessThan(24) // half a millisecond
    }
    // and while the host speaks, the guest's side is hushed
    const hush = joined!.sides[1].hush ?? []
    expect(hush.some(({ from, to }) => from < toFrames(22) && to > toFrames(24))).toBe(true)
    expect(hush.some(({ from, to }) => from < toFrames(28) && to > toFrames(26))).toBe(false)

    await page.getByText('Lined up of').waitFor()
    await page.getByRole('button', { name: 'Move over' }).click()
    const moved = await until(
      async () => (await pieces()).find((row) => row.id === piece)!,
      (row) => row.body.spans[0].tape === joined!.id,
    )
    const [span] = moved.body.spans
    expect(Math.abs(span.from - (START + at * (1 + DRIFT)))).toBeLessThan(48)
    expect(moved.body.sides![joined!.id].map((side) => side.name)).toEqual(['Host', 'Guest'])
    // the sources and what they hold stay
    expect((await api<TapeInfo>(`/tapes/${second.id}`)).state).toBe('ready')
    expect((await api<TapeInfo>(`/tapes/${stranger.id}`)).state).toBe('ready')
    await page.goto(`${here.address}/pieces/${piece}`)
    await sheetDrawn(page)
    await page.keyboard.press('Control+z')
    await until(
      async () => (await api<StoredDocument>(`/documents/${piece}`)).body as Actuality,
      (body) => body.spans[0].tape === second.id,
    )
  })

  it('knows a mixed recording of a call, lists what it mutes of it, and lets each be overruled', { timeout: 90_000 }, async () => {
    const tried = another()
    const named = (name: string) => `${name} ${tried}`
    const none = new Float32Array(host.length)
    const both = host.map((sample, i) => sample + 0.8 * guest[i])
    const files = [machine(host, none, another(), 0, 0), machine(both, none, another(), START, DRIFT)]
    const first = await bring(`${named('my microphone')}.wav`, files[0])
    await bring(`${named('the call')}.wav`, files[1])
    const { page } = await visit(`/tapes/${first.id}`)
    await page.getByRole('button', { name: /Line up with other/ }).click()
    const dialog = page.getByRole('dialog')
    await dialog.getByLabel('Find tapes').fill(named('the call'))
    await dialog.getByRole('checkbox', { name: named('the call') }).check()
    await dialog.getByRole('button', { name: 'Compare them' }).click()
    const found = dialog.getByRole('list', { name: 'What was found' })
    await found.waitFor({ timeout: 30_000 })
    await found.getByText('It holds several voices, as a mixed recording of a call does.').waitFor()
    const mixed = found.getByRole('checkbox', { name: 'mixed recording of a call' })
    expect([await mixed.nth(0).isChecked(), await mixed.nth(1).isChecked()]).toEqual([false, true])
    // the call gives way while the host speaks on their own microphone: seconds 0 to 5, 10 to 15, and so on
    const list = found.getByRole('listitem').filter({ hasText: named('the call') })
    await list.getByText(/Muted in \d places/).click()
    const places = list.locator('details').getByRole('checkbox')
    expect(await places.count()).toBeGreaterThan(5)
    await places.nth(1).uncheck()
    const label = await places.nth(1).locator('..').innerText()
    const [from, to] = label.split(' to ').map((text) => seconds(text.trim()) * RATE)
    await found.getByLabel(`Who speaks on ${named('my microphone')}`).fill('Host')
    await dialog.getByLabel('What the new tape is called').fill(named('Call and host'))
    await dialog.getByRole('button', { name: 'Make the tape' }).click()
    const joined = await until(
      async () => (await api<TapeInfo[]>('/tapes')).find((tape) => tape.name === named('Call and host')),
      (tape) => tape?.state === 'ready',
      30_000,
    )
    const side = joined!.sides.find(({ name }) => name === 'the call')!
    const over = (a: Frames, b: Frames) => side.hush!.some((one) => one.from < b && one.to > a)
    expect(over(from + RATE / 4, to - RATE / 4)).toBe(false)
    expect(side.hush!.length).toBeGreaterThan(4)
    expect(over(toFrames(36), toFrames(39))).toBe(false)
  })
})

/** By how many frames one sound lies after another, as they fit best. */
function bestLag(a: Float32Array, b: Float32Array, most: number): number {
  let best = 0
  let highest = -Infinity
  for (let lag = -most; lag <= most; lag++) {
    let sum = 0
    for (let i = most; i < a.length - most; i++) sum += a[i] * b[i + lag]
    if (sum > highest) [best, highest] = [lag, sum]
  }
  return best
}
