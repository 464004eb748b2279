import { clamp, milliseconds, RATE, type Frames, type Stretch } from '../time'
import { BANDS, LOOK_STEP, SoundLooks } from './bands'
import { lastsUnheard } from './lastSound'
import { Room, STANDS_OUT } from './room'

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

/** A word has ended where it is so far below its own loudest, in dB. */
const BELOW_OWN = 37
/** How much after where the aligner put it a word's end is looked for. */
const LATEST = milliseconds(450)
/** Without sound for so long it has ended; a stop inside the word is longer. */
const GAP = milliseconds(36)
const STOP_GAP = milliseconds(180)
/** A word that is longer may hold a pause. */
const SWALLOWED = milliseconds(600)
/** The room is listened to in so much before and after a word. */
const ROOM_BEFORE = milliseconds(3000)
const ROOM_AFTER = milliseconds(1500)
/** How fast tails fall, in dB a second, and how long one that nobody hears may be. */
const SLOPE_OVER = milliseconds(150)
const NEAR_END = milliseconds(20)
const COVERED_AFTER = milliseconds(16) / LOOK_STEP
const SLOWEST_FALL = 120
const FASTEST_FALL = 900
const LONGEST_HIDDEN = milliseconds(75)
const LONGEST_BREATH = milliseconds(90)
/** From this band on, some 1.9 kHz, a breathed sound is heard. */
const HIGH = 7

/** Edges of words in a sound; `lasts` are the sounds that they end with (ARPAbet), where that is known. */
export function refined(sound: Float32Array, words: readonly Stretch[], lasts: readonly (string | null)[] = []): Stretch[] {
  const levels = new SoundLooks(sound)
  const edges = words.map(({ from, to }) => ({ from, to }))
  edges.forEach((word, i) => {
    const before = words[i - 1]
    const apart = !before || words[i].from - before.to >= APART
    if (apart) word.from = onset(levels, words[i], before?.to ?? 0)
    else if (words[i].from - before.to <= LOOK_STEP) {
      word.from = change(levels, words[i].from)
      // where the word before has ended long before, it stays so
      if (edges[i - 1].to === before.to) edges[i - 1].to = word.from
    }
    const next = words[i + 1]
    if (!next || next.from - words[i].to >= APART) word.to = offset(levels, words[i], next?.from ?? sound.length, lasts[i] ?? null)
    else if (word.to - word.from > SWALLOWED) {
      // a pause that the aligner took for part of the word
      const end = offset(levels, words[i], next.from, lasts[i] ?? null)
      if (word.to - end > STOP_GAP) word.to = end
    }
  })
  // never past one another, never to nothing
  return edges.map(({ from, to }, i) => (to - from >= milliseconds(10) ? { from, to } : { from: words[i].from, to: words[i].to }))
}

const look = (levels: SoundLooks, frame: Frames): number => clamp(Math.round(frame / LOOK_STEP), 0, levels.count - 1)

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
  const limit = threshold(
    levels,
    [Math.max(roomFrom, word.from - milliseconds(300)), Math.max(roomFrom, word.from - milliseconds(20))],
    word,
  )
  if (limit === null) return word.from
  const last = look(levels, Math.min(word.from + IN, word.to - milliseconds(20)))
  const first = look(levels, Math.max(roomFrom, word.from - OUT))
  // back from inside the word: the first look that is still the room
  let at = last
  while (at > first && levels.level[at - 1] >= limit) at--
  // inside a soft beginning there may be room before the word: forward to where it rises
  while (at < last && levels.level[at] < limit) at++
  return at === first && levels.level[first] >= limit ? word.from : at * LOOK_STEP
}

/**
 * Where the last word before a pause ends. It has ended where none of its bands stands out of the room any more, or
 * where it has sunk far below its own loudest; what sounds after a gap is a breath or the room. A stop's gap inside
 * what the aligner took for the word is no end. Where noise hides the tail it is as long as it fell so far.
 */
function offset(levels: SoundLooks, word: Stretch, roomTo: Frames, lastSound: string | null): Frames {
  const room = new Room(levels, look(levels, word.from - ROOM_BEFORE), look(levels, word.to + ROOM_AFTER))
  const top = quantile(levels, look(levels, word.from), look(levels, word.to), 0.9)
  const least = top - BELOW_OWN
  const last = look(levels, Math.min(roomTo, word.to + LATEST))
  const aligned = look(levels, word.to)
  let end = look(levels, word.from + milliseconds(20))
  const heard = (at: number) => levels.level[at] >= least && room.over(at) >= STANDS_OUT
  if (!heard(end)) while (end < aligned && !heard(end)) end++
  if (!heard(end)) return word.to
  for (let at = end + 1; at <= last; at++) {
    if (heard(at)) end = at
    else if ((at - end) * LOOK_STEP > (at <= aligned ? STOP_GAP : GAP)) break
  }
  // where it is the room that is as loud, the tail may go on under it
  const covered = levels.level[Math.min(levels.count - 1, end + COVERED_AFTER)] >= least
  return Math.min(roomTo, end * LOOK_STEP + (covered ? hidden(levels, room, word, end, lastSound) : 0))
}

/**
 * How long a tail goes on under noise: in the band that is heard longest, as fast as it fell there until then, down to
 * where it would have ended. Of a breathed sound (s, f, th) noise may hide everything: then as long as such sounds last.
 */
function hidden(levels: SoundLooks, room: Room, word: Stretch, end: number, lastSound: string | null): Frames {
  const band = room.clearest(Math.max(0, end - Math.round(NEAR_END / LOOK_STEP)))
  const begin = Math.max(look(levels, word.from), end - Math.round(SLOPE_OVER / LOOK_STEP))
  const tail = Array.from({ length: end - begin + 1 }, (_, i) => room.smooth(begin + i, band))
  const inWord = Array.from({ length: Math.max(1, Math.floor((word.to - word.from) / LOOK_STEP / 4)) }, (_, i) =>
    room.smooth(look(levels, word.from) + 4 * i, band),
  ).sort((x, y) => x - y)
  const top = inWord[Math.floor((inWord.length - 1) * 0.9)]
  const last = tail[tail.length - 1]
  const left = last - (top - BELOW_OWN)
  if (left <= 0) return 0
  const most = Math.max(...tail)
  const since = tail.findLastIndex((level) => level >= most - 4)
  const seconds = Math.max(1, tail.length - 1 - since) * (LOOK_STEP / RATE)
  const fall = clamp((tail[since] - last) / seconds, SLOWEST_FALL, FASTEST_FALL)
  const dying = Math.round((left / fall) * RATE)
  const unheard = lastsUnheard(lastSound)
  if (unheard?.kind === 'stop') return Math.min(dying, unheard.length)
  if (unheard?.kind !== 'breathed') return Math.min(dying, LONGEST_HIDDEN)
  // what is heard last is its breath where it lies high; else all of the breath is under the noise
  return band >= HIGH ? Math.min(dying, LONGEST_BREATH) : Math.max(Math.min(dying, LONGEST_BREATH), unheard.length)
}

/** Where the spectrum differs most between just before and just after, not far from `frame`. */
function change(levels: SoundLooks, frame: Frames): Frames {
  const by = Math.round(AROUND / LOOK_STEP)
  let best = frame
  let most = 0
  for (let at = look(levels, frame - BETWEEN); at <= look(levels, frame + BETWEEN); at++) {
    if (at - by < 0 || at + by >= levels.count) continue
    const [early, late] = [levels.bands(at - by), levels.bands(at + by)]
    let difference = 0
    for (let band = 0; band < BANDS; band++) difference += (late[band] - early[band]) ** 2
    // nearer is likelier
    difference *= 1 - 0.5 * Math.abs((at * LOOK_STEP - frame) / BETWEEN)
    if (difference > most) {
      most = difference
      best = at * LOOK_STEP
    }
  }
  return best
}
