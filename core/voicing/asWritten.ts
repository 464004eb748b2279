import { spoken } from '../align/spoken'
import { plainWord } from '../page/anchors'
import { withoutNotes } from '../page/notes'

/** A place where something else was said than is written. Either may be empty: nothing was said there, or nothing is written. */
export interface Otherwise {
  /** Before which of the copy's words it begins, counted from 0 as `copyWords` gives them. */
  at: number
  written: string
  said: string
}

const matter = (word: string): string => spoken(word).join(' ') || plainWord(word)

export const copyWords = (copy: string): string[] => withoutNotes(copy).split(/\s+/).filter(plainWord)

/**
 * What a take says otherwise than its copy, in order: the longest run of words that both have in common stays, and what lies
 * between is otherwise (Hirschberg's problem, here by the whole table: a line is short).
 */
export function otherwise(copy: string, said: readonly string[]): Otherwise[] {
  const written = copyWords(copy)
  const heard = said.filter(plainWord)
  const [a, b] = [written.map(matter), heard.map(matter)]
  const common = Array.from({ length: a.length + 1 }, () => new Uint16Array(b.length + 1))
  for (let i = a.length - 1; i >= 0; i--)
    for (let j = b.length - 1; j >= 0; j--)
      common[i][j] = a[i] === b[j] ? common[i + 1][j + 1] + 1 : Math.max(common[i + 1][j], common[i][j + 1])
  const found: { at: number; written: string[]; said: string[] }[] = []
  let open = false
  const add = (kind: 'written' | 'said', at: number, word: string) => {
    if (!open) found.push({ at, written: [], said: [] })
    open = true
    found[found.length - 1][kind].push(word)
  }
  for (let [i, j] = [0, 0]; i < a.length || j < b.length;) {
    if (i < a.length && j < b.length && a[i] === b[j]) {
      open = false
      i++
      j++
    } else if (j >= b.length || (i < a.length && common[i + 1][j] >= common[i][j + 1])) add('written', i, written[i++])
    else add('said', i, heard[j++])
  }
  return found.map((one) => ({ at: one.at, written: one.written.join(' '), said: one.said.join(' ') }))
}

/** How near a take is to its copy: the share of the words of both that are the same, 1 where it says what is written. */
export function nearness(copy: string, said: readonly string[]): number {
  const words = copyWords(copy).length + said.filter(plainWord).length
  const off = otherwise(copy, said).reduce((sum, one) => sum + count(one.written) + count(one.said), 0)
  return words ? 1 - off / words : 0
}

/** The copy with what was said in the place of what is written; its notes go. */
export function asSaid(copy: string, places: readonly Otherwise[]): string {
  const words = copyWords(copy)
  for (const { at, written, said } of [...places].reverse()) {
    const end = written ? /[.,;:!?…”’"')]+$/.exec(words[at + count(written) - 1])?.[0] : ''
    const put = said.split(' ').filter(Boolean)
    if (put.length && end && !/[.,;:!?]$/.test(said)) put[put.length - 1] += end
    words.splice(at, count(written), ...put)
  }
  return words.join(' ')
}

const count = (text: string): number => text.split(' ').filter(Boolean).length
