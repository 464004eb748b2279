import { isStorable } from '../storable'
import { toFrames, type Frames } from '../time'

/** A word that was brought in, with what its file says of it. */
export interface ReadWord {
  text: string
  speaker?: string
  /** Between these it is said, as far as the file knows: a word’s own times, or those of the cue that it stands in. */
  within?: { from: Frames; to: Frames }
  /** The times are the word’s own. */
  exact?: boolean
}

/** Thrown where a file holds no words that can be read; its message says why, in plain words. */
export class Unreadable extends Error {}

/** A name before a colon at the start of a line: one to four words, each with a capital. */
const NAMED = /^\s*(\p{Lu}[\p{L}\d.'’-]*(?: [\p{Lu}\d][\p{L}\d.'’-]*){0,3})\s*:\s+(?=\S)/u

const ENTITIES: Record<string, string> = { '&amp;': '&', '&lt;': '<', '&gt;': '>', '&nbsp;': ' ', '&quot;': '"' }
const unescaped = (text: string): string =>
  text.replace(/<[^<>]{0,200}>/g, '').replace(/&(?:amp|lt|gt|nbsp|quot);/g, (entity) => ENTITIES[entity])

const wordsIn = (text: string): string[] => text.match(/\([^()]{0,80}\)[.,;:!?]*|\S+/g) ?? []

/** Plain text: a name before a colon begins what that speaker says, until another name does. */
export function readText(text: string): ReadWord[] {
  let speaker: string | undefined
  return text.split(/\r?\n/).flatMap((line) => {
    const named = NAMED.exec(line)
    if (named) speaker = named[1]
    return wordsIn(named ? line.slice(named[0].length) : line).map((word): ReadWord => ({ text: word, ...(speaker ? { speaker } : {}) }))
  })
}

const STAMP = String.raw`(?:(\d+):)?(\d{1,2}):(\d{1,2})[.,](\d{1,3})`
const ARROW = new RegExp(String.raw`^\s*${STAMP}\s+-->\s+${STAMP}`)

function frames(parts: readonly (string | undefined)[]): Frames {
  const [hours, minutes, seconds, thousandths] = parts
  return toFrames(Number(hours ?? 0) * 3600 + Number(minutes) * 60 + Number(seconds) + Number((thousandths ?? '0').padEnd(3, '0')) / 1000)
}

/** Cues of SubRip and WebVTT: a line of times, then lines of text until an empty one. */
function readCues(text: string, keepSpeaker: boolean): ReadWord[] {
  const lines = text.replace(/^\uFEFF/, '').split(/\r?\n/)
  const words: ReadWord[] = []
  let speaker: string | undefined
  for (let i = 0; i < lines.length; i++) {
    const times = ARROW.exec(lines[i])
    if (!times) continue
    const within = { from: frames(times.slice(1, 5)), to: frames(times.slice(5, 9)) }
    if (!keepSpeaker) speaker = undefined
    for (i++; i < lines.length && lines[i].trim(); i++) {
      const voice = /^<v(?:\.[^ >]*)? ([^>]+)>/.exec(lines[i])
      const line = unescaped(lines[i])
      const named = voice ? null : NAMED.exec(line)
      if (voice ?? named) speaker = unescaped((voice ?? named)![1]).trim()
      words.push(
        ...wordsIn(named ? line.slice(named[0].length) : line).map((word): ReadWord => ({
          text: word,
          within,
          ...(speaker ? { speaker } : {}),
        })),
      )
    }
  }
  return words
}

/** A list of words, or cues, with times in seconds: `{start, end, text, speaker?}`, alone or under `words` or `segments`. */
function readJson(text: string): ReadWord[] {
  let data: unknown
  try {
    data = JSON.parse(text)
  } catch {
    throw new Unreadable('That JSON file is damaged: it could not be read to its end.')
  }
  const found = data as { words?: unknown; segments?: unknown }
  const list = Array.isArray(data) ? data : (found?.words ?? found?.segments)
  if (!Array.isArray(list)) throw new Unreadable('There is no list of words in that file.')
  return (list as { start?: unknown; end?: unknown; text?: unknown; word?: unknown; speaker?: unknown; what?: unknown }[]).flatMap(
    (one) => {
      const said = typeof one?.text === 'string' ? one.text : typeof one?.word === 'string' ? one.word : ''
      if (one?.what === 'pause') return []
      const timed = typeof one?.start === 'number' && typeof one?.end === 'number' && one.end > one.start && one.start >= 0
      const words = wordsIn(said)
      return words.map((word): ReadWord => ({
        text: word,
        ...(typeof one.speaker === 'string' && one.speaker ? { speaker: one.speaker } : {}),
        ...(timed
          ? {
              within: { from: toFrames(one.start as number), to: toFrames(one.end as number) },
              ...(words.length === 1 ? { exact: true } : {}),
            }
          : {}),
      }))
    },
  )
}

/** A tape of ten hours holds no more words. */
export const MOST_WORDS = 120_000
/** The text of a file, by its marks at the start: UTF-8, UTF-16, and what is neither as Windows Latin. Throws {@link Unreadable}. */
export function textOf(bytes: Uint8Array, decode: (bytes: Uint8Array, encoding: string, strict: boolean) => string): string {
  const begins = (...marks: number[]) => marks.every((mark, i) => bytes[i] === mark)
  const encoding = begins(0xff, 0xfe) ? 'utf-16le' : begins(0xfe, 0xff) ? 'utf-16be' : 'utf-8'
  let text: string
  try {
    text = decode(bytes, encoding, true)
  } catch {
    if (encoding !== 'utf-8') throw new Unreadable('That text file is damaged.')
    text = decode(bytes, 'windows-1252', false)
  }
  if (!isStorable(text)) throw new Unreadable('That is not a text file.')
  return text
}

/** The words of a file, by its name and what is in it. Throws {@link Unreadable}. */
export function readTranscript(name: string, text: string): ReadWord[] {
  const ending = /\.(\w+)$/.exec(name.toLowerCase())?.[1]
  const words =
    ending === 'json'
      ? readJson(text)
      : ending === 'vtt' || /^\uFEFF?WEBVTT/.test(text)
        ? readCues(text, false)
        : ending === 'srt'
          ? readCues(text, true)
          : readText(text)
  const short = words.filter((word) => word.text.length <= 80)
  if (short.some(({ text: said, speaker = '' }) => !isStorable(said) || !isStorable(speaker)))
    throw new Unreadable('That file holds characters that can’t be stored.')
  if (short.length > MOST_WORDS)
    throw new Unreadable(`That file has more than ${MOST_WORDS.toLocaleString('en')} words, too many for one tape.`)
  if (!short.length) throw new Unreadable('There are no words in that file.')
  return short
}
