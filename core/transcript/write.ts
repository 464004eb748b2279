import type { Mark } from '../tape/tape'
import type { Word } from '../tape/words'
import { clock, RATE, type Frames } from '../time'
import { cuesOf, paragraphsOf } from './cues'

/** The words of a tape or a piece in the open formats that others read. Times count from `zero`. */

export const FORMATS = ['txt', 'srt', 'vtt', 'json', 'log'] as const
export type Format = (typeof FORMATS)[number]

/** `0:01:02,345`, with the given sign before the thousandths; hours in two digits. */
function stamp(frames: Frames, sign: ',' | '.'): string {
  const ms = Math.round((Math.max(0, frames) / RATE) * 1000)
  const two = (value: number) => String(value).padStart(2, '0')
  const parts = [ms / 3_600_000, (ms / 60_000) % 60, (ms / 1000) % 60].map((part) => two(Math.floor(part)))
  return `${parts.join(':')}${sign}${String(ms % 1000).padStart(3, '0')}`
}

/** Paragraphs, each with its speaker before it where one is known. */
export const asText = (words: readonly Word[]): string =>
  paragraphsOf(words)
    .map(({ speaker, text }) => `${speaker ? `${speaker}: ` : ''}${text}\n`)
    .join('\n')

/** SubRip: a speaker's name stands before what they say whenever it changes. */
export function asSubRip(words: readonly Word[], zero: Frames = 0): string {
  let last = ''
  return cuesOf(words)
    .map(({ from, to, speaker, text }, i) => {
      const named = speaker && speaker !== last ? `${speaker}: ` : ''
      last = speaker
      return `${i + 1}\n${stamp(from - zero, ',')} --> ${stamp(to - zero, ',')}\n${named}${text}\n`
    })
    .join('\n')
}

const escaped = (text: string): string => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;')

/** WebVTT (W3C): a voice span where the speaker is known. */
export const asWebVtt = (words: readonly Word[], zero: Frames = 0): string =>
  [
    'WEBVTT\n',
    ...cuesOf(words).map(
      ({ from, to, speaker, text }) =>
        `${stamp(from - zero, '.')} --> ${stamp(to - zero, '.')}\n${speaker ? `<v ${escaped(speaker)}>` : ''}${escaped(text)}\n`,
    ),
  ].join('\n')

/** Each word with its times in seconds, as JSON: a list of `{start, end, text, speaker?, what?}`. */
export const asJson = (words: readonly Word[], zero: Frames = 0): string => {
  const seconds = (frames: Frames) => Math.round(((frames - zero) / RATE) * 1000) / 1000
  return `${JSON.stringify(
    words.map(({ from, to, text, speaker, what }) => ({
      start: seconds(from),
      end: seconds(to),
      text,
      ...(speaker ? { speaker } : {}),
      ...(what ? { what } : {}),
    })),
    null,
    1,
  )}\n`
}

/** A log sheet: time, who, what, with tabs between; marks stand where they were dropped. */
export function asLog(words: readonly Word[], marks: readonly Pick<Mark, 'at' | 'text'>[], zero: Frames = 0): string {
  const lines = [
    ...paragraphsOf(words).map(({ from, speaker, text }) => ({ at: from, who: speaker, text })),
    ...marks.map(({ at, text }) => ({ at, who: '*', text: text || 'mark' })),
  ].sort((a, b) => a.at - b.at)
  return `time\twho\twhat\n${lines.map(({ at, who, text }) => `${clock(at - zero)}\t${who}\t${text.replace(/\s+/g, ' ')}\n`).join('')}`
}
