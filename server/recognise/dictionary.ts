import { readFileSync } from 'node:fs'
import type { Dictionary } from '../../core/align/pronounce'
import { MODEL } from './sphinx'

let text: string | null = null
let ways: Map<string, string[]> | null = null

const all = (): string => (text ??= `\n${readFileSync(`${MODEL}/cmudict-en-us.dict`, 'utf8')}`)

function read(): Map<string, string[]> {
  const found = new Map<string, string[]>()
  for (const line of all().split('\n')) {
    const blank = line.indexOf(' ')
    if (blank < 0) continue
    const bracket = line.lastIndexOf('(', blank)
    const name = line.slice(0, bracket > 0 ? bracket : blank)
    const known = found.get(name)
    if (known) known.push(line.slice(blank + 1))
    else found.set(name, [line.slice(blank + 1)])
  }
  return found
}

/** The ways to say one word: the lines `word`, `word(2)` and so on. */
function lookedUp(word: string): string[] {
  const found: string[] = []
  for (let n = 1; ; n++) {
    const start = `\n${word}${n > 1 ? `(${n})` : ''} `
    const at = all().indexOf(start)
    if (at < 0) return found
    found.push(all().slice(at + start.length, all().indexOf('\n', at + 1)))
  }
}

/** To read all of it takes a quarter of a second, which whoever corrects a word would wait for. */
const FEW = 100
let asked = 0

/** The CMU dictionary that comes with the recogniser's model: looked up in for a few words, read for more. */
export const dictionary: Dictionary = (word) => (ways || ++asked > FEW ? ((ways ??= read()).get(word) ?? []) : lookedUp(word))

/** All words that it has. */
export const dictionaryWords = (): string[] => [...(ways ??= read()).keys()]
