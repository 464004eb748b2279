import { Ended, inputFlags, run } from './program'

export interface Probed {
  channels: number
  /** Frames at 48 kHz by what the file says of itself; 0 where it says nothing. */
  expected: number
  /** That length is one that the file states, and not an estimate. */
  exact: boolean
  format: string
  /** Frames a second, as the file has it; 0 where it says nothing. */
  rate: number
}

const EXACT = /flac|mp4|aiff|caf|matroska/

/** Looks into a file for its first sound stream; null where there is none to be read. Throws where the program itself failed. */
export async function probe(path: string): Promise<Probed | null> {
  const flags = inputFlags.filter((flag) => flag !== '-nostdin')
  let text: string
  try {
    text = await run(
      'ffprobe',
      [
        ...flags,
        '-select_streams',
        'a:0',
        '-show_entries',
        'stream=codec_name,channels,sample_rate:format=duration,format_name',
        '-of',
        'json',
        path,
      ],
      20_000,
    )
  } catch (error) {
    // a program that was killed says nothing of the file
    if (!(error instanceof Ended) || error.killed) throw error
    return null
  }
  const { streams, format } = JSON.parse(text) as {
    streams?: { codec_name?: string; channels?: number; sample_rate?: string }[]
    format?: { duration?: string; format_name?: string }
  }
  const stream = streams?.[0]
  if (!stream?.channels) return null
  const rate = Number(stream.sample_rate ?? 0)
  return {
    channels: stream.channels,
    expected: Math.max(0, Math.round(Number(format?.duration ?? 0) * 48_000)) || 0,
    exact: EXACT.test(format?.format_name ?? ''),
    format: `${stream.codec_name}, ${rate / 1000} kHz`,
    rate,
  }
}
