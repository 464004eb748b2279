/** So many of something, in words: `No places`, `1 place`, `12 places`. */
export const counted = (count: number, one: string): string => (count === 0 ? `No ${one}s` : `${count} ${one}${count === 1 ? '' : 's'}`)
