import { bare } from '../find/bare'
import { paragraphs } from './paragraphs'
import type { BlockKind } from './story'

/** A script that was written elsewhere, read as blocks: what each paragraph is, told from how it is set. */

export interface ScriptLine {
  kind: BlockKind
  text: string
  /** Who says it, where that stands before it. */
  speaker: string
}

/** What stands before a colon, where it says what the line is; else it is a name. */
const LABELS: readonly (readonly [RegExp, BlockKind])[] = [
  [/^(host|presenter|studio|intro|cue)( intro)?$/i, 'intro'],
  [/^(tag|back anno|outro)$/i, 'tag'],
  [/^(soc|sign.?off|out cue|standard out cue)$/i, 'soc'],
  [/^(voice|vo|v\/o|copy|link|narration|reporter)$/i, 'copy'],
]
const NAMED = /^([\p{Lu}][\p{L}\p{N} .'’/-]{0,40}?)\s*:\s+(.+)$/su
const QUOTED = /^["“„»](.+)["”“«]$/su
/** Names are a few words; what is longer before a colon is part of a sentence. */
const MOST_WORDS = 4

/** `reader`: who reads the copy; a line of theirs is copy, everybody else's is an actuality. */
export function readScript(text: string, reader: string): ScriptLine[] {
  return paragraphs(text).map((line): ScriptLine => {
    const [, name = '', said = ''] = NAMED.exec(line) ?? []
    if (name && name.split(/\s+/).length <= MOST_WORDS) {
      const label = LABELS.find(([pattern]) => pattern.test(name))
      if (label) return { kind: label[1], text: said, speaker: '' }
      const own = reader !== '' && bare(reader).includes(bare(name))
      return own ? { kind: 'copy', text: said, speaker: reader } : { kind: 'actuality', text: unquoted(said), speaker: name }
    }
    return QUOTED.test(line) ? { kind: 'actuality', text: unquoted(line), speaker: '' } : { kind: 'copy', text: line, speaker: '' }
  })
}

const unquoted = (text: string): string => QUOTED.exec(text)?.[1] ?? text

/** So much of what a script quotes must be said in a piece. */
const ALIKE = 0.6

/** Which of several things that are said is the one that is quoted, by the runs of words that they share; null where none is. */
export function quotedIn<T>(quote: string, all: readonly T[], wordsOf: (one: T) => readonly string[]): T | null {
  const pairs = pairsOf(quote.split(/\s+/).map(bare).filter(Boolean))
  if (!pairs.size) return null
  let best: { one: T; share: number } | null = null
  for (const one of all) {
    const said = pairsOf(wordsOf(one).map(bare).filter(Boolean))
    const shared = [...pairs].filter((pair) => said.has(pair)).length
    const share = shared / pairs.size
    if (share >= ALIKE && share > (best?.share ?? 0)) best = { one, share }
  }
  return best?.one ?? null
}

/** Each word with the next one; a single word by itself. */
const pairsOf = (words: readonly string[]): Set<string> =>
  new Set(words.length < 2 ? words : words.slice(1).map((word, i) => `${words[i]} ${word}`))
