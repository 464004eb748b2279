import { stemmer } from 'stemmer'
import { bare } from '../find/bare'

/** What a line of copy says already, so that the tape beside it need not. */

/** Words that carry no matter of their own. */
const SMALL = new Set(
  (
    'a an and or but so the this that these those there here of to in on at by for from with without into over under ' +
    'about as than then when where who whom whose what which why how is am are was were be been being do does did ' +
    'done has have had having will would shall should can could may might must not no nor never ever i you he she it ' +
    'we they me him her us them my your his its our their mine yours ours one some any all each both few more most ' +
    'other such only own same too very just now also again says said say tell tells told went go goes going get gets ' +
    'got well um uh er oh yes'
  ).split(' '),
)

/** A word without the endings that its forms differ by, so that `ferries` is `ferry` and `signed` is `signing` (Porter, 1980). */
const stem = (text: string): string => stemmer(bare(text).replace(/'s$|s'$/, ''))

const counts = (text: string): boolean => {
  const word = bare(text)
  return word !== '' && !SMALL.has(word) && (word.length > 2 || /\d/.test(word))
}

/**
 * Words of the tape that a line says too, as runs of them that lie beside each other: places in `tape`, `to` exclusive.
 * Small words between count in, at the ends they do not.
 */
export function saidAlready(copy: string, tape: readonly { text: string }[]): { from: number; to: number }[] {
  const said = new Set(copy.split(/\s+/).filter(counts).map(stem))
  const runs: { from: number; to: number }[] = []
  tape.forEach(({ text }, i) => {
    if (!counts(text) || !said.has(stem(text))) return
    const last = runs[runs.length - 1]
    if (last && tape.slice(last.to, i).every((word) => !counts(word.text))) last.to = i + 1
    else runs.push({ from: i, to: i + 1 })
  })
  return runs
}
