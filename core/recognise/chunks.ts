import { toFrames, type Frames, type Stretch } from '../time'

/** Speech in pieces that a recogniser takes one at a time: as long as can be, cut where nobody speaks. */

const LONGEST = toFrames(24)
/** What surrounds speech goes along, so that no soft beginning or end is lost. */
const ROUND = toFrames(0.25)
/** Silence that is longer is left out. */
const GAP = toFrames(1.2)

/** `speech`: in order, none over another. */
export function chunksOf(speech: readonly Stretch[], length: Frames): Stretch[] {
  const chunks: Stretch[] = []
  let run: Stretch[] = []
  const close = () => {
    chunks.push(...divided(run))
    run = []
  }
  for (const stretch of speech) {
    if (run.length && stretch.from - run[run.length - 1].to > GAP) close()
    run.push(stretch)
  }
  close()
  return chunks.map(({ from, to }, i) => ({
    from: Math.max(0, chunks[i - 1]?.to ?? 0, from - ROUND),
    to: Math.min(length, chunks[i + 1]?.from ?? length, to + ROUND),
  }))
}

/** A run of speech in pieces that are short enough, cut at its widest gaps; in the middle of speech only where there is none. */
function divided(run: readonly Stretch[]): Stretch[] {
  if (!run.length) return []
  const [from, to] = [run[0].from, run[run.length - 1].to]
  if (to - from <= LONGEST) return [{ from, to }]
  if (run.length === 1) {
    const count = Math.ceil((to - from) / LONGEST)
    return Array.from({ length: count }, (_, i) => ({
      from: from + Math.round(((to - from) * i) / count),
      to: from + Math.round(((to - from) * (i + 1)) / count),
    }))
  }
  // the widest gap that leaves something worth cutting off on either side
  let best = 1
  let most = -1
  for (let i = 1; i < run.length; i++) {
    const gap = run[i].from - run[i - 1].to
    const edge = Math.min(run[i - 1].to - from, to - run[i].from, LONGEST / 2)
    const worth = gap * edge
    if (worth > most) {
      most = worth
      best = i
    }
  }
  return [...divided(run.slice(0, best)), ...divided(run.slice(best))]
}
