/** Sounds that are easily taken for one another. */
const KINDS = [
  'P B',
  'T D',
  'K G',
  'F V TH DH',
  'S Z',
  'SH ZH CH JH',
  'M N NG',
  'L R',
  'W V',
  'IY IH EY',
  'EH AE AH',
  'AA AO AH OW',
  'UW UH',
  'ER R AH',
  'IH EH AH',
  'D DH',
  'T TH',
  'P F',
  'AY AA',
  'AW AO',
  'OY AO',
].map((kind) => new Set(kind.split(' ')))
export const alike = (a: string, b: string): boolean => KINDS.some((kind) => kind.has(a) && kind.has(b))

/** The cost of making one row of sounds into another: a like sound costs less than another one. */
export function soundDistance(a: readonly string[], b: readonly string[]): number {
  let row = Array.from({ length: b.length + 1 }, (_, j) => j)
  for (let i = 1; i <= a.length; i++) {
    const next = [i]
    for (let j = 1; j <= b.length; j++) {
      const same = a[i - 1] === b[j - 1] ? 0 : alike(a[i - 1], b[j - 1]) ? 0.4 : 1
      next[j] = Math.min(row[j - 1] + same, row[j] + 1, next[j - 1] + 1)
    }
    row = next
  }
  return row[b.length]
}
