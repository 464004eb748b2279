import { spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { random } from '../core/sound/random'
import { resampled } from '../core/sound/resample'
import { RATE, toFrames, type Frames } from '../core/time'

/** Made-up conversations in made-up rooms, as several machines would record them. The voices are synthetic (flite). */

const WORDS = (
  'the boat night quay harbour nobody told us and they would be standing on a board with engine running council ' +
  'says eleven minutes island mother nurses shift fish plant ferry counted passengers regatta moorings winter ' +
  'because never asked again whether her brother crossing weather letter signed before anybody noticed water lights'
).split(' ')
const VOICES = [
  ['slt', 1],
  ['rms', 1],
  ['awb', 1],
  ['kal', 1.06],
  ['slt', 0.93],
  ['rms', 1.09],
] as const

export type Phrases = Float32Array[]

/** Phrases that each voice says, none twice: `minutes` of each. */
export function speakers(minutes: number): Phrases[] {
  const folder = mkdtempSync(join(tmpdir(), 'plain-cut-voices-'))
  try {
    return speakersIn(folder, minutes)
  } finally {
    rmSync(folder, { recursive: true })
  }
}

/** The same, whose sound lies in a folder: what is there is not spoken again. */
export const speakersIn = (folder: string, minutes: number): Phrases[] => VOICES.map((_, voice) => speakerIn(folder, minutes, voice))

/** One of them. */
export function speakerIn(folder: string, minutes: number, which: number): Phrases {
  const [voice, pitch] = VOICES[which]
  const next = random(11 + which)
  const sentence = () => Array.from({ length: 6 + Math.floor(next() * 12) }, () => WORDS[Math.floor(next() * WORDS.length)]).join(' ')
  // a few sentences at a time: it takes far longer over long texts
  return Array.from({ length: minutes }, (_, minute) => {
    const text = Array.from({ length: 14 }, sentence).join('. ')
    const path = join(folder, `${which}-${minute}.wav`)
    if (!existsSync(path)) {
      const { status, stderr } = spawnSync('flite', ['-voice', voice, '-t', text, '-o', path], { encoding: 'utf8' })
      if (status !== 0) throw new Error(`flite: ${stderr}`)
    }
    const { stdout } = spawnSync(
      'ffmpeg',
      [
        '-v',
        'error',
        '-i',
        path,
        '-af',
        `aresample=16000,asetrate=${Math.round(16_000 * pitch)},aresample=${RATE}`,
        '-f',
        'f32le',
        '-ac',
        '1',
        'pipe:1',
      ],
      { maxBuffer: 1 << 28 },
    )
    return phrases(new Float32Array(stdout.buffer, stdout.byteOffset, stdout.length >> 2))
  }).flat()
}

/** Cut where the voice pauses for a tenth of a second. */
function phrases(all: Float32Array): Phrases {
  const found: Phrases = []
  const gap = RATE / 10
  let start = -1
  let last = 0
  for (let i = 0; i < all.length; i++) {
    if (Math.abs(all[i]) > 0.004) {
      if (start < 0) start = i
      last = i
    } else if (start >= 0 && i - last > gap) {
      found.push(all.slice(Math.max(0, start - 240), last + 240))
      start = -1
    }
  }
  return found
}

/** Who says which phrases, at what frames of the truth's own clock: a track a speaker. */
export function conversation(voices: readonly Phrases[], length: Frames, seed: number, first = 0): Float32Array[] {
  const next = random(seed)
  const tracks = voices.map(() => new Float32Array(length))
  const used = voices.map(() => first)
  let at = Math.round(RATE * next())
  for (let who = 0; at < length; who = (who + 1) % voices.length)
    for (let turn = 1 + Math.floor(next() * 4); turn > 0 && at < length; turn--) {
      const phrase = voices[who][used[who]++ % voices[who].length]
      tracks[who].set(phrase.subarray(0, length - at), at)
      // now and then the next one begins before this one has ended
      at += phrase.length + Math.round(RATE * (turn > 1 ? 0.1 + 0.5 * next() : next() * 1.2 - 0.2))
      at = Math.max(0, at)
    }
  return tracks
}

export interface Microphone {
  /** For each speaker: metres away, and level in dB besides. */
  heard: { metres: number; level: number }[]
  /** Seconds until the room has died away by 60 dB, and how much of it there is, 0 to 1. */
  decay: number
  wet: number
  /** Noise below speech, in dB, and hum in Hz, or 0. */
  noise: number
  hum: number
  /** What a telephone carries, through its 8-bit steps. */
  phone: boolean
  /** The same room again has the same seed; its noise never is the same again. */
  seed: number
  noiseSeed: number
}

/** What a microphone gives of a conversation, on the truth's clock. */
export function heardBy(tracks: readonly Float32Array[], mic: Microphone): Float32Array {
  const next = random(mic.seed)
  const out = new Float32Array(tracks[0].length)
  tracks.forEach((track, who) => {
    const { metres, level } = mic.heard[who]
    const gain = 10 ** (level / 20)
    const direct = Math.round((metres / 343) * RATE)
    // first reflections off walls and table, then the room
    const paths = [
      [direct, 1],
      ...Array.from({ length: 8 }, () => [
        direct + Math.round(RATE * (0.001 + 0.03 * next())),
        (next() < 0.5 ? -1 : 1) * mic.wet * (0.2 + 0.3 * next()),
      ]),
    ]
    for (const [delay, by] of paths) mixed(out, track, delay, gain * by)
  })
  if (mic.wet) reverberate(out, mic)
  let power = 0
  for (const sample of out) power += sample * sample
  const level = Math.sqrt(power / out.length) * 10 ** (-mic.noise / 20) * Math.sqrt(12)
  const noise = random(mic.noiseSeed)
  for (let i = 0; i < out.length; i++)
    out[i] += (noise() - 0.5) * level + (mic.hum ? 0.5 * level * Math.sin((2 * Math.PI * mic.hum * i) / RATE) : 0)
  return mic.phone ? telephoned(out) : out
}

function mixed(out: Float32Array, track: Float32Array, delay: Frames, gain: number): void {
  for (let i = delay; i < out.length; i++) out[i] += gain * track[i - delay]
}

/** Four comb filters side by side (Schroeder 1962). */
function reverberate(sound: Float32Array, { decay, wet, seed }: Microphone): void {
  const dry = Float32Array.from(sound)
  for (const [i, delay] of [1433, 1601, 1867, 2053].entries()) {
    const length = delay + ((seed * 37 + i * 101) % 211)
    const back = 10 ** ((-3 * length) / RATE / decay)
    const line = new Float32Array(length)
    for (let k = 0, at = 0; k < sound.length; k++) {
      const late = line[at]
      line[at] = dry[k] + back * late
      sound[k] += 0.15 * wet * late
      if (++at === length) at = 0
    }
  }
}

function telephoned(sound: Float32Array): Float32Array {
  const { stdout } = spawnSync(
    'ffmpeg',
    [
      '-v',
      'error',
      '-f',
      'f32le',
      '-ar',
      String(RATE),
      '-ac',
      '1',
      '-i',
      'pipe:0',
      '-af',
      'highpass=300,lowpass=3400',
      '-ar',
      '8000',
      '-c:a',
      'pcm_mulaw',
      '-f',
      'wav',
      'pipe:1',
    ],
    { input: new Uint8Array(sound.buffer), maxBuffer: 2 ** 31 - 1 },
  )
  const { stdout: wide } = spawnSync('ffmpeg', ['-v', 'error', '-i', 'pipe:0', '-ar', String(RATE), '-f', 'f32le', 'pipe:1'], {
    input: stdout,
    maxBuffer: 2 ** 31 - 1,
  })
  return new Float32Array(wide.buffer.slice(wide.byteOffset, wide.byteOffset + wide.byteLength))
}

export const sourceOf = (sound: Float32Array) => ({
  frames: sound.length,
  read: (from: Frames, to: Frames) => {
    if (from >= 0 && to <= sound.length) return sound.subarray(from, to)
    const out = new Float32Array(to - from)
    const start = Math.max(0, from)
    if (start < Math.min(to, sound.length)) out.set(sound.subarray(start, Math.min(to, sound.length)), start - from)
    return out
  },
})

/** What a machine recorded that started at frame `start` and whose clock runs `drift` fast: frame f lies at `start + f * (1 + drift)`. */
export function recorded(sound: Float32Array, start: Frames, drift: number, length: Frames): Float32Array {
  const { read } = sourceOf(sound)
  const out = new Float32Array(length)
  for (let at = 0; at < length; at += RATE) out.set(resampled(read, start + at * (1 + drift), 1 + drift, Math.min(RATE, length - at)), at)
  return out
}

export const minutes = (count: number): Frames => toFrames(count * 60)
