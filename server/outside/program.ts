import { spawn, type ChildProcessWithoutNullStreams } from 'node:child_process'

/** Outside programs get no shell, no input but what is named, and a limit on their time. */

/** Containers that ffmpeg may read; playlists and whatever else can point at other files are not among them. */
const FORMATS =
  'wav,w64,aiff,caf,au,flac,mp3,aac,mov,mp4,m4a,3gp,3g2,mj2,mov,mp4,m4a,3gp,3g2,mj2,ogg,matroska,webm,matroska,webm,asf,amr,amrnb,amrwb,avi,mpeg,mpegts,ac3,eac3,wv,tta,ape,opus,gsm,voc'

export const inputFlags = ['-nostdin', '-hide_banner', '-loglevel', 'error', '-protocol_whitelist', 'file,pipe', '-format_whitelist', FORMATS]

/** `fed`: it is to be written to; else its input ends at once. */
export function start(program: string, args: readonly string[], limitMs: number, fed = false): ChildProcessWithoutNullStreams {
  const child = spawn(program, args, { stdio: 'pipe', timeout: Math.ceil(limitMs), killSignal: 'SIGKILL' })
  if (!fed) child.stdin.end()
  return child
}

/** Runs a program to its end and gives what it printed. Throws with its last words where it fails, or is called off. */
export function run(program: string, args: readonly string[], limitMs = 60_000, signal?: AbortSignal): Promise<string> {
  return new Promise((resolve, reject) => {
    const child = start(program, args, limitMs)
    const stop = () => child.kill('SIGKILL')
    signal?.addEventListener('abort', stop)
    let out = ''
    let said = ''
    child.stdout.on('data', (chunk) => (out = (out + chunk).slice(-1_000_000)))
    child.stderr.on('data', (chunk) => (said = (said + chunk).slice(-2000)))
    child.on('error', reject)
    child.on('close', (code) => {
      signal?.removeEventListener('abort', stop)
      if (code === 0) resolve(out)
      else reject(new Error(said.trim() || `${program} ended with ${code}`))
    })
  })
}
