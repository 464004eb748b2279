/** Seeded randomness (xorshift32, Marsaglia 2003): the same seed gives the same numbers everywhere. */
export function random(seed: number): () => number {
  let state = seed | 0 || 0x9e3779b9
  return () => {
    state ^= state << 13
    state ^= state >>> 17
    state ^= state << 5
    return (state >>> 0) / 0x1_0000_0000
  }
}

/** A well mixed 32-bit number for a text and an index, for choices that must not depend on order. */
export function scramble(text: string, index: number): number {
  let hash = 0x811c9dc5 ^ index
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193)
  hash = Math.imul(hash ^ (hash >>> 16), 0x85ebca6b)
  hash = Math.imul(hash ^ (hash >>> 13) ^ index, 0xc2b2ae35)
  return (hash ^ (hash >>> 16)) >>> 0
}
