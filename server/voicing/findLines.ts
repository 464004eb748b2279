import { COMPLETE, versionsOf, type Line, type Part, type Version } from '../../core/voicing/versions'
import type { Word } from '../../core/tape/words'
import { toFrames, type Frames, type Stretch } from '../../core/time'
import { align } from '../align/align'
import { dictionary } from '../recognise/dictionary'
import type { Services } from '../services'

/** A time that a line was read, with its own words on the sound; those that were not said are not there. */
export interface FoundVersion extends Version {
  words: Word[]
}

/** The first and last word of a line may be heard as nothing like it: they are looked for so far beyond what was. */
const BEYOND: Frames = toFrames(0.7)
const AT_ONCE = 2

/**
 * Every time that lines of copy are read on a tape, in the order in which they are. `heard`: the tape's words, as rough as they
 * may be. `progress`: 0 to 1.
 */
export async function findLines(
  services: Services,
  { tape, channels, frames }: { tape: string; channels: readonly number[]; frames: Frames },
  heard: readonly Word[],
  lines: readonly Line[],
  signal?: AbortSignal,
  progress: (share: number) => unknown = () => undefined,
): Promise<FoundVersion[]> {
  const versions = versionsOf(lines, heard, dictionary).map((version) => wholeLine(version, lines))
  const parts = versions.flatMap((version) => version.parts.map((part) => ({ version, part })))
  const words = new Map<Part, Word[]>()
  const waiting = parts.map((one, i) => ({ ...one, before: parts[i - 1]?.part.to ?? 0, behind: parts[i + 1]?.part.from ?? frames }))
  const worker = async () => {
    for (let one = waiting.shift(); one && !signal?.aborted; one = waiting.shift()) {
      const { version, part, before, behind } = one
      const texts = textsOf(version, lines).slice(part.first, part.last)
      const stretch = { from: Math.max(before, part.from - BEYOND, 0), to: Math.min(behind, part.to + BEYOND, frames) }
      const places = stretch.to > stretch.from ? await align(services, tape, channels, stretch, texts, { loose: true, signal }) : []
      words.set(
        part,
        places.flatMap((place, i) => (place ? [{ text: texts[i], from: place.from, to: place.to }] : [])),
      )
      progress(words.size / parts.length)
    }
  }
  await Promise.all(Array.from({ length: AT_ONCE }, worker))
  return versions.map((version) => exactly(version, words))
}

const textsOf = ({ line }: Version, lines: readonly Line[]) => lines.find(({ id }) => id === line)!.text.split(/\s+/)

/** A complete version is looked for from its line's first word to its last. */
function wholeLine(version: Version, lines: readonly Line[]): Version {
  if (version.said < COMPLETE) return version
  const { parts } = version
  const last = parts.length - 1
  const count = textsOf(version, lines).length
  return {
    ...version,
    parts: parts.map((part, i) => ({ ...part, ...(i ? {} : { first: 0 }), ...(i === last ? { last: count } : {}) })),
  }
}

/** Its parts from first to last word as they were found on the sound; where none was, as they were heard. */
function exactly(version: Version, words: ReadonlyMap<Part, Word[]>): FoundVersion {
  const found = version.parts.map((part) => words.get(part) ?? [])
  const edges = (part: Part, own: readonly Stretch[]): Part =>
    own.length ? { ...part, from: own[0].from, to: own[own.length - 1].to } : part
  return { ...version, parts: version.parts.map((part, i) => edges(part, found[i])), words: found.flat() }
}
