import { describe, expect, it } from 'vitest'
import { STATE_NAMES } from '../library/filing'
import { COMMANDS } from './table'

/** One word for one thing: labels of the tables never use a word that we have another for. */
const NOT: [wrong: RegExp, use: string][] = [
  [/\bclips?\b/i, 'actuality, or piece'],
  [/\bhush/i, 'mute'],
  [/\bnicks?\b/i, 'join, or what was taken out'],
  [/\bspine\b/i, 'running order'],
  [/\bitems?\b/i, 'block'],
  [/\bbring in\b|\bwrite out\b|\bcame\b/i, 'import, export'],
  [/\bhear (it )?again\b/i, 'unmute, or bring back'],
  [/\bcall (it )?off\b/i, 'cancel'],
  [/\bgo on\b/i, 'resume'],
  [/\btake (it )?off\b|\btake away\b|\bforget\b|\bdrop\b|patches off/i, 'remove'],
  [/\btake back\b/i, 'restore, or put back'],
  [/\bclose up\b/i, 'close the gap'],
  [/\bwhat (goes|comes)\b/i, 'outgoing, incoming'],
  [/\brecogni[sz]e/i, 'transcribe'],
  [/\bvoices?\b(?! track)/i, 'speaker, or side'],
]

const labels = [...Object.values(COMMANDS).flatMap(({ title, group }) => [title, group]), ...Object.values(STATE_NAMES)]

describe('labels', () => {
  it.each(NOT)('never say %s: the word is %s', (wrong) => expect(labels.filter((label) => wrong.test(label))).toEqual([]))

  it('begin with a capital letter and do not end in a full stop', () => {
    const titles = Object.values(COMMANDS).map(({ title }) => title)
    expect(titles.filter((title) => !/^[A-Z].*[^.]$/.test(title))).toEqual([])
  })

  it('are short, and no two are the same', () => {
    const titles = Object.values(COMMANDS).map(({ title }) => title)
    expect(titles.filter((title) => title.length > 62)).toEqual([])
    expect(titles.filter((title, i) => titles.indexOf(title) !== i)).toEqual([])
  })
})
