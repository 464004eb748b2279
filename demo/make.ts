import { spawnSync } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { addTo, bed, cough, highPass, inRoom, lowPass, noise, onPhone, quay, toLevel } from './sounds'
import { RATE, readSource, speak, type Voice } from './speech'

/**
 * Makes the demo's tapes from nothing but text and arithmetic, with the true times of every word,
 * filler, noise and pause beside them. Needs flite and ffmpeg. `npm run demo`.
 */

interface Truth {
  start: number
  end: number
  text: string
  what?: 'filler' | 'noise' | 'pause'
  speaker?: string
}

interface Speaker {
  name: string
  voice: Voice
  /** Level of the speech in dBFS. */
  level: number
}

const PIET: Speaker = { name: 'Piet Aldous', voice: { flite: 'awb', stretch: 1.12, pitch: 0.93 }, level: -23 }
const TAMSIN_OFF: Speaker = { name: 'Tamsin Roe', voice: { flite: 'slt', stretch: 1.02, pitch: 0.97 }, level: -36 }
const TAMSIN: Speaker = { name: 'Tamsin Roe', voice: { flite: 'slt', stretch: 1.05, pitch: 0.97 }, level: -22 }
const MAREN: Speaker = { name: 'Maren Ferris', voice: { flite: 'rms', stretch: 1.0, pitch: 1.16 }, level: -21 }

/** What is said on one tape: the sound of each speaker apart, as long as the tape. */
function perform(
  source: string,
  speakers: Record<string, Speaker>,
  usual: string,
): { tracks: Map<string, Float32Array>; truth: Truth[]; length: number } {
  const parts: { speaker: Speaker; at: number; samples: Float32Array }[] = []
  const truth: Truth[] = []
  let at = 0
  let count = 0
  const said = (speaker: Speaker, text: string, what?: Truth['what']) => {
    const { samples, words } = speak(speaker.voice, text)
    toLevel(samples, speaker.level - (what ? 3 : 0))
    parts.push({ speaker, at, samples })
    for (const word of words)
      truth.push({
        start: (at + word.from) / RATE,
        end: (at + word.to) / RATE,
        text: what ? `${word.text},` : word.text,
        ...(what ? { what } : {}),
        speaker: speaker.name,
      })
    at += samples.length
  }
  const pause = (seconds: number) => {
    // no two people pause by the clock
    const length = Math.round(RATE * seconds * (0.94 + 0.12 * ((++count * 0.618) % 1)))
    truth.push({ start: at / RATE, end: (at + length) / RATE, text: '', what: 'pause' })
    at += length
  }
  for (const line of source.split('\n').filter((text) => text && !text.startsWith('#'))) {
    const [, who = usual, rest] = /^(?:([A-Z]): )?(.*)$/.exec(line)!
    const speaker = speakers[who]
    for (const piece of rest
      .split(/(\([\d.]+\)|\[[a-z]+\]|<[a-z]+>)/)
      .map((text) => text.trim())
      .filter(Boolean)) {
      if (piece.startsWith('(')) pause(Number(piece.slice(1, -1)))
      else if (piece.startsWith('[')) {
        said(speaker, piece.slice(1, -1), 'filler')
        at += Math.round(RATE * 0.07)
      } else if (piece.startsWith('<')) {
        const samples = cough(7)
        parts.push({ speaker, at, samples })
        truth.push({
          start: at / RATE,
          end: (at + samples.length) / RATE,
          text: `(${piece.slice(1, -1)})`,
          what: 'noise',
          speaker: speaker.name,
        })
        at += samples.length
      } else said(speaker, piece)
    }
  }
  const tracks = new Map<string, Float32Array>()
  for (const { speaker, at: from, samples } of parts) {
    const track = tracks.get(speaker.name) ?? new Float32Array(at)
    addTo(track, samples, from)
    tracks.set(speaker.name, track)
  }
  return { tracks, truth, length: at }
}

function write(name: string, channels: Float32Array[], rate: number, codec: string[]): void {
  const interleaved = new Float32Array(channels[0].length * channels.length)
  channels.forEach((channel, c) =>
    channel.forEach((sample, i) => (interleaved[i * channels.length + c] = Math.max(-1, Math.min(1, sample)))),
  )
  const path = join(import.meta.dirname, 'tapes', name)
  const { status, stderr } = spawnSync(
    'ffmpeg',
    [
      '-v',
      'error',
      '-y',
      '-f',
      'f32le',
      '-ar',
      String(RATE),
      '-ac',
      String(channels.length),
      '-i',
      'pipe:0',
      '-ar',
      String(rate),
      ...codec,
      '-map_metadata',
      '-1',
      '-fflags',
      '+bitexact',
      path,
    ],
    { input: Buffer.from(interleaved.buffer), maxBuffer: 1 << 28 },
  )
  if (status !== 0) throw new Error(String(stderr))
}

const inShort = (one: Truth): string => JSON.stringify({ ...one, start: Number(one.start.toFixed(4)), end: Number(one.end.toFixed(4)) })

const truthOf = (name: string, truth: Truth[]): void =>
  writeFileSync(join(import.meta.dirname, 'truth', `${name}.json`), `[\n${truth.map(inShort).join(',\n')}\n]\n`)

const MP3 = ['-c:a', 'libmp3lame', '-b:a', '128k']
const FLAC = ['-c:a', 'flac', '-sample_fmt', 's16', '-compression_level', '8']

// the deckhand, outdoors, on a field recorder set to MP3
{
  const { tracks, truth, length } = perform(readSource('deckhand.txt'), { P: PIET, T: TAMSIN_OFF }, 'P')
  const out = quay(length, 101, 9)
  addTo(out, inRoom(highPass(tracks.get(PIET.name)!, 70), 3, 0.18, 5), 0)
  addTo(out, inRoom(lowPass(tracks.get(TAMSIN_OFF.name)!, 4200), 5, 0.35, 6), 0)
  write('tape-043.mp3', [out], 48_000, MP3)
  truthOf('deckhand', truth)
}

// the officer, on the phone, a side a channel at 8 kHz
{
  const { tracks, truth, length } = perform(readSource('officer.txt'), { M: MAREN, T: TAMSIN }, 'M')
  const near = toLevel(noise(length, 201), -58)
  addTo(near, inRoom(tracks.get(TAMSIN.name)!, 1.6, 0.25, 7), 0)
  const far = toLevel(lowPass(noise(length, 202), 2500), -54)
  addTo(far, inRoom(tracks.get(MAREN.name)!, 1.2, 0.3, 8), 0)
  addTo(near, onPhone(far), 0, 0.008)
  write('call-council-2.flac', [onPhone(near), onPhone(far)], 8_000, FLAC)
  truthOf('officer', truth)
}

// the reporter's voice tracks, in a cupboard
{
  const { tracks, truth, length } = perform(readSource('tracks.txt'), { T: TAMSIN }, 'T')
  const out = toLevel(lowPass(noise(length, 301), 900), -66)
  addTo(out, toLevel(noise(length, 302), -74), 0)
  addTo(out, inRoom(tracks.get(TAMSIN.name)!, 0.8, 0.12, 9), 0)
  write('voice-tracks.flac', [out], 32_000, FLAC)
  truthOf('tracks', truth)
}

// the quay by itself, in stereo
{
  const length = 42 * RATE
  write('quay-at-night.ogg', [quay(length, 401, 6), quay(length, 501, 6)], 48_000, ['-c:a', 'libvorbis', '-q:a', '5'])
}

// a bed
write('bed-low-water.mp3', bed(36), 48_000, ['-c:a', 'libmp3lame', '-b:a', '160k'])
