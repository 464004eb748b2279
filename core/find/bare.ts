/** A word as it is looked for: small letters and digits alone, accents off. `It’s` is `it's`. */
export const bare = (text: string): string => (PLAIN.test(text) ? text : stripped(text))

/** Most words are so already. */
const PLAIN = /^[a-z0-9]+(?:'[a-z0-9]+)*$/

const stripped = (text: string): string =>
  text
    .normalize('NFKD')
    .toLowerCase()
    .replaceAll('’', "'")
    .replace(/[^\p{L}\p{N}']+/gu, '')
    .replace(/^'+|'+$/g, '')
