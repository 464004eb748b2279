import { expect, it } from 'vitest'
import type { StoredDocument } from '../contract/documents'
import type { Receipt } from '../contract/sends'
import type { TapeInfo } from '../contract/tapes'
import { renditionsOf, tapeHead, type TapeDocument } from '../core/tape/tape'
import { RATE } from '../core/time'
import {
  api,
  boxOf,
  bring,
  fileOf,
  ownPiece,
  press,
  saved,
  selection,
  sent,
  sheetDrawn,
  soundOf,
  until,
  useBrowser,
  visit,
} from './newsroom'
import { another, readWav, wavOf } from './wav'

useBrowser()

/** How strong one frequency is in a sound, as the height of its tone of full scale. */
function tone(samples: Int32Array, hertz: number): number {
  let [re, im] = [0, 0]
  for (let i = 0; i < samples.length; i++) {
    const turn = (2 * Math.PI * hertz * i) / RATE
    re += samples[i] * Math.cos(turn)
    im += samples[i] * Math.sin(turn)
  }
  return (2 * Math.hypot(re, im)) / samples.length / 2 ** 23
}

it('rumble is cut from a side, which is heard mended and sent so, and as recorded again', async () => {
  const height = 6000 + another()
  const file = wavOf(6, RATE, (t) => height * (Math.sin(2 * Math.PI * 30 * t) + Math.sin(2 * Math.PI * 1000 * t)))
  const { id } = await bring('Rumble.wav', file)
  const body = async () => (await api<StoredDocument>(`/documents/${id}`)).body as TapeDocument
  const heard = async () => {
    const order = { format: 'wav', rate: RATE, bits: 24, channels: 1, kbps: 192, pattern: '{slug}' }
    const earlier = (await api<Receipt[]>(`/sends?of=${id}`)).length
    await api('/sends', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ what: { kind: 'tape', id }, ...order }),
    })
    await until(
      () => api<Receipt[]>(`/sends?of=${id}`),
      (all) => all.length > earlier,
    )
    const samples = readWav(await fileOf(await sent(id)))
      .channel(0)
      .subarray(RATE, 5 * RATE)
    return { low: tone(samples, 30), middle: tone(samples, 1000) }
  }
  const before = await heard()
  expect(before.low / before.middle).toBeCloseTo(1, 2)

  const { page } = await visit(`/tapes/${id}`)
  const mend = page.getByTestId('mend')
  await mend.getByRole('button', { name: 'Add a step' }).click()
  await page.getByRole('menuitem', { name: /^Low cut/ }).click()
  await mend.getByLabel('Low cut, slope').selectOption('24')
  await mend.getByRole('button', { name: 'Apply' }).click()
  await mend.getByText('Heard mended: Low cut.').waitFor({ timeout: 20_000 })
  expect(renditionsOf(await body())[0].treatment).toMatchObject({ steps: [{ kind: 'lowCut', hertz: 80, slope: 24 }] })
  const after = await heard()
  // four times 6 dB an octave below 80 Hz
  expect(20 * Math.log10(after.low / before.low)).toBeLessThan(-32)
  expect(Math.abs(20 * Math.log10(after.middle / before.middle))).toBeLessThan(0.05)

  await press(page, 'Alt+b')
  await mend.getByTestId('mend-state').waitFor({ state: 'detached' })
  const again = await heard()
  expect(again.low).toBeCloseTo(before.low, 6)
  await press(page, 'Control+z', 2)
  await until(body, (now) => renditionsOf(now).length === 0)
})

it('one piece is mended alone: neither its tape nor another piece of it is heard otherwise, and before / after is one key', async () => {
  const { page, id } = await ownPiece('Nobody told us')
  const asRecorded = await soundOf(id)
  await press(page, 'Alt+Shift+M')
  await page.waitForURL('**/tapes/**')
  await page.getByText('“tried” alone').click()
  const mend = page.getByTestId('mend')
  await mend.getByRole('button', { name: 'Add a step' }).click()
  await page.getByRole('menuitem', { name: /^Low cut/ }).click()
  await mend.getByLabel('Low cut, frequency').fill('400')
  await mend.getByLabel('Low cut, frequency').press('Enter')
  await mend.getByRole('button', { name: 'Apply' }).click()
  await mend.getByText('Heard mended: Low cut.').waitFor({ timeout: 30_000 })
  const tape = new URL(page.url()).pathname.split('/')[2]
  const body = (await api<StoredDocument>(`/documents/${tape}`)).body as TapeDocument
  expect(renditionsOf(body).map(({ piece }) => piece)).toEqual([id])
  expect(tapeHead(body).sides.every(({ rendition }) => rendition === undefined)).toBe(true)
  const mended = await soundOf(id)
  expect(mended.frames).toBe(asRecorded.frames)
  expect(mended.sound.equals(asRecorded.sound)).toBe(false)
  // on the tape there is nothing to switch to, on the piece there is
  await page.goto(new URL(`/pieces/${id}`, page.url()).href)
  await sheetDrawn(page)
  await press(page, 'Alt+b')
  await saved(page)
  expect((await soundOf(id)).sound.equals(asRecorded.sound)).toBe(true)
  await press(page, 'Alt+b')
  await saved(page)
  expect((await soundOf(id)).sound.equals(mended.sound)).toBe(true)
  await page.goto(new URL(`/tapes/${tape}`, page.url()).href)
  await sheetDrawn(page)
  await press(page, 'Alt+b')
  await saved(page)
  const { sides } = tapeHead((await api<StoredDocument>(`/documents/${tape}`)).body as TapeDocument)
  expect(sides.every(({ rendition }) => rendition === undefined)).toBe(true)
}, 90_000)

/** Speech-like bursts over a room that hisses and hums, in seconds of which the first two and the last are quiet. */
const noisyTape = () => {
  const seed = another()
  let state = 1 + seed
  const noise = () => (state = (state * 48271) % 2147483647) / 2147483647 - 0.5
  return wavOf(9, RATE, (t) => {
    const says = t > 2 && t < 8 && t % 1.5 < 1 ? 1 : 0
    const voice = [1, 2, 3, 4, 5, 6, 7, 8].reduce((sum, k) => sum + Math.sin(2 * Math.PI * (140 + 20 * Math.sin(5 * t)) * k * t) / k, 0)
    return 3000 * says * voice + 250 * noise() + 160 * Math.sin(2 * Math.PI * 50 * t)
  })
}

it('what was found on a tape is offered, tried, compared and applied in three strokes, and what it did is said', async () => {
  const { id } = await bring('Quay in the rain.wav', noisyTape())
  const { page } = await visit(`/tapes/${id}`)
  const mend = page.getByTestId('mend')
  await mend.getByTestId('mend-offers').waitFor()
  await press(page, 'Alt+Shift+m')
  await page.keyboard.press('Enter')
  await mend.getByText('learnt', { exact: true }).waitFor()
  const offered = await mend.getByLabel('Noise, by').inputValue()
  // settings side by side: the copy is changed, the first one stays
  await mend.getByRole('button', { name: 'copy to B' }).click()
  await mend.getByLabel('Noise, by').fill('18')
  await mend.getByLabel('Noise, by').press('Enter')
  await mend.getByText('At equal loudness').waitFor()
  await mend.getByRole('button', { name: 'A', exact: true }).click()
  expect(await mend.getByLabel('Noise, by').inputValue()).toBe(offered)
  await press(page, 'Alt+Shift+e')
  expect(await mend.getByRole('button', { name: 'B', exact: true }).getAttribute('aria-pressed')).toBe('true')
  await press(page, 'Alt+Shift+a')
  await mend.getByText(/Heard mended: .*Noise/).waitFor({ timeout: 30_000 })
  expect(Number(/room (\d+) dB softer/.exec(await mend.getByTestId('mend-state').innerText())?.[1])).toBeGreaterThan(6)
  const { renditions } = await api<TapeInfo>(`/tapes/${id}`)
  expect(renditions[0]).toMatchObject({ state: 'ready', progress: 1, did: { clicks: 0, pops: 0, peaks: 0 } })
})

it('what mends a voice on one tape is put on another one of the same voice, by that one’s own noise', async () => {
  const speaker = `Ada Quill ${another()}`
  const tapes = [await bring('At the winch.wav', noisyTape()), await bring('Below deck.wav', noisyTape())]
  const pages = []
  for (const { id } of tapes) {
    const { page } = await visit(`/tapes/${id}`)
    await page.getByLabel('Speaker', { exact: true }).fill(speaker)
    await page.getByLabel('Speaker', { exact: true }).press('Enter')
    await until(
      () => api<TapeInfo>(`/tapes/${id}`),
      (tape) => tape.speaker === speaker,
    )
    pages.push(page)
  }
  const [first, second] = pages
  await first.getByTestId('mend-offers').waitFor()
  await press(first, 'Alt+Shift+m')
  await first.keyboard.press('Enter')
  await first.getByTestId('mend').getByText('learnt', { exact: true }).waitFor()
  await press(first, 'Alt+Shift+a')
  await first
    .getByTestId('mend')
    .getByText(/Heard mended/)
    .waitFor({ timeout: 30_000 })
  // on the other one it is offered, and tried by its own noise
  await second.reload()
  await second.getByText('This voice is mended on “At the winch”.').waitFor()
  await second.getByRole('button', { name: 'try it here' }).click()
  await second.getByTestId('mend').getByText('learnt', { exact: true }).waitFor()
  await second.getByTestId('mend').getByRole('button', { name: 'Discard' }).click()
  // it is kept by a name of its own, and offered for that voice wherever it is recorded alike
  const kept = `${speaker}, on deck`
  await first.getByRole('button', { name: 'Keep by a name' }).click()
  await first.getByLabel('Keep by the name').fill(kept)
  await first.keyboard.press('Enter')
  await second.getByTestId('mend-kept').getByText(`“${kept}” is kept for this voice, recorded like this.`).waitFor()
  await second.getByTestId('mend-kept').getByRole('button', { name: 'try it' }).click()
  await second.getByTestId('mend').getByText('learnt', { exact: true }).waitFor()
  await second.getByTestId('mend').getByRole('button', { name: 'Discard' }).click()
  await api(`/treatments/${encodeURIComponent(kept)}`, { method: 'DELETE' }).catch(() => undefined)
  await second.getByTestId('mend-kept').waitFor({ state: 'detached' })
  // and from here it is put there
  await first.getByRole('button', { name: 'Same voice elsewhere' }).click()
  await first.getByRole('menuitem', { name: /Below deck/ }).click()
  const { renditions } = await until(
    () => api<TapeInfo>(`/tapes/${tapes[1].id}`),
    (tape) => tape.renditions.some(({ state }) => state === 'ready'),
    30_000,
  )
  expect(renditions[0].did!.room).toBeGreaterThan(6)
  const noiseOf = async (id: string) => {
    const [{ treatment }] = renditionsOf((await api<StoredDocument>(`/documents/${id}`)).body as TapeDocument)
    return treatment.kind === 'chain' ? treatment.steps.find(({ kind }) => kind === 'noise') : null
  }
  const [one, other] = await Promise.all(tapes.map(({ id }) => noiseOf(id)))
  expect(other).toMatchObject({ dB: (one as { dB: number }).dB })
  expect(other).not.toEqual(one)
})

it('what is being made is cancelled, and nothing of it is left', async () => {
  const { id } = await bring('Chapel.wav', noisyTape())
  const { page } = await visit(`/tapes/${id}`)
  const mend = page.getByTestId('mend')
  await mend.getByRole('button', { name: 'Add a step' }).click()
  await page.getByRole('menuitem', { name: /^Reverberation/ }).click()
  await mend.getByLabel('Reverberation, rings for').fill('1.5')
  await mend.getByLabel('Reverberation, rings for').press('Enter')
  await mend.getByRole('button', { name: 'Apply' }).click()
  await mend.getByRole('button', { name: 'Cancel' }).click()
  await mend.getByTestId('mend-state').waitFor({ state: 'detached' })
  const tape = await until(
    () => api<TapeInfo>(`/tapes/${id}`),
    (one) => one.renditions.length === 0 && !one.sides[0].rendition,
  )
  expect(tape.state).toBe('ready')
})

it('a side goes out as a file and comes back in the same place, though it came back late; what does not fit is refused', async () => {
  const tape = await bring('Harbour master.wav', noisyTape())
  const { page } = await visit(`/tapes/${tape.id}`)
  const mend = page.getByTestId('mend')
  const base = new URL(page.url()).origin
  const path = await mend.getByTestId('mend-out').getAttribute('href')
  const file = Buffer.from(await (await fetch(`${base}${path}`)).arrayBuffer())
  const begins = file.indexOf('data') + 8
  const samples = new Float32Array(new Uint8Array(file.subarray(begins)).buffer)
  expect(samples.length).toBe(tape.frames)
  // as another program would give it: half as loud, and 512 frames late
  const treated = samples.map((_, i) => 0.5 * (samples[i - 512] ?? 0))
  const fileOfSide = (sound: Float32Array) => {
    const head = Buffer.from(file.subarray(0, begins))
    head.writeUInt32LE(sound.byteLength, begins - 4)
    return {
      name: 'Side, softer.wav',
      mimeType: 'audio/wav',
      buffer: Buffer.concat([head, Buffer.from(sound.buffer, 0, sound.byteLength)]),
    }
  }
  const input = mend.getByLabel('The side, mended in another program')
  await input.setInputFiles(fileOfSide(treated.slice(0, 5 * RATE)))
  await page.getByText(/It is 4.0 s shorter than the side that went out. Nothing was changed./).waitFor()
  await input.setInputFiles(fileOfSide(treated))
  await mend.getByText(/Heard mended: Side, softer.wav/).waitFor({ timeout: 20_000 })
  const { renditions } = await until(
    () => api<TapeInfo>(`/tapes/${tape.id}`),
    (one) => one.renditions.length === 1 && one.sides[0].rendition !== undefined,
  )
  const read = async (rendition: string) =>
    new Float32Array(await (await fetch(`${base}/api/tapes/${tape.id}/sound/${rendition}/0?from=${3 * RATE}&to=${4 * RATE}`)).arrayBuffer())
  const made = await read(renditions[0].id)
  const recorded = await read('sound')
  expect(Math.max(...made.map((sample, i) => Math.abs(sample - 0.5 * recorded[i])))).toBeLessThan(1e-6)
  // undone and done again, it is heard again though it could not be made anew
  await press(page, 'Control+z')
  await mend.getByTestId('mend-state').waitFor({ state: 'detached' })
  await press(page, 'Control+Shift+z')
  await mend.getByText(/Heard mended: Side, softer.wav/).waitFor()
})

it('a step is kept to what is selected; the network against moving noise runs in the page too', async () => {
  const tape = await bring('Gangway.wav', noisyTape())
  const { page } = await visit(`/tapes/${tape.id}`)
  const mend = page.getByTestId('mend')
  const base = new URL(page.url()).origin
  await sheetDrawn(page)
  const sheet = await boxOf(page.locator('canvas[data-drawn]').first())
  await page.mouse.move(sheet.x + 60, sheet.y + 40)
  await page.mouse.down()
  await page.mouse.move(sheet.x + 260, sheet.y + 40, { steps: 5 })
  await page.mouse.up()
  const chosen = (await selection(page))!
  await mend.getByRole('button', { name: 'Add a step' }).click()
  await page.getByRole('menuitem', { name: /^Moving noise/ }).click()
  await mend.getByTestId('mend-spectrum').waitFor()
  await mend.getByTestId('mend-level').waitFor()
  await mend.getByRole('button', { name: 'only the selection' }).click()
  await mend.getByTestId('mend-within').waitFor()
  // steps are moved by key at their grip
  await mend.getByRole('button', { name: 'Add a step' }).click()
  await page.getByRole('menuitem', { name: /^Gain/ }).click()
  const order = () =>
    mend.getByRole('checkbox', { name: / on$/ }).evaluateAll((boxes) => boxes.map((box) => box.getAttribute('aria-label')))
  expect(await order()).toEqual(['Moving noise on', 'Gain on'])
  await mend.getByRole('button', { name: 'Move Gain', exact: true }).focus()
  for (const key of ['Space', 'ArrowUp', 'Space']) {
    await page.keyboard.press(key)
    await page.waitForTimeout(300)
  }
  await until(order, ([first]) => first === 'Gain on')
  await mend.getByRole('button', { name: 'Remove Gain' }).click()
  await mend.getByRole('button', { name: 'Apply' }).click()
  await mend.getByText(/Heard mended: Moving noise/).waitFor({ timeout: 20_000 })
  const { renditions } = await api<TapeInfo>(`/tapes/${tape.id}`)
  const read = async (rendition: string, from: number, to: number) =>
    new Float32Array(await (await fetch(`${base}/api/tapes/${tape.id}/sound/${rendition}/0?from=${from}&to=${to}`)).arrayBuffer())
  const same = async (from: number, to: number) => {
    const [made, recorded] = await Promise.all([read(renditions[0].id, from, to), read('sound', from, to)])
    return made.every((sample, i) => sample === recorded[i])
  }
  const end = Math.round(chosen.to * RATE)
  expect(await same(end + RATE / 10, end + RATE / 2)).toBe(true)
  expect(await same(Math.round(chosen.from * RATE), end)).toBe(false)
})
