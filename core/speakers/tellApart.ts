import type { Stretch } from '../time'
import { COEFFICIENTS, LOOK, type VoiceLooks } from './features'
import { addLook, apart, emptyGaussian, likelihood, logDeterminant, merged, type Gaussian } from './gaussian'

/** A stretch in which one voice speaks; voices are numbered from 0 in the order in which they are first heard. */
export interface Turn extends Stretch {
  voice: number
}

/** Looks in a first piece of speech, in which one voice is taken to speak. */
const PIECE = 150
const LEAST_PIECE = 40
/** How far below the loudest a look still counts as speech. */
const DOWN = 28
/** What a further voice must bring; more makes fewer voices. */
const WEIGHT = 2.2
/** A voice that has less than so much of all speech, or fewer looks, is taken to be another speaker’s. */
const LEAST_SHARE = 0.02
const LEAST_LOOKS = 150
/** What it costs to change to another voice, against a look’s likelihood. */
const CHANGE = 60
const ROUNDS = 4

interface Cluster {
  gaussian: Gaussian
  log: number
}

const clusterOf = (gaussian: Gaussian): Cluster => ({ gaussian, log: logDeterminant(gaussian) })

/**
 * Tells voices on one channel apart: pieces of speech that sound alike are put together until no
 * two groups are likelier one voice than two, then the borders are drawn again by how likely each
 * look is under each voice (Viterbi), a few times over. `speech`: where somebody speaks.
 */
export function tellApart({ count, values, level }: VoiceLooks, speech: readonly Stretch[]): Turn[] {
  const loud = loudLooks(level, speech, count)
  const pieces = firstPieces(loud)
  if (!pieces.length) return []
  let clusters = pieces.map((looks) => clusterOf(looks.reduce((gaussian, look) => addLook(gaussian, values, look), emptyGaussian())))
  clusters = grouped(clusters)
  let voices: Int16Array = new Int16Array(loud.length)
  for (let round = 0; round < ROUNDS; round++) {
    voices = bestPath(loud, values, clusters)
    const again = clusters.map(() => emptyGaussian())
    loud.forEach((look, i) => (again[voices[i]] = addLook(again[voices[i]], values, look)))
    const least = Math.max(LEAST_LOOKS, LEAST_SHARE * loud.length)
    const kept = again.filter((gaussian) => gaussian.count >= least)
    if (!kept.length) return turnsOf(loud, voices.fill(0))
    clusters = grouped(kept.map(clusterOf))
  }
  return turnsOf(loud, bestPath(loud, values, clusters))
}

/** Looks at which somebody speaks, in order. */
function loudLooks(level: Float32Array, speech: readonly Stretch[], count: number): number[] {
  const inside: number[] = []
  for (const { from, to } of speech)
    for (let look = Math.ceil(from / LOOK); look < Math.min(count, Math.floor(to / LOOK)); look++) inside.push(look)
  const sorted = inside.map((look) => level[look]).sort((a, b) => b - a)
  const limit = (sorted[Math.floor(sorted.length * 0.05)] ?? 0) - DOWN
  return inside.filter((look) => level[look] > limit)
}

/** Runs of looks that lie together, none too long. */
function firstPieces(loud: readonly number[]): number[][] {
  const pieces: number[][] = []
  for (const look of loud) {
    const piece = pieces.at(-1)
    if (piece && piece.length < PIECE && look - piece[piece.length - 1] < 20) piece.push(look)
    else pieces.push([look])
  }
  return pieces.filter((piece) => piece.length >= LEAST_PIECE)
}

/** Puts together what is likelier one voice than two, the likeliest pair first. */
function grouped(start: readonly Cluster[]): Cluster[] {
  const clusters: (Cluster | null)[] = [...start]
  const nearest = clusters.map(() => ({ other: -1, by: Infinity }))
  const look = (i: number) => {
    nearest[i] = { other: -1, by: Infinity }
    const own = clusters[i]!
    clusters.forEach((other, j) => {
      if (!other || j === i) return
      const by = apart(own.gaussian, other.gaussian, own.log, other.log, WEIGHT)
      if (by < nearest[i].by) nearest[i] = { other: j, by }
    })
  }
  clusters.forEach((_, i) => look(i))
  // whose nearest was merged away has no nearer one left: what it was apart from that is a bound, and
  // it is looked at again only once it would be the next (to look at all at once takes the cube of them)
  const stale = clusters.map(() => false)
  for (;;) {
    let best = -1
    nearest.forEach(({ by }, i) => {
      if (clusters[i] && (best < 0 || by < nearest[best].by)) best = i
    })
    if (best < 0 || nearest[best].by >= 0) return clusters.filter((cluster) => cluster !== null)
    if (stale[best]) {
      look(best)
      stale[best] = false
      continue
    }
    const { other } = nearest[best]
    clusters[best] = clusterOf(merged(clusters[best]!.gaussian, clusters[other]!.gaussian))
    clusters[other] = null
    look(best)
    clusters.forEach((cluster, i) => {
      if (!cluster || i === best) return
      if (nearest[i].other === best || nearest[i].other === other) stale[i] = true
      const by = apart(cluster.gaussian, clusters[best]!.gaussian, cluster.log, clusters[best]!.log, WEIGHT)
      if (by <= nearest[i].by) {
        nearest[i] = { other: best, by }
        stale[i] = false
      }
    })
  }
}

/** The likeliest row of voices, where changing costs something. */
function bestPath(loud: readonly number[], values: Float32Array, clusters: readonly Cluster[]): Int16Array {
  const likely = clusters.map(({ gaussian }) => likelihood(gaussian))
  const from = new Int16Array(loud.length * clusters.length)
  let scores = clusters.map(() => 0)
  loud.forEach((look, i) => {
    const best = scores.indexOf(Math.max(...scores))
    // after a silence another speaker may well go on
    const change = i && look - loud[i - 1] > 25 ? CHANGE / 3 : CHANGE
    scores = scores.map((score, voice) => {
      const stays = score >= scores[best] - change
      from[i * clusters.length + voice] = stays ? voice : best
      return (stays ? score : scores[best] - change) + likely[voice](values, look) / Math.sqrt(COEFFICIENTS)
    })
  })
  const path = new Int16Array(loud.length)
  let voice = scores.indexOf(Math.max(...scores))
  for (let i = loud.length - 1; i >= 0; i--) {
    path[i] = voice
    voice = from[i * clusters.length + voice]
  }
  return path
}

function turnsOf(loud: readonly number[], voices: Int16Array): Turn[] {
  const order: number[] = []
  const turns: Turn[] = []
  loud.forEach((look, i) => {
    if (!order.includes(voices[i])) order.push(voices[i])
    const voice = order.indexOf(voices[i])
    const turn = turns.at(-1)
    if (turn?.voice === voice && look * LOOK - turn.to < 50 * LOOK) turn.to = (look + 1) * LOOK
    else turns.push({ from: look * LOOK, to: (look + 1) * LOOK, voice })
  })
  return turns
}
