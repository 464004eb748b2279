import type { Origin } from '../sound/waveFile'
import { plain } from '../sound/waveFile'

/** What tells whether one file goes on where another ended. */
export interface RecordedFile {
  fileName: string
  bytes: number
  /** Length in seconds, where it is known. */
  seconds?: number
  channels?: number
  format?: string
  origin?: Pick<Origin, 'date' | 'time'>
}

/** Recorders begin a new file when one reaches what a card's file system or a header can hold: 2 or 4 GiB, or a little less. */
const FULL = [2 ** 31, 2 ** 32]
const NEARLY = 0.03
/** Clocks of recorders are written in whole seconds. */
const CLOSE_S = 2

interface Numbered {
  stem: string
  number: number
  ending: string
}

/** A name that ends in a number: `REC_0012_003.WAV`, `interview-2.wav`, `QUAY.003`. */
function numbered(fileName: string): Numbered | null {
  const match = /^(.*?)(\d{1,6})(\.[^.\d][^.]*)?$/.exec(plain(fileName))
  return match && { stem: match[1].toLowerCase(), number: Number(match[2]), ending: (match[3] ?? '').toLowerCase() }
}

/** What the files of one recording begin with, in small letters; null where a name has no number at its end. */
export const stemOf = (fileName: string): string | null => numbered(fileName)?.stem ?? null

const startOf = ({ origin }: RecordedFile): number | null => {
  const at = origin?.date && origin.time ? Date.parse(`${origin.date}T${origin.time}Z`) : NaN
  return Number.isNaN(at) ? null : at / 1000
}

/**
 * Whether the second file goes on where the first ended: its number is the next one, it is of the
 * same kind, and either its clock says so, or the first is as large as a file may get.
 */
export function runsOnFrom(first: RecordedFile, second: RecordedFile): boolean {
  const [a, b] = [numbered(first.fileName), numbered(second.fileName)]
  if (!a || !b || a.stem !== b.stem || a.ending !== b.ending || b.number !== a.number + 1) return false
  if (first.channels !== second.channels || first.format !== second.format) return false
  const [from, to] = [startOf(first), startOf(second)]
  if (from !== null && to !== null && first.seconds) return Math.abs(to - from - first.seconds) <= CLOSE_S
  return FULL.some((limit) => first.bytes <= limit && first.bytes > limit * (1 - NEARLY))
}

/** Files that follow one another as one recording, each run of them in its order; single ones are left out. */
export function runs<T extends RecordedFile>(files: readonly T[]): T[][] {
  const next = new Map<T, T>()
  const follows = new Set<T>()
  for (const first of files) {
    const found = files.find((second) => second !== first && !follows.has(second) && runsOnFrom(first, second))
    if (!found) continue
    next.set(first, found)
    follows.add(found)
  }
  return [...next.keys()]
    .filter((first) => !follows.has(first))
    .map((first) => {
      const run = [first]
      for (let at = next.get(first); at; at = next.get(at)) run.push(at)
      return run
    })
}
