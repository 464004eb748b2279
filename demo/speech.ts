import { spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

/** Speaks phrases with Debian's flite, and says when each word begins and ends. */

export const RATE = 48_000

export interface Voice {
  flite: 'awb' | 'rms' | 'slt'
  /** How much slower than the voice's own pace. */
  stretch: number
  /** How much higher; the pace is kept by the stretch. */
  pitch: number
}

export interface Spoken {
  samples: Float32Array
  words: { text: string; from: number; to: number }[]
}

const folder = mkdtempSync(join(tmpdir(), 'speech-'))

function flite(voice: Voice, text: string, out: string, print: string): string {
  const { status, stdout, stderr } = spawnSync(
    'flite',
    ['-voice', voice.flite, '--setf', `duration_stretch=${voice.stretch * voice.pitch}`, print, '-t', text, '-o', out],
    { encoding: 'utf8' },
  )
  if (status !== 0) throw new Error(`flite: ${stderr}`)
  return stdout.trim()
}

/** Words alone tell how many sounds each has. */
const soundsOf = new Map<string, string[]>()
function sounds(voice: Voice, word: string): string[] {
  const key = `${voice.flite}/${word}`
  let found = soundsOf.get(key)
  if (!found) {
    found = flite(voice, ` ${word} `, 'none', '-ps')
      .split(/\s+/)
      .filter((sound) => sound && sound !== 'pau')
    soundsOf.set(key, found)
  }
  return found
}

/** Speaks one phrase; times are in frames at 48 kHz. */
export function speak(voice: Voice, text: string): Spoken {
  const path = join(folder, 'phrase.wav')
  const phones = flite(voice, ` ${text}`, path, '-psdur')
    .split(/\s+/)
    .map((part) => part.split(':'))
    .map(([sound, end]) => ({ sound, end: Number(end) / voice.pitch }))
  const timed = phones.map((phone, i) => ({ ...phone, start: i ? phones[i - 1].end : 0 })).filter((phone) => phone.sound !== 'pau')
  const decoded = spawnSync(
    'ffmpeg',
    [
      '-v',
      'error',
      '-i',
      path,
      '-af',
      `asetrate=${Math.round(16_000 * voice.pitch)},aresample=${RATE}`,
      '-f',
      'f32le',
      '-ac',
      '1',
      'pipe:1',
    ],
    { maxBuffer: 1 << 28 },
  )
  const all = new Float32Array(
    decoded.stdout.buffer.slice(decoded.stdout.byteOffset, decoded.stdout.byteOffset + decoded.stdout.byteLength),
  )

  const texts = text.split(/\s+/)
  const owners = matched(
    texts.map((word) => sounds(voice, word.replace(/[^\p{L}'’-]/gu, ''))),
    timed.map((phone) => phone.sound),
  )
  const lead = Math.max(0, timed[0].start - 0.02)
  const end = timed[timed.length - 1].end + 0.03
  const samples = all.slice(Math.round(lead * RATE), Math.round(end * RATE))
  fade(samples)
  return {
    samples,
    words: texts.map((word, i) => {
      const own = timed.filter((_, k) => owners[k] === i)
      if (!own.length) throw new Error(`no sound of “${text}” belongs to “${word}”`)
      return { text: word, from: Math.round((own[0].start - lead) * RATE), to: Math.round((own[own.length - 1].end - lead) * RATE) }
    }),
  }
}

function fade(samples: Float32Array): void {
  const length = 480
  for (let i = 0; i < length; i++) {
    samples[i] *= i / length
    samples[samples.length - 1 - i] *= i / length
  }
}

/** Which word each sound of a phrase belongs to: the words' own sounds laid along it at least cost. */
function matched(words: string[][], phrase: string[]): number[] {
  const alone = words.flatMap((list, word) => list.map((sound) => ({ sound, word })))
  const cost = Array.from({ length: alone.length + 1 }, (_, i) => Array.from({ length: phrase.length + 1 }, (_, j) => (i && j ? 0 : i + j)))
  for (let i = 1; i <= alone.length; i++)
    for (let j = 1; j <= phrase.length; j++)
      cost[i][j] = Math.min(cost[i - 1][j - 1] + (alone[i - 1].sound === phrase[j - 1] ? 0 : 0.9), cost[i - 1][j] + 1, cost[i][j - 1] + 1)
  const owner = phrase.map(() => 0)
  let i = alone.length
  let j = phrase.length
  while (j > 0) {
    if (i > 0 && cost[i][j] === cost[i - 1][j - 1] + (alone[i - 1].sound === phrase[j - 1] ? 0 : 0.9)) {
      owner[--j] = alone[--i].word
    } else if (i > 0 && cost[i][j] === cost[i - 1][j] + 1) i--
    else owner[--j] = alone[Math.max(0, i - 1)].word
  }
  return owner
}

export const readSource = (name: string): string => readFileSync(join(import.meta.dirname, name), 'utf8')
