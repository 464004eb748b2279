import { spawn, spawnSync } from 'node:child_process'
import { once } from 'node:events'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, expect, it } from 'vitest'
import { RATE } from '../../core/time'
import { loudnessOfFile } from './figures'
import { heardBeside } from './heardWhileMade'
import { declareLength } from './mp3Length'

const folder = mkdtempSync(join(tmpdir(), 'plain-cut-heard-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const FRAMES = 9 * RATE + 333
/** Noise that swells, so that the parts of it are not all as loud. */
const source = [
  '-f',
  'lavfi',
  '-i',
  `anoisesrc=r=${RATE}:d=10:amplitude=0.4:seed=3`,
  '-af',
  `tremolo=f=0.2:d=0.9,atrim=end_sample=${FRAMES}`,
]
const coded = (path: string) => ['-v', 'error', '-y', ...source, '-c:a', 'libmp3lame', '-b:a', '128k', path]

it('an MP3 file that is heard while it is made is as loud as the finished file, to the last digit', async () => {
  const path = join(folder, 'made.mp3')
  // slowly, so that there is something to wait for
  const made = once(spawn('ffmpeg', ['-readrate', '4', ...coded(path)]), 'close')
  const heard = await heardBeside(path, made, FRAMES, 1)
  declareLength(path, FRAMES)
  const whole = await loudnessOfFile(path, 1)
  expect(heard).toEqual(whole)
  expect(heard.integrated).toBeGreaterThan(-40)
}, 30_000)

it('where it is not made to its end nothing is said of it', async () => {
  const path = join(folder, 'half.mp3')
  spawnSync('ffmpeg', [...coded(path), '-t', '1'])
  const broken = Promise.reject(new Error('no room'))
  await expect(heardBeside(path, broken, FRAMES, 1)).rejects.toThrow('no room')
})
