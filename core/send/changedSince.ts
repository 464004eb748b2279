import { clock, RATE, type Frames } from '../time'

/** What a file was made of, kept with its receipt, so that it can be told what changed since. */
export interface MadeOf {
  /** A hash of all that sounds: where it is the same, so is the sound. */
  sound: string
  length: Frames
  /** In the order in which they are heard. */
  parts: readonly Part[]
}

/** A block of a page, or the piece or tape that was sent by itself. */
export interface Part {
  id: string
  name: string
  /** How long its words are. */
  words: Frames
  /** What is played in it, and its version; null for copy without a voice track. */
  piece: string | null
  revision: number
  /** A hash of what is played in it; empty where nothing is. */
  sound: string
}

/** Half a tenth: what is shorter is not seen in a length. */
const SEEN: Frames = Math.round(RATE / 20)

/** What changed from one to the other, a line each, in the order of the page; empty where it would be the same sound. */
export function changedSince(then: MadeOf, now: MadeOf): string[] {
  if (then.sound === now.sound) return []
  const before = new Map(then.parts.map((part) => [part.id, part]))
  const after = new Set(now.parts.map(({ id }) => id))
  const lines = [
    ...then.parts.filter(({ id }) => !after.has(id)).map((part) => `${quoted(part)} is out.`),
    ...now.parts.flatMap((part) => {
      const old = before.get(part.id)
      return old ? inPart(old, part) : [`${quoted(part)} is new.`]
    }),
    ...moved(then, now),
  ]
  const by = now.length - then.length
  if (Math.abs(by) >= SEEN) lines.push(`The whole is ${longer(by)}.`)
  return lines.length ? lines : ['Levels, fades or what lies under it: it has the same parts, and sounds otherwise.']
}

const quoted = ({ name }: Part): string => `“${name || 'Untitled'}”`
const longer = (by: Frames): string => `${clock(Math.abs(by))} ${by > 0 ? 'longer' : 'shorter'}`

function inPart(then: Part, now: Part): string[] {
  const by = now.words - then.words
  const length = Math.abs(by) >= SEEN ? `, ${longer(by)}` : ''
  if (then.piece !== now.piece)
    return [
      then.piece && now.piece
        ? `${quoted(now)} has another piece${length}.`
        : `${quoted(now)} ${now.piece ? 'got' : 'lost'} its voice track${length}.`,
    ]
  if (then.sound !== now.sound) return [`${quoted(now)} was edited${length || ', at the same length'}.`]
  return length ? [`${quoted(now)} is ${longer(by)}.`] : []
}

/** Parts that both have, and that come elsewhere among them: those outside the longest run that kept its order. */
function moved(then: MadeOf, now: MadeOf): string[] {
  const place = new Map(then.parts.map(({ id }, i) => [id, i]))
  const both = now.parts.filter(({ id }) => place.has(id))
  const places = both.map(({ id }) => place.get(id)!)
  const lengths = places.map(() => 1)
  const from = places.map(() => -1)
  for (let i = 0; i < places.length; i++)
    for (let k = 0; k < i; k++) if (places[k] < places[i] && lengths[k] + 1 > lengths[i]) [lengths[i], from[i]] = [lengths[k] + 1, k]
  const kept = new Set<number>()
  for (let i = lengths.indexOf(Math.max(...lengths)); i >= 0; i = from[i]) kept.add(i)
  return both.filter((_part, i) => !kept.has(i)).map((part) => `${quoted(part)} comes elsewhere.`)
}
