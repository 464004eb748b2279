import { randomUUID } from 'node:crypto'
import { RATE, type Stretch } from '../../core/time'
import { run } from '../outside/program'
import type { Services } from '../services'

/** A stretch of a tape's channels, as speech programs and the finer look at it want them. */

/** What is turned down is so much softer: a factor. */
const TURNED_DOWN = 0.03

/**
 * As a file of 16-bit samples at 16 kHz, one channel; `done` clears it away. `soft`: where it is turned down, in frames
 * from the beginning of the stretch.
 */
export async function pcmOf(
  { store }: Services,
  tape: string,
  channels: readonly number[],
  { from, to }: Stretch,
  soft: readonly Stretch[] = [],
): Promise<{ path: string; done: () => Promise<void> }> {
  const path = store.making(`words-${randomUUID()}`)
  const inputs = channels.flatMap((channel) => [
    '-f',
    'f32le',
    '-ar',
    String(RATE),
    '-ac',
    '1',
    '-ss',
    String(from / RATE),
    '-t',
    String((to - from) / RATE),
    '-i',
    store.channel(tape, channel),
  ])
  const when = soft.map((one) => `between(t,${(one.from / RATE).toFixed(3)},${(one.to / RATE).toFixed(3)})`).join('+')
  const filters = [
    ...(channels.length > 1 ? [`amix=inputs=${channels.length}`] : []),
    ...(when ? [`volume=${TURNED_DOWN}:enable='${when}'`] : []),
  ]
  const mix = filters.length ? ['-filter_complex', filters.join(',')] : []
  await run('ffmpeg', [
    '-nostdin',
    '-hide_banner',
    '-loglevel',
    'error',
    '-protocol_whitelist',
    'file,pipe',
    ...inputs,
    ...mix,
    '-ar',
    '16000',
    '-ac',
    '1',
    '-f',
    's16le',
    '-y',
    path,
  ])
  return { path, done: () => store.remove(path) }
}

/** As samples at 48 kHz, channels added up. */
export async function soundOf(
  { store }: Services,
  tape: string,
  channels: readonly number[],
  { from, to }: Stretch,
): Promise<Float32Array> {
  const sum = new Float32Array(to - from)
  for (const channel of channels) {
    const bytes = await store.stretch(store.channel(tape, channel), from * 4, to * 4)
    const samples = new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + (bytes.length & ~3)))
    for (let i = 0; i < samples.length; i++) sum[i] += samples[i] / channels.length
  }
  return sum
}
