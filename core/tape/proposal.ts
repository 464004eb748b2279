import { plain, realDay, type Origin } from '../sound/waveFile'

/** What a tape may be called, by its file's name and what its recorder noted; the reporter decides. */
export interface Proposal {
  name: string
  /** Who speaks, as far as the name holds one. */
  speaker: string
  /** When it was recorded, as `2026-11-24`; empty where nothing says so. */
  day: string
}

/** One of several words, each written as in a regular expression. */
const oneOf = (words: string): string => `(${words.trim().split(/\s+/).join('|')})`

const OF_RECORDERS = oneOf(`rec recording audio voice memo new untitled track trk file mic line wav aufnahme sprachmemo msg img vid mvi
  dsc ch stereo mono mix take tk clip`)
const RECORDERS_OWN = new RegExp(`^${OF_RECORDERS}?\\d*$`, 'i')
const ORDINARY_WORDS = oneOf(`the a at on in of and with interview int phone call ambience atmos amb tone room street quay music bed part pt
  vox voice tracks? final copy raw edit side session meeting press conference`)
const ORDINARY = new RegExp(`^${ORDINARY_WORDS}$`, 'i')

export function propose(fileName: string, origin: Pick<Origin, 'date' | 'description'>): Proposal {
  const bare = plain(fileName).replace(/\.[^.\s]{1,5}$/, '')
  const { rest, day } = withoutDay(bare)
  const words = rest.split(/[_\s.,–—-]+/).filter((word) => word && !RECORDERS_OWN.test(word))
  const name = words.length
    ? rest.replace(/[_\s]+/g, ' ').replace(/^[\s.,–—-]+|[\s.,–—-]+$/g, '')
    : origin.description || bare.replace(/[_\s]+/g, ' ').trim() || 'Tape'
  // two words in a row that begin with a capital, neither of them an ordinary one, are somebody's name
  const at = words.findIndex((word, i) => isName(word) && isName(words[i + 1] ?? ''))
  return { name: name.slice(0, 200), speaker: at < 0 ? '' : `${words[at]} ${words[at + 1]}`, day: origin.date || day }
}

const isName = (word: string): boolean => /^\p{Lu}\p{Ll}+(['’]?\p{L}+)?$/u.test(word) && !ORDINARY.test(word)

/** A date in a name, written whole or short: 2026-11-24, 20261124, 261124. What is no day of the calendar is none. */
function withoutDay(text: string): { rest: string; day: string } {
  for (const pattern of [/(?<!\d)(20\d\d)[-_.]?(\d\d)[-_.]?(\d\d)(?!\d)/, /(?<!\d)(\d\d)(\d\d)(\d\d)(?!\d)/]) {
    const found = pattern.exec(text)
    if (!found) continue
    const [all, year, month, date] = found
    const day = `${year.length === 2 ? `20${year}` : year}-${month}-${date}`
    if (!realDay(day)) continue
    const rest = text.replace(all, ' ').replace(/[\s_.-]+(\d{6}|\d{4})(?=[\s_.-]|$)/, ' ')
    return { rest: rest.replace(/[\s_.-]{2,}/g, ' ').trim(), day }
  }
  return { rest: text, day: '' }
}
