import { spawnSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { bare } from '../core/find/bare'
import { RATE } from '../core/time'
import { requirePackages } from '../scripts/machine'
import { askForWords, recognise } from '../server/recognise/recognise'
import { closeServices } from '../server/services'
import { tapeWords } from '../server/words'
import { report } from './figure'
import { openNewsroom, servicesOf } from './newsroom'
import { fromOutside, spoken, tapeOf, VOICES, wordError } from './spoken'

/** How long a tape's words take, and how many of them are wrong. All voices but those from outside are synthetic (flite). */

requirePackages('flite')
const newsroom = await openNewsroom()
const services = await servicesOf(newsroom)
const measure = 'recognise'

async function words(name: string, sound: Float32Array): Promise<{ seconds: number; heard: string[] }> {
  const tape = await tapeOf(services, name, sound)
  await askForWords(services, tape)
  const began = performance.now()
  await recognise(services, { tape })
  return { seconds: (performance.now() - began) / 1000, heard: (await tapeWords(services.database, tape)).map(({ text }) => bare(text)) }
}

const own = fromOutside()
if (own) {
  const { seconds, heard } = await words('from outside', own.sound)
  report({ measure, name: 'recognise.realtime', value: seconds / (own.sound.length / RATE), unit: 's/s' })
  report({
    measure,
    name: 'recognise.wrong',
    value: wordError(
      own.truth.map(({ text }) => bare(text)),
      heard,
    ),
    unit: 'of the words',
  })
} else {
  let took = 0
  let length = 0
  for (const [i, voice] of VOICES.entries()) {
    const { sound, truth } = spoken(voice, 120, 40 + i)
    const { seconds, heard } = await words(`recognise ${voice.flite}`, sound)
    took += seconds
    length += sound.length / RATE
    report({
      measure,
      name: `recognise.wrong.${voice.flite}.synthetic`,
      value: wordError(
        truth.map(({ text }) => bare(text)),
        heard,
      ),
      unit: 'of the words',
    })
  }
  report({ measure, name: 'recognise.realtime', value: took / length, unit: 's/s' })
  const demo = join(import.meta.dirname, '..', 'demo')
  for (const [file, truth] of [
    ['tape-043.mp3', 'deckhand'],
    ['voice-tracks.flac', 'tracks'],
    ['call-council-2.flac', 'officer'],
  ] as const) {
    const { stdout } = spawnSync(
      'ffmpeg',
      ['-v', 'error', '-i', join(demo, 'tapes', file), '-ac', '1', '-ar', String(RATE), '-af', 'volume=0.99', '-f', 'f32le', 'pipe:1'],
      { maxBuffer: 2 ** 31 - 1 },
    )
    const list = JSON.parse(readFileSync(join(demo, 'truth', `${truth}.json`), 'utf8')) as { text: string; what?: string }[]
    const { heard } = await words(
      `demo ${truth}`,
      new Float32Array(stdout.buffer.slice(stdout.byteOffset, stdout.byteOffset + (stdout.length & ~3))),
    )
    report({
      measure,
      name: `recognise.wrong.demo.${truth}.synthetic`,
      value: wordError(
        list.filter(({ what }) => what !== 'pause' && what !== 'noise').map(({ text }) => bare(text)),
        heard,
      ),
      unit: 'of the words',
    })
  }
}
await closeServices(services)
await newsroom.close()
