import { spawn } from 'node:child_process'
import { once } from 'node:events'
import type { FigurePreview, FileFigures } from '../../contract/sends'
import { Ear } from '../../core/hearing/ear'
import { WaveTaker } from '../../core/picture/wave'
import type { LabelLoudness } from '../../core/sound/broadcastWave'
import type { Plan } from '../../core/render/plan'
import { RATE } from '../../core/time'
import { blocks } from './blocks'
import { floats } from './floats'

/** How loud what is sent is, in LUFS, LU and dBTP. */

export const loudnessIn = (ear: Ear): LabelLoudness => {
  const { loudness, channels } = ear.finish()
  return { ...loudness, truePeak: Math.max(...channels.map(({ truePeak }) => truePeak)) }
}

/** Of it, what a receipt has. */
export const figuresOf = ({ integrated, truePeak }: LabelLoudness): FileFigures => ({ loudness: integrated, truePeak })

/** Of a finished file, as whoever plays it hears it: coding and resampling change its peaks. */
export async function loudnessOfFile(path: string, channels: number): Promise<LabelLoudness> {
  const child = spawn(
    'ffmpeg',
    ['-nostdin', '-loglevel', 'error', '-i', path, '-f', 'f32le', '-ar', String(RATE), '-ac', String(channels), 'pipe:1'],
    { stdio: ['ignore', 'pipe', 'pipe'], timeout: 30 * 60_000, killSignal: 'SIGKILL' },
  )
  let said = ''
  child.stderr.on('data', (chunk) => (said = (said + chunk).slice(-500)))
  const ended = once(child, 'close')
  const ear = new Ear(channels, true)
  for await (const block of floats(child.stdout, channels)) ear.add(block)
  const [code] = await ended
  if (code !== 0) throw new Error(said || `ffmpeg ended with ${code}`)
  return loudnessIn(ear)
}

/** The plan as a file would hold it, before it is one. */
export interface FiguresOrder {
  plan: Plan
  media: string
  channels: number
}

export type FiguresReport = { progress: number } | { figures: FigurePreview }

/** How loud a plan is, and its wave. */
export async function listenToPlan({ plan, media, channels }: FiguresOrder, report: (report: FiguresReport) => void): Promise<void> {
  const ear = new Ear(channels, false)
  const taker = new WaveTaker(plan.length)
  for await (const block of blocks(plan, media, channels, (progress) => report({ progress }))) {
    ear.add(block)
    taker.add(block)
  }
  report({ figures: { ...figuresOf(loudnessIn(ear)), wave: taker.wave } })
}
