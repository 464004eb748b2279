import { launch } from '../e2e/browser'
import { milliseconds, RATE, toFrames } from '../core/time'
import type { Transcript } from '../core/transcript/transcript'
import { requirePackages } from '../scripts/machine'
import { lay } from '../server/align/lay'
import { askForWords, recognise } from '../server/recognise/recognise'
import { closeServices } from '../server/services'
import { tapeWords } from '../server/words'
import { heardBy, type Microphone } from './conversation'
import { decaying } from './decays'
import { median, percentile, report } from './figure'
import { openNewsroom, servicesOf } from './newsroom'
import { fromOutside, spoken, tapeOf, VOICES, type Truth } from './spoken'

/**
 * How near words are put to where they are said, and how soon. All voices but those from outside
 * are synthetic (flite). One part alone: `npm run measure -- align edges|ends|again|hour`.
 */

requirePackages('flite')
const measure = 'align'
const only = process.argv[3]?.startsWith('--') ? undefined : process.argv[3]
const newsroom = await openNewsroom()
const services = await servicesOf(newsroom)

async function recognised(name: string, sound: Float32Array): Promise<{ tape: string; seconds: number }> {
  const tape = await tapeOf(services, name, sound)
  const began = performance.now()
  await askForWords(services, tape)
  await recognise(services, { tape })
  return { tape, seconds: (performance.now() - began) / 1000 }
}

/** Absolute errors of word starts and ends in ms: the known words of a whole tape, laid on it as a script is that was read. */
async function errors(name: string, sound: Float32Array, truth: readonly Truth[]): Promise<number[]> {
  const { tape } = await recognised(name, sound)
  const places = await lay(
    services,
    tape,
    [0],
    sound.length,
    truth.map(({ text }) => text),
    await tapeWords(services.database, tape),
    {},
  )
  const missed = places.filter((place) => !place).length
  if (missed) report({ measure, name: `align.missed.${name}`, value: missed, unit: `of ${truth.length} words` })
  return places
    .flatMap((place, i) => (place ? [place.from - truth[i].from, place.to - truth[i].to] : []))
    .map((error) => Math.abs(error * 1000) / RATE)
}

const DIRTY: Microphone = { heard: [{ metres: 0, level: 0 }], decay: 0.4, wet: 0.7, noise: 15, hum: 0, phone: false, seed: 5, noiseSeed: 6 }

const own = fromOutside()
if (own) {
  const found = await errors('outside', own.sound, own.truth)
  report({ measure, name: 'align.median', value: median(found), unit: 'ms' })
  report({ measure, name: 'align.p95', value: percentile(found, 0.95), unit: 'ms' })
} else if (!only || only === 'edges') {
  const clean: number[] = []
  const dirty: number[] = []
  for (const [i, voice] of VOICES.entries()) {
    const { sound, truth } = spoken(voice, 100, 20 + i)
    clean.push(...(await errors(`clean-${voice.flite}`, sound, truth)))
    dirty.push(...(await errors(`dirty-${voice.flite}`, heardBy([sound], { ...DIRTY, seed: 5 + i, noiseSeed: 9 + i }), truth)))
  }
  report({ measure, name: 'align.median', value: median(clean), unit: 'ms, synthetic voices' })
  report({ measure, name: 'align.p95', value: percentile(clean, 0.95), unit: 'ms, synthetic voices' })
  report({ measure, name: 'align.dirty.median', value: median(dirty), unit: 'ms, synthetic voices, room and noise at 15 dB' })
  report({ measure, name: 'align.dirty.p95', value: percentile(dirty, 0.95), unit: 'ms, synthetic voices, room and noise at 15 dB' })
}

/** A room that dies away in 0.4 s; its noise so far below speech, in dB. */
const room = (noise: number, seed: number): Microphone => ({
  heard: [{ metres: 0.3, level: 0 }],
  decay: 0.4,
  wet: 0.5,
  noise,
  hum: 0,
  phone: false,
  seed,
  noiseSeed: seed + 4,
})

if (!own && (!only || only === 'ends')) {
  for (const [noise, name] of [
    [45, 'clean'],
    [15, '15 dB'],
  ] as const) {
    const errors: number[] = []
    let [clipped, missed, all] = [0, 0, 0]
    for (const [i, voice] of VOICES.entries()) {
      const { sound, truth, ends } = decaying(voice, 100, 40 + i, room(noise, 70 + i))
      const { tape } = await recognised(`ends-${name}-${voice.flite}`, sound)
      const places = await lay(
        services,
        tape,
        [0],
        sound.length,
        truth.map(({ text }) => text),
        await tapeWords(services.database, tape),
        {},
      )
      for (const { word, last } of ends) {
        all++
        const place = places[word]
        if (!place) missed++
        else {
          errors.push(((place.to - truth[word].to) * 1000) / RATE)
          if (place.to < last - milliseconds(40)) clipped++
        }
      }
    }
    const sizes = errors.map(Math.abs)
    const unit = `, last words of ${all} sentences, synthetic voices in a room, ${name}`
    report({ measure, name: `align.ends.median${noise === 15 ? '.15dB' : ''}`, value: median(sizes), unit: `ms${unit}` })
    report({ measure, name: `align.ends.p95${noise === 15 ? '.15dB' : ''}`, value: percentile(sizes, 0.95), unit: `ms${unit}` })
    report({
      measure,
      name: `align.ends.late${noise === 15 ? '.15dB' : ''}`,
      value: median(errors),
      unit: `ms, above nothing is late${unit}`,
    })
    report({ measure, name: `align.ends.clipped${noise === 15 ? '.15dB' : ''}`, value: clipped / (all - missed), unit: `share${unit}` })
    report({ measure, name: `align.ends.missed${noise === 15 ? '.15dB' : ''}`, value: missed, unit: `of ${all}${unit}` })
  }
}

if (!own && (!only || only === 'again')) {
  const { sound, truth } = spoken(VOICES[1], 60, 31)
  const { tape } = await recognised('again', sound)
  const server = await newsroom.start()
  const browser = await launch()
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  await page.addInitScript('globalThis.__name = (named) => named')
  await page.goto(`${newsroom.address}/tapes/${tape}`)
  await page.waitForSelector('canvas[data-drawn=words]')
  const [{ id }] = await services.database.query<{ id: string }[]>('select id from document where tape = $1', [tape])
  const took: number[] = []
  for (let i = 0; i < 12; i++) {
    const spot = page.locator('[data-word]').nth(3 + i * 3)
    const box = (await spot.boundingBox())!
    await page.mouse.click(box.x + 8, box.y + 12)
    await page.keyboard.press('d')
    const editor = page.getByTestId('word-editor')
    await editor.fill(truth[i].text.replace(/\W/g, '') + (i % 2 ? ' boat' : 's'))
    // in the page's own time: from the key to the first frame in which the word lies where it is said
    await page.evaluate(
      ([document, longest]) => {
        const own = globalThis as unknown as { plainCutDocument(id: string): Promise<Transcript>; took: Promise<number> }
        own.took = new Promise((done) => {
          addEventListener(
            'keydown',
            ({ timeStamp }) => {
              let seen = false
              const look = () =>
                requestAnimationFrame(async (at) => {
                  if ((await own.plainCutDocument(document)).words.some((word) => word.rough)) seen = true
                  else if (seen) return done(at - timeStamp)
                  look()
                })
              look()
              // one that never comes counts as this
              setTimeout(() => done(longest), longest)
            },
            { once: true, capture: true },
          )
        })
      },
      [id, 5000] as const,
    )
    await page.keyboard.press('Enter')
    took.push(await page.evaluate(() => (globalThis as unknown as { took: Promise<number> }).took))
    await page.waitForTimeout(400)
  }
  report({ measure, name: 'align.again', value: percentile(took, 0.95), unit: 'ms (95th of 12)' })
  report({ measure, name: 'align.again.median', value: median(took), unit: 'ms' })
  await browser.close()
  await server.stop()
}

if (!own && (!only || only === 'hour')) {
  const pieces = VOICES.map((voice, i) => spoken(voice, 400, 60 + i).sound)
  const hour = new Float32Array(toFrames(3600))
  for (let at = 0, i = 0; at < hour.length; at += pieces[i % 3].length, i++) hour.set(pieces[i % 3].subarray(0, hour.length - at), at)
  const { seconds } = await recognised('hour', hour)
  report({ measure, name: 'align.hour', value: seconds, unit: 's, synthetic voices' })
}
await closeServices(services)
await newsroom.close()
