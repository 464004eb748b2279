import { spawnSync } from 'node:child_process'
import { mkdtempSync, mkdirSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Levels } from '../core/hearing/levels'
import { speechOf } from '../core/hearing/speech'
import { chunksOf } from '../core/recognise/chunks'
import { RATE } from '../core/time'
import { sphinx } from '../server/recognise/sphinx'

/** What the recogniser hears on the demo's call, a side after the other, as it is: a guess with its trust in itself. */

const SPEAKERS = ['Tamsin Roe', 'Maren Ferris']
const folder = mkdtempSync(join(tmpdir(), 'plain-cut-heard-'))
const tape = join(import.meta.dirname, 'tapes', 'call-council-2.flac')
const ffmpeg = (...args: string[]): Buffer => spawnSync('ffmpeg', ['-v', 'error', '-y', ...args], { maxBuffer: 2 ** 30 }).stdout
const said = await Promise.all(
  SPEAKERS.map(async (speaker, side) => {
    const pan = `pan=mono|c0=c${side}`
    const bytes = ffmpeg('-i', tape, '-af', pan, '-ar', String(RATE), '-f', 'f32le', 'pipe:1')
    const sound = new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length))
    const levels = new Levels()
    levels.add(sound)
    levels.finish()
    const words = []
    for (const { from, to } of chunksOf(speechOf(levels).speech, sound.length)) {
      const path = join(folder, `${side}.raw`)
      ffmpeg('-ss', String(from / RATE), '-t', String((to - from) / RATE), '-i', tape, '-af', pan, '-ar', '16000', '-f', 's16le', path)
      for (const { text, from: start, to: end, sure, what } of await sphinx.hear(
        { path, seconds: (to - from) / RATE },
        new AbortController().signal,
      ))
        words.push({ start: round(from / RATE + start), end: round(from / RATE + end), text, speaker, sure, ...(what ? { what } : {}) })
    }
    return words
  }),
)
rmSync(folder, { recursive: true })

function round(seconds: number): number {
  return Math.round(seconds * 1000) / 1000
}

mkdirSync(join(import.meta.dirname, 'heard'), { recursive: true })
const lines = said
  .flat()
  .sort((a, b) => a.start - b.start)
  .map((word) => JSON.stringify(word))
writeFileSync(join(import.meta.dirname, 'heard', 'officer.json'), `[\n${lines.join(',\n')}\n]\n`)
