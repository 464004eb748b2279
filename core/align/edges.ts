import { clamp, milliseconds, type Frames, type Stretch } from '../time'
import { BANDS, HOP, SoundLooks } from './bands'

/**
 * Where a word really begins and ends, near to where an aligner put it. Beside silence it is where
 * the sound rises out of the room and sinks back into it; between two words that run into each
 * other it is where the spectrum changes most.
 */

/** Two words are apart where so much lies between them. */
const APART = milliseconds(40)
/** How far an edge beside silence is looked for: the aligner hears a word begin too early rather than too late. */
const OUT = milliseconds(60)
const IN = milliseconds(50)
/** How far one between two words is moved. */
const BETWEEN = milliseconds(14)
/** Above the room, as a share of what lies between the room and the word, in dB. */
const RISE = 0.12
const LEAST_RISE = 3
const AROUND = milliseconds(6)

export function refined(sound: Float32Array, words: readonly Stretch[]): Stretch[] {
  const levels = new SoundLooks(sound)
  const edges = words.map(({ from, to }) => ({ from, to }))
  edges.forEach((word, i) => {
    const before = words[i - 1]
    const apart = !before || words[i].from - before.to >= APART
    if (apart) word.from = onset(levels, words[i], before?.to ?? 0)
    else if (words[i].from - before.to <= HOP) {
      word.from = change(levels, words[i].from)
      edges[i - 1].to = word.from
    }
    const next = words[i + 1]
    if (!next || next.from - words[i].to >= APART) word.to = offset(levels, words[i], next?.from ?? sound.length)
  })
  // never past one another, never to nothing
  return edges.map(({ from, to }, i) => (to - from >= milliseconds(10) ? { from, to } : { from: words[i].from, to: words[i].to }))
}

const look = (levels: SoundLooks, frame: Frames): number => clamp(Math.round(frame / HOP), 0, levels.count - 1)

function quantile(levels: SoundLooks, from: number, to: number, share: number): number {
  const sorted = levels.level.slice(from, Math.max(from + 1, to)).sort()
  return sorted[Math.floor((sorted.length - 1) * share)]
}

/** The level that a sound must pass to be the word and not the room; null where the word does not stand out of it. */
function threshold(levels: SoundLooks, room: [Frames, Frames], word: Stretch): number | null {
  const floor = quantile(levels, look(levels, room[0]), look(levels, room[1]), 0.5)
  const top = quantile(levels, look(levels, word.from), look(levels, word.to), 0.9)
  return top - floor < 2 * LEAST_RISE ? null : floor + Math.max(LEAST_RISE, RISE * (top - floor))
}

function onset(levels: SoundLooks, word: Stretch, roomFrom: Frames): Frames {
  const limit = threshold(levels, [Math.max(roomFrom, word.from - milliseconds(300)), Math.max(roomFrom, word.from - milliseconds(20))], word)
  if (limit === null) return word.from
  const last = look(levels, Math.min(word.from + IN, word.to - milliseconds(20)))
  const first = look(levels, Math.max(roomFrom, word.from - OUT))
  // back from inside the word: the first look that is still the room
  let at = last
  while (at > first && levels.level[at - 1] >= limit) at--
  // inside a soft beginning there may be room before the word: forward to where it rises
  while (at < last && levels.level[at] < limit) at++
  return at === first && levels.level[first] >= limit ? word.from : at * HOP
}

function offset(levels: SoundLooks, word: Stretch, roomTo: Frames): Frames {
  const limit = threshold(levels, [Math.min(roomTo, word.to + milliseconds(20)), Math.min(roomTo, word.to + milliseconds(300))], word)
  if (limit === null) return word.to
  const first = look(levels, Math.max(word.to - IN, word.from + milliseconds(20)))
  const last = look(levels, Math.min(roomTo, word.to + OUT))
  let at = first
  while (at < last && levels.level[at + 1] >= limit) at++
  while (at > first && levels.level[at] < limit) at--
  return at === last && levels.level[last] >= limit ? word.to : at * HOP
}

/** Where the spectrum differs most between just before and just after, not far from `frame`. */
function change(levels: SoundLooks, frame: Frames): Frames {
  const by = Math.round(AROUND / HOP)
  let best = frame
  let most = 0
  for (let at = look(levels, frame - BETWEEN); at <= look(levels, frame + BETWEEN); at++) {
    if (at - by < 0 || at + by >= levels.count) continue
    const [early, late] = [levels.bands(at - by), levels.bands(at + by)]
    let difference = 0
    for (let band = 0; band < BANDS; band++) difference += (late[band] - early[band]) ** 2
    // nearer is likelier
    difference *= 1 - 0.5 * Math.abs((at * HOP - frame) / BETWEEN)
    if (difference > most) {
      most = difference
      best = at * HOP
    }
  }
  return best
}
