import { pronounced } from '../align/pronounce'
import { spoken } from '../align/spoken'
import { RATE, type Frames } from '../time'
import { plainWord } from './anchors'
import { withoutNotes } from './notes'

/**
 * How long a text takes to read aloud: by the sounds of what is said (figures, money, initials and addresses as they are spoken)
 * and by its pauses. The lengths come from a fit by least squares on 260 sentences in three synthetic voices (flite), rounded; what
 * they are worth on other lines and voices is measured by `npm run measure -- readtime`.
 */

const lasting = (seconds: number, sounds: string) => sounds.split(' ').map((sound): [string, number] => [sound, seconds])
/** Seconds that sounds last at NORMAL words a minute. */
const LENGTHS = new Map([
  ...lasting(0.035, 'UH'),
  ...lasting(0.04, 'N'),
  ...lasting(0.045, 'TH'),
  ...lasting(0.05, 'M V'),
  ...lasting(0.055, 'W'),
  ...lasting(0.06, 'IH JH'),
  ...lasting(0.065, 'HH'),
  ...lasting(0.07, 'AH AO D G K NG R'),
  ...lasting(0.075, 'AW EH F T'),
  ...lasting(0.08, 'AA L'),
  ...lasting(0.09, 'P UW'),
  ...lasting(0.095, 'B Z'),
  ...lasting(0.1, 'AE'),
  ...lasting(0.105, 'ER ZH'),
  ...lasting(0.11, 'S Y'),
  ...lasting(0.115, 'CH'),
  ...lasting(0.12, 'EY'),
  ...lasting(0.13, 'IY SH'),
  ...lasting(0.135, 'AY'),
  ...lasting(0.145, 'OW'),
  ...lasting(0.155, 'OY'),
])
/** A vowel that is not stressed lasts no longer. */
const MOST_UNSTRESSED = 0.09
/** One that is not among them. */
const OTHER_SOUND = 0.08
/** A pause within a text, at punctuation, with the lengthening before it; and the lengthening at its end. */
const PAUSE = 0.315
const END = 0.115

const isVowel = (sound: string) => /^[AEIOU]/.test(sound)
/** Vowels that are short where they are not stressed. */
const REDUCED = new Set(['ER', 'IY'])

/** Words that are hardly ever stressed: their vowel is short. */
const UNSTRESSED = new Set(
  (
    'a an and are as at be been but by can could did do for from had has have he her his i if in is it its me my no not of on or our ' +
    'she so than that the their them then there they this to us was we were which who will with would you'
  ).split(' '),
)

/** What most people who read for radio come to, in words a minute: where nothing is known of a reader. */
export const USUAL_PACE = 170
/** Words a minute of ordinary copy that takes the lengths above. */
const NORMAL = 196

/** Seconds at NORMAL that one spoken word takes. */
function wordSeconds(word: string): number {
  const sounds = pronounced(word)
  const vowels = sounds.filter(isVowel).length
  let nth = 0
  return sounds.reduce((sum, sound) => {
    if (isVowel(sound)) nth++
    const reduced = isVowel(sound) && (UNSTRESSED.has(word) || (vowels > 1 && nth > 1 && REDUCED.has(sound)))
    const length = LENGTHS.get(sound) ?? OTHER_SOUND
    return sum + (reduced ? Math.min(length, MOST_UNSTRESSED) : length)
  }, 0)
}

/** A full stop that ends no sentence: of an abbreviation, of initials. */
const NO_PAUSE = /^(?:mr|mrs|ms|dr|st|vs|(?:\p{L}\.)*\p{L})\.$/iu
/** A written word that is followed by a pause. */
const BEFORE_PAUSE = /[.,?!;:–—…]["'”’)\]]*$/

/** Where each written word of a text begins, in seconds at NORMAL from its first sound, and how long the whole is. */
interface Course {
  begins: number[]
  length: number
}

const known = new Map<string, Course>()
/** What is laid out at every letter is not worked out again; what was written long ago goes. */
const KNOWN_TEXTS = 2000

function courseOf(text: string): Course {
  const found = known.get(text)
  if (found) return found
  const written = withoutNotes(text).split(/\s+/).filter(Boolean)
  const course: Course = { begins: [], length: 0 }
  let pause = 0
  for (const word of written) {
    const said = spoken(word)
    if (said.length) course.length += pause
    if (plainWord(word)) course.begins.push(course.length)
    if (said.length) {
      course.length += said.reduce((sum, one) => sum + wordSeconds(one), 0)
      pause = 0
    }
    if (course.begins.length && (BEFORE_PAUSE.test(word) || !said.length) && !NO_PAUSE.test(word)) pause = PAUSE
  }
  if (course.begins.length) course.length += END
  if (known.size >= KNOWN_TEXTS) known.delete(known.keys().next().value!)
  known.set(text, course)
  return course
}

const framesAt = (seconds: number, pace: number): Frames => Math.round((seconds * NORMAL * RATE) / pace)

/** How long a text takes to read at a pace in words a minute of ordinary copy; notes in brackets take nothing. */
export const readingTime = (text: string, pace: number): Frames => framesAt(courseOf(text).length, pace)

/** The pace at which a text takes so long, in words a minute of ordinary copy; NaN for a text without words. */
export const paceOf = (text: string, time: Frames): number => {
  const { length } = courseOf(text)
  return length > 0 && time > 0 ? (length * NORMAL * RATE) / time : NaN
}

/** Where each of a text's words (see `plainWords`) begins, as shares (0 to 1) of its reading time. */
export function wordShares(text: string): number[] {
  const { begins, length } = courseOf(text)
  return begins.map((at) => at / length)
}

/** A line that was read, with the time that its words took. */
export interface Take {
  text: string
  time: Frames
}

/** Paces outside these are no reading of that text: the take says something else. */
const SLOWEST = 80
const FASTEST = 320
/** Less than this tells nothing of a reader. */
const LEAST: Frames = 2 * RATE

/** How fast somebody reads, from takes, in words a minute of ordinary copy; null where these are too short, or say something else. */
export function paceFrom(takes: readonly Take[]): number | null {
  const read = takes.filter(({ text, time }) => {
    const pace = paceOf(text, time)
    return pace >= SLOWEST && pace <= FASTEST
  })
  const time = read.reduce((sum, take) => sum + take.time, 0)
  if (time < LEAST) return null
  const normal = read.reduce((sum, take) => sum + courseOf(take.text).length, 0)
  return (normal * NORMAL * RATE) / time
}
