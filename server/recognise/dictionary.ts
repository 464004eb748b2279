import { readFileSync } from 'node:fs'
import type { Dictionary } from '../../core/align/grammar'
import { MODEL } from './sphinx'

let ways: Map<string, string[]> | null = null

function read(): Map<string, string[]> {
  const found = new Map<string, string[]>()
  for (const line of readFileSync(`${MODEL}/cmudict-en-us.dict`, 'utf8').split('\n')) {
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

/** The CMU dictionary that comes with the recogniser's model; read once, when it is first wanted. */
export const dictionary: Dictionary = (word) => (ways ??= read()).get(word) ?? []

/** All words that it has. */
export const dictionaryWords = (): string[] => [...(ways ??= read()).keys()]
