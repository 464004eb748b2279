import { pronounced, type Dictionary } from '../../core/align/pronounce'
import { spoken } from '../../core/align/spoken'

/** A grammar and a dictionary, as text that an aligner reads, that together allow one text and nothing else. */
export interface Grammar {
  /** Finite state grammar in Sphinx's format. */
  fsg: string
  dict: string
  /** Which of the text's words each spoken word of the grammar, `w0`, `w1`, …, belongs to. */
  owner: number[]
}

/** The probabilities, in a loose grammar, of leaving a word out and of saying something else between two. */
const SKIPPED = 1e-8
const EXTRA = 1e-4

/** What else may be said is any row of these few: they stand for all sounds, at a third of the work. */
const SOUNDS = 'AA AH EH IY OW UW S SH T K M N L R'.split(' ')

/**
 * The grammar of a text. Every spoken word has a name of its own, so that what is found says which
 * it is. `loose`: words may be missing, and sounds may stand between them that the text does not have.
 */
export function grammarOf(texts: readonly string[], dictionary: Dictionary, { loose = false } = {}): Grammar {
  const owner: number[] = []
  const dict: string[] = []
  texts.forEach((text, i) => {
    for (const word of spoken(text)) {
      const ways = dictionary(word)
      const name = `w${owner.length}`
      ;(ways.length ? ways : [pronounced(word).join(' ')]).forEach((way, k) => dict.push(`${name}${k ? `(${k + 1})` : ''} ${way}`))
      owner.push(i)
    }
  })
  const states = owner.length + 1
  const lines = ['FSG_BEGIN text', `NUM_STATES ${states}`, 'START_STATE 0', `FINAL_STATE ${states - 1}`]
  owner.forEach((_, i) => {
    lines.push(`TRANSITION ${i} ${i + 1} 1.0 w${i}`)
    if (loose) lines.push(`TRANSITION ${i} ${i + 1} ${SKIPPED}`)
  })
  if (loose) {
    for (const sound of SOUNDS) {
      dict.push(`x${sound.toLowerCase()} ${sound}`)
      for (let i = 0; i < states; i++) lines.push(`TRANSITION ${i} ${i} ${EXTRA} x${sound.toLowerCase()}`)
    }
  }
  lines.push('FSG_END', '')
  return { fsg: lines.join('\n'), dict: `${dict.join('\n')}\n`, owner }
}
