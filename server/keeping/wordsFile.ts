import type { PackedTape } from '../../contract/storyFiles'
import { phrasesOf } from '../../core/find/phrases'
import { offRecord, tapeHead } from '../../core/tape/tape'
import { clock } from '../../core/time'
import { masked } from '../../core/transcript/masked'
import { wordsOf } from '../../core/transcript/transcript'

/**
 * What is said on a tape, for people and for searching: its name, then a line for each phrase with its time on the tape and
 * who says it. What is off the record is masked. Empty where nothing is said.
 */
export function wordsFile({ document, transcript }: PackedTape): string {
  const words = masked(wordsOf(transcript.body), offRecord(document.body))
  const phrases = phrasesOf(words).sort((a, b) => a.from - b.from)
  if (!phrases.length) return ''
  const lines = phrases.map(({ from, speaker, words: said }) => {
    const text = said.map((word) => word.text).join(' ')
    return `${clock(from)}  ${speaker ? `${speaker}: ` : ''}${text}`
  })
  return [tapeHead(document.body).name, '', ...lines, ''].join('\n')
}
