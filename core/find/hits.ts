/** How a word may read where it is found: as it was asked for first, then what is near it or sounds like it. */
export interface Wanted {
  word: string
  /** It may go on: the last word of what is still being typed. */
  open: boolean
  alternatives: ReadonlySet<string>
}

export interface Hit {
  /** Where in the phrase it begins. */
  at: number
  /** All of it reads as it was asked for. */
  exact: boolean
}

const reads = (said: string, { word, open }: Wanted): boolean => said === word || (open && said.startsWith(word))

/** The places in a phrase where the wanted words follow one another and begin within its own `own` words. */
export function hitsIn(said: readonly string[], own: number, wanted: readonly Wanted[]): Hit[] {
  const hits: Hit[] = []
  for (let at = 0; at < own && at + wanted.length <= said.length; at++) {
    let exact = true
    const there = wanted.every((one, i) => {
      const word = said[at + i]
      if (reads(word, one)) return true
      exact = false
      return one.alternatives.has(word)
    })
    if (there) hits.push({ at, exact })
  }
  return hits
}
