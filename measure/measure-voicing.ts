import { random } from '../core/sound/random'
import { chosenOf, COMPLETE } from '../core/voicing/versions'
import { toFrames, type Frames } from '../core/time'
import { speak } from '../demo/speech'
import { requirePackages } from '../scripts/machine'
import { askForWords, recognise } from '../server/recognise/recognise'
import { closeServices } from '../server/services'
import { findLines } from '../server/voicing/findLines'
import { tapeWords } from '../server/words'
import { median, report } from './figure'
import { openNewsroom, servicesOf } from './newsroom'
import { SCRIPT } from './script'
import { tapeOf, VOICES } from './spoken'

/**
 * Forty lines read in one go: some are broken off and begun again, some said twice, some taken up again from within, and now and
 * then something else is said. Which of them is found, whether what counts is the last complete one, and where its edges lie.
 * The voice is synthetic (flite), in a room at 45 dB.
 */
requirePackages('flite')

const ROOM = 0.0011
const ASIDES = ['sorry, once more', 'no, again', 'hang on, let me take that again']

interface Read {
  from: Frames
  to: Frames
}

const next = random(411)
const voice = VOICES[1]
const parts: { samples: Float32Array; at: Frames }[] = []
let at: Frames = toFrames(1.2)
function say(text: string, pause: number): Read {
  const { samples, words } = speak(voice, text)
  parts.push({ samples, at })
  const read = { from: at + words[0].from, to: at + words[words.length - 1].to }
  at += samples.length + toFrames(pause)
  return read
}

/** Of each line where its last complete version begins, and where it ends. */
const truth = SCRIPT.map((line): Read => {
  const words = line.split(' ')
  const some = (from: number, to: number) =>
    words
      .slice(from, to)
      .join(' ')
      .replace(/[,;:]$/, '')
  const half = 2 + Math.floor(next() * (words.length - 4))
  const aside = () => next() < 0.3 && say(ASIDES[Math.floor(next() * ASIDES.length)], 0.5 + next())
  const kind = next()
  if (kind < 0.15) {
    say(some(0, half), 0.4 + next() * 0.6)
    aside()
  } else if (kind < 0.3) {
    say(line, 0.7 + next())
    aside()
  } else if (kind < 0.42 && half > 3) {
    // taken up again two or three words before it was broken off
    const first = say(some(0, half), 0.35 + next() * 0.5)
    const again = Math.max(1, half - 2 - Math.floor(next() * 2))
    return { from: first.from, to: say(some(again, words.length), 0.8 + next()).to }
  }
  return say(line, 0.8 + next() * 1.4)
})
const sound = new Float32Array(at + toFrames(1))
for (let i = 0; i < sound.length; i++) sound[i] = ROOM * (2 * next() - 1)
for (const { samples, at: from } of parts) samples.forEach((value, i) => (sound[from + i] += value))

const newsroom = await openNewsroom()
const services = await servicesOf(newsroom)
try {
  const tape = await tapeOf(services, 'Lines in one go', sound)
  await askForWords(services, tape)
  await recognise(services, { tape })
  const heard = await tapeWords(services.database, tape)
  const lines = SCRIPT.map((text, i) => ({ id: String(i), text }))
  const begun = Date.now()
  const versions = await findLines(services, { tape, channels: [0], frames: sound.length }, heard, lines)
  const seconds = (Date.now() - begun) / 1000
  const chosen = chosenOf(versions)
  const edges: number[] = []
  let [placed, best] = [0, 0]
  truth.forEach(({ from, to }, i) => {
    const version = chosen.get(String(i))
    if (!version) return console.error(`not placed: ${SCRIPT[i]}`)
    const first = version.parts[0].from
    const last = version.parts[version.parts.length - 1].to
    const near = (a: Frames, b: Frames) => Math.abs(a - b) < toFrames(0.25)
    if (first < to && last > from) placed++
    if (near(first, from) && near(last, to) && version.said >= COMPLETE) best++
    else console.error(`not the last complete one: ${SCRIPT[i]}`, first / 48_000, from / 48_000, last / 48_000, to / 48_000, version.said)
    edges.push(Math.abs(first - from) / 48, Math.abs(last - to) / 48)
  })
  const figure = (name: string, value: number, unit: string) => report({ measure: 'voicing', name, value, unit })
  figure('voicing.placed', placed, `of ${SCRIPT.length} lines`)
  figure('voicing.best', best / SCRIPT.length, 'share of lines where the last complete version counts, from its first word to its last')
  figure('voicing.edge', median(edges), 'ms, median over both edges')
  figure('voicing.time', seconds, `s for ${Math.round(sound.length / 48_000)} s of recording, its words being there`)
} finally {
  await closeServices(services)
  await newsroom.close()
}
