import { spawn, type ChildProcessWithoutNullStreams } from 'node:child_process'

/** Outside programs get no shell, no input but what is named, and a limit on their time. */

/** Containers that ffmpeg may read; playlists and whatever else can point at other files are not among them. */
const FORMATS =
  'wav,w64,aiff,caf,au,flac,mp3,aac,mov,mp4,m4a,3gp,3g2,mj2,mov,mp4,m4a,3gp,3g2,mj2,ogg,matroska,webm,matroska,' +
  'webm,asf,amr,amrnb,amrwb,avi,mpeg,mpegts,ac3,eac3,wv,tta,ape,opus,gsm,voc'

export const inputFlags = [
  '-nostdin',
  '-hide_banner',
  '-loglevel',
  'error',
  '-protocol_whitelist',
  'file,pipe',
  '-format_whitelist',
  FORMATS,
]

/** `fed`: it is to be written to; else its input ends at once. */
export function start(program: string, args: readonly string[], limitMs: number, fed = false): ChildProcessWithoutNullStreams {
  const child = spawn(program, args, { stdio: 'pipe', timeout: Math.ceil(limitMs), killSignal: 'SIGKILL' })
  if (!fed) child.stdin.end()
  return child
}

/**
 * How a program ended that did not end well. `killed`: by a signal, or for its time limit, so it says
 * nothing of what it was given; the same holds where it ended without a word.
 */
export class Ended extends Error {
  readonly killed: boolean
  constructor(
    program: string,
    code: number | null,
    signal: NodeJS.Signals | null,
    readonly said: string,
  ) {
    super(said.trim() || `${program} ended with ${signal ?? code}`)
    this.killed = signal !== null || code === null || code >= 128 + 2
  }

  /** Whether it found fault with its input, and not the machine with it. */
  get aboutInput(): boolean {
    return !this.killed && INVALID.test(this.said)
  }
}

/** What ffmpeg and ffprobe say of input that cannot be read, or holds no sound. */
const INVALID = new RegExp(
  [
    'invalid|corrupt|unknown|unsupported|unspecified',
    'not (?:found|supported|implemented)|could not find|does not contain',
    'matches no streams|no such (?:stream|codec)',
    'end of file|error (?:while )?decoding|header|whitelist|moov',
  ].join('|'),
  'i',
)

/** Runs a program to its end and gives what it printed. Throws {@link Ended} where it fails, or is cancelled. */
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
    child.on('close', (code, killer) => {
      signal?.removeEventListener('abort', stop)
      if (code === 0) resolve(out)
      else reject(new Ended(program, code, killer, said))
    })
  })
}

/** What a program complains of while it runs to its end, however it ends. */
export function complaints(program: string, args: readonly string[], limitMs: number): Promise<string> {
  return new Promise((resolve, reject) => {
    const child = start(program, args, limitMs)
    let said = ''
    child.stdout.resume()
    child.stderr.on('data', (chunk) => (said = (said + chunk).slice(-100_000)))
    child.on('error', reject)
    child.on('close', () => resolve(said))
  })
}
