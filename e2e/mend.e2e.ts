import { expect, it } from 'vitest'
import type { StoredDocument } from '../contract/documents'
import type { Receipt } from '../contract/sends'
import { renditionsOf, type TapeDocument } from '../core/tape/tape'
import { RATE } from '../core/time'
import { api, bring, fileOf, press, sent, until, useBrowser, visit } from './newsroom'
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
