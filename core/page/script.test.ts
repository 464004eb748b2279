import { describe, expect, it } from 'vitest'
import { withoutNotes } from './notes'
import { quotedIn, readScript } from './script'
import { wordsOf } from './timing'
import type { Block } from './story'

const SCRIPT = `HOST: The last boat to Brackle left at midnight.

Twenty to twelve, and the ticket office is dark. [winch, up and under]

Piet Aldous: “Nobody told us. Nobody told anybody.”

“There is no boat till six.”

Tamsin Roe: The council says one thing: eleven minutes.

The council answers as follows, and at some length: nothing has been decided.

SOC: For Brackle Sound, this is Tamsin Roe.`

describe('a script from elsewhere', () => {
  it('is read as blocks, by what stands before a colon and by its quotation marks', () => {
    expect(readScript(SCRIPT, 'Tamsin Roe').map(({ kind, text, speaker }) => [kind, speaker, text.slice(0, 24)])).toEqual([
      ['intro', '', 'The last boat to Brackle'],
      ['copy', '', 'Twenty to twelve, and th'],
      ['actuality', 'Piet Aldous', 'Nobody told us. Nobody t'],
      ['actuality', '', 'There is no boat till si'],
      ['copy', 'Tamsin Roe', 'The council says one thi'],
      ['copy', '', 'The council answers as f'],
      ['soc', '', 'For Brackle Sound, this '],
    ])
  })

  it('counts no note in brackets', () => {
    expect(withoutNotes('It is dark. [winch, up] Nobody waits.').split(/\s+/)).toHaveLength(5)
    const block = { text: 'It is dark. [winch, up and under] Nobody waits.' } as Block
    expect(wordsOf(block)).toEqual(['it', 'is', 'dark', 'nobody', 'waits'])
  })

  it('finds the piece that says what is quoted, though not word for word', () => {
    const pieces = ['we sat there with the engine running', 'um nobody told us nobody had told anybody', 'no boat till six']
    const words = (one: string) => one.split(' ')
    expect(quotedIn('Nobody told us. Nobody told anybody.', pieces, words)).toBe(pieces[1])
    expect(quotedIn('Eleven passengers a night.', pieces, words)).toBeNull()
  })
})
