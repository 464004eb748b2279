import { spawnSync } from 'node:child_process'

/** One channel of a sound file, at a rate, as 32-bit floats. Throws what ffmpeg says where it cannot be read. */
export function channelOf(file: string, channel: number, rate: number): Float32Array {
  const { stdout, status, stderr } = spawnSync(
    'ffmpeg',
    ['-v', 'error', '-i', file, '-af', `pan=mono|c0=c${channel}`, '-ar', String(rate), '-f', 'f32le', 'pipe:1'],
    { maxBuffer: 2 ** 31 - 1 },
  )
  if (status !== 0) throw new Error(stderr.toString())
  return new Float32Array(stdout.buffer.slice(stdout.byteOffset, stdout.byteOffset + stdout.byteLength))
}
