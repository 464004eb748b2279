import { spawnSync } from 'node:child_process'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { RATE, type Stretch } from '../core/time'

/** Other programs on the same sound. */

const folder = mkdtempSync(join(tmpdir(), 'measure-mend-'))
const bytes = (sound: Float32Array) => new Uint8Array(sound.buffer, sound.byteOffset, sound.byteLength)
const floats = (buffer: Buffer) => new Float32Array(buffer.buffer.slice(buffer.byteOffset, buffer.byteOffset + (buffer.length & ~3)))
const RAW = ['-f', 'f32le', '-ar', String(RATE), '-ac', '1']

/** `late`: by how many frames its sound comes late, which is made up for. */
export function byFfmpeg(sound: Float32Array, filter: string, late = 0): Float32Array {
  const padded = new Float32Array(sound.length + late)
  padded.set(sound)
  const { status, stdout, stderr } = spawnSync('ffmpeg', ['-v', 'error', ...RAW, '-i', 'pipe:0', '-af', filter, ...RAW, 'pipe:1'], {
    input: bytes(padded),
    maxBuffer: 2 ** 30,
  })
  if (status !== 0) throw new Error(`ffmpeg ${filter}: ${String(stderr)}`)
  return floats(stdout).subarray(late)
}

const SOX = ['-t', 'raw', '-r', String(RATE), '-e', 'float', '-b', '32', '-c', '1']

export function bySox(sound: Float32Array, quiet: Stretch, amount: number): Float32Array {
  const [raw, profile] = [join(folder, 'quiet.raw'), join(folder, 'profile')]
  writeFileSync(raw, bytes(sound.subarray(quiet.from, quiet.to)))
  const learnt = spawnSync('sox', [...SOX, raw, '-n', 'noiseprof', profile])
  if (learnt.status !== 0) throw new Error(`sox: ${String(learnt.stderr)}`)
  const { status, stdout, stderr } = spawnSync('sox', [...SOX, '-', ...SOX, '-', 'noisered', profile, String(amount)], {
    input: bytes(sound),
    maxBuffer: 2 ** 30,
  })
  if (status !== 0) throw new Error(`sox: ${String(stderr)}`)
  // it leaves the last part of a spectrum out
  const out = new Float32Array(sound.length)
  out.set(floats(stdout).subarray(0, sound.length))
  return out
}

export type Setting = string

/** What a peer reaches at its best. */
export interface Best {
  setting: Setting
  distance: number
  /** How much less noise there is in pauses, in dB. */
  less: number
}

/** Of settings that take 11 to 13 dB of noise the one that comes closest; where none does, the one nearest to 12 dB. */
export function best(
  settings: readonly Setting[],
  make: (setting: Setting) => Float32Array,
  lessOf: (made: Float32Array) => number,
  distanceOf: (made: Float32Array) => number,
): Best {
  let found: (Best & { fits: boolean }) | null = null
  for (const setting of settings) {
    const made = make(setting)
    const less = lessOf(made)
    const fits = less >= 11 && less <= 13
    if (found?.fits && !fits) continue
    const nearer = !found || (fits && !found.fits) || (fits ? true : Math.abs(less - 12) < Math.abs(found.less - 12))
    if (!nearer) continue
    const distance = distanceOf(made)
    if (!found || !fits || !found.fits || distance < found.distance) found = { setting, distance, less, fits }
  }
  const { fits: _, ...rest } = found!
  return rest
}
