import { describe, expect, it } from 'vitest'
import type { Actuality } from '../edits/actuality'
import { plainJoin } from '../edits/editList'
import { lay } from '../page/lay'
import { newStory, type Block, type Hanger, type Lane } from '../page/story'
import { RATE } from '../time'
import { timelineOfPage, timelineOfPiece } from './timeline'

const s = RATE
const media = (tape: string) => ({ name: tape, url: `media/${tape}.wav`, start: 0, frames: 100 * s })
const piece = (spans: Actuality['spans']): Actuality => ({
  kind: 'actuality',
  slug: 'Nobody told us',
  speaker: 'Piet Aldous',
  role: '',
  story: null,
  spans,
  head: s / 2,
  tail: s / 2,
  gain: -2,
})
/** Two stretches of a tape across a crossfade, then room that was added, then a third. */
const nobody = piece([
  { tape: 'quay', from: 10 * s, to: 14 * s, sound: 'tape' },
  { tape: 'quay', from: 16 * s, to: 20 * s, sound: 'tape', join: { ...plainJoin(), fade: 480 } },
  { tape: 'quay', from: 20 * s, to: 21 * s, sound: 'room', join: plainJoin() },
  { tape: 'office', from: 3 * s, to: 5 * s, sound: 'tape', lowCut: 80, join: plainJoin() },
])

interface Item {
  OTIO_SCHEMA: string
  name: string
  source_range: { start_time: { value: number; rate: number }; duration: { value: number } }
  media_reference?: { target_url: string }
  in_offset?: { value: number }
  metadata: Record<string, Record<string, unknown>>
}
type Made = { tracks: { children: { name: string; children: Item[] }[] } }
const tracksOf = (made: object) => (made as Made).tracks.children
const told = (items: readonly Item[]) =>
  items.map(({ OTIO_SCHEMA, source_range: range, media_reference: of, in_offset: half }) =>
    OTIO_SCHEMA === 'Transition.1'
      ? `fade ${half!.value}`
      : `${of ? of.target_url : 'gap'} ${range.start_time.value / s}+${range.duration.value / s}`,
  )
const length = (items: readonly Item[]) =>
  items.reduce((sum, item) => sum + (item.OTIO_SCHEMA === 'Transition.1' ? 0 : item.source_range.duration.value), 0)

describe('an edit list for another workshop', () => {
  it('has the stretches of a piece in order, with its crossfades, and room as a gap that says whose', () => {
    const [voice, ...others] = tracksOf(timelineOfPiece(nobody, media))
    expect(others).toEqual([])
    expect(voice.name).toBe('Piet Aldous')
    expect(told(voice.children)).toEqual(['media/quay.wav 10+4', 'fade 240', 'media/quay.wav 16+4', 'gap 0+1', 'media/office.wav 3+2'])
    expect(voice.children[3].metadata['plain-cut']).toEqual({ gain_dB: -2, room: 'quay' })
    // what is done to a stretch is told with it: its sound is named as it was recorded
    expect(voice.children[4].metadata['plain-cut']).toEqual({ gain_dB: -2, low_cut_hertz: 80 })
  })

  it('has a page’s voices where they lie, on two tracks where handles overlap, and each lane beside them', () => {
    const block = (id: string, order: string): Block => ({
      id,
      kind: 'actuality',
      order,
      aside: false,
      text: '',
      reader: '',
      piece: id,
    })
    const lane: Lane = { id: 'lane', kind: 'lane', name: 'Quay', colour: 'tape', order: 'a0', locked: false, muted: false, gain: -3 }
    const bed: Hanger = {
      id: 'bed',
      kind: 'hanger',
      lane: 'lane',
      aside: false,
      plays: { tape: 'water', from: 2 * s, to: 8 * s },
      start: { at: 4 * s },
      end: null,
      gain: -9,
    }
    const story = newStory({ slug: 'Ferry' }, { id: 'out' }, [block('a', 'a0'), block('b', 'a1'), block('c', 'a2'), lane, bed])
    const [layout] = lay(story, { lengthOf: () => ({ length: 11 * s, head: s / 2, tail: s / 2 }) })
    const made = timelineOfPage('Ferry', layout, () => nobody, media)
    const tracks = tracksOf(made)
    expect(tracks.map(({ name }) => name)).toEqual(['Voices 1', 'Voices 2', 'Quay'])
    // words butt, so each clip begins a second before the one before it ends
    expect(told(tracks[1].children)[0]).toBe('gap 0+10')
    expect(length(tracks[0].children)).toBe(layout.file.length)
    expect(told(tracks[2].children)).toEqual(['gap 0+4', 'media/water.wav 2+6'])
    expect(tracks[2].children[1].metadata['plain-cut']).toEqual({ gain_dB: -12 })
    expect(JSON.parse(JSON.stringify(made))).toEqual(made)
  })
})
