import { spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, expect, it } from 'vitest'
import { declareLength } from './mp3Length'

const folder = mkdtempSync(join(tmpdir(), 'plain-cut-mp3-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const path = join(folder, 'made.mp3')
function encode(samples: number, rate: number, channels: number): void {
  const tone = `anoisesrc=r=${rate}:d=${Math.ceil(samples / rate) + 1}:amplitude=0.1`
  const filters = `atrim=end_sample=${samples},aformat=channel_layouts=${channels === 1 ? 'mono' : 'stereo'}`
  const made = spawnSync('ffmpeg', [
    '-v',
    'error',
    '-y',
    '-f',
    'lavfi',
    '-i',
    tone,
    '-af',
    filters,
    '-c:a',
    'libmp3lame',
    '-b:a',
    '128k',
    path,
  ])
  expect(made.status).toBe(0)
}
const decoded = (): number =>
  spawnSync('ffmpeg', ['-v', 'error', '-i', path, '-f', 's16le', '-ac', '1', 'pipe:1'], { maxBuffer: 1 << 27 }).stdout.length / 2

it.each([
  // so that 1, 13, 46, 47 and 1151 samples are missing to a whole frame
  [44_100, 1, [1, 13, 46, 47, 1151]],
  [48_000, 2, [1, 30, 60]],
] as const)('is decoded to the very sample at %i Hz, %i channels', (rate, channels, missing) => {
  for (const less of missing) {
    const samples = 100 * 1152 - 1105 - less
    encode(samples, rate, channels)
    declareLength(path, samples)
    expect(decoded()).toBe(samples)
  }
})
