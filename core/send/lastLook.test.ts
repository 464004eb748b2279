import { describe, expect, it } from 'vitest'
import type { Actuality } from '../edits/actuality'
import { plainJoin, type Span } from '../edits/editList'
import type { PieceWord } from '../edits/pieceWords'
import { lay } from '../page/lay'
import { newStory, type Block, type StoryDocument } from '../page/story'
import type { Strip } from '../render/plan'
import { RATE } from '../time'
import { askedOfLevels, askedOfLoudness, askedOfPage, askedOfPiece, askedOfSilence, silencesIn } from './lastLook'

const s = RATE
const span = (from: number, to: number, more: Partial<Span> = {}): Span => ({
  tape: 'quay',
  from: from * s,
  to: to * s,
  sound: 'tape',
  ...more,
})
const piece = (spans: Span[]): Actuality => ({
  kind: 'actuality',
  slug: 'Nobody told us',
  speaker: '',
  role: '',
  story: null,
  spans,
  head: 0,
  tail: 0,
})
const word = (text: string, at: number, checked?: true): PieceWord =>
  ({
    text,
    from: at * s,
    to: (at + 1) * s,
    at: at * s,
    end: (at + 1) * s,
    tape: 'quay',
    speaker: '',
    ...(checked ? { checked } : {}),
  }) as PieceWord

describe('of a piece', () => {
  it('joins that nobody has played, and the first of them', () => {
    const spans = [span(0, 2), span(4, 6, { join: { ...plainJoin(), heard: true } }), span(8, 9, { join: plainJoin() })]
    expect(askedOfPiece('p', piece(spans), [])).toEqual([
      { text: '1 join of “Nobody told us” not played yet.', at: { piece: 'p', frame: 4 * s } },
    ])
  })

  it('cues that nobody has checked, noises apart', () => {
    const words = ['the', 'last', 'boat', 'left', 'at', 'midnight'].map((text, i) => word(text, i, i < 4 ? true : undefined))
    expect(askedOfPiece('p', piece([span(0, 6)]), words)).toEqual([
      { text: 'Out cue of “Nobody told us” not checked by ear.', at: { piece: 'p', frame: 2 * s } },
    ])
    expect(
      askedOfPiece(
        'p',
        piece([span(0, 6)]),
        words.map((one) => ({ ...one, checked: true })),
      ),
    ).toEqual([])
  })

  it('pauses that went though they may be the story, and not those that stayed', () => {
    const heard = { ...plainJoin(), heard: true }
    const gone = (from: number, more: object) => ({
      tape: 'quay',
      from: from * s,
      proposes: { do: 'takeOut' as const, goes: { from: from * s, to: (from + 2) * s }, room: 0 },
      story: true as const,
      decision: { is: 'applied' as const, by: 'x', at: '' },
      ...more,
    })
    const spans = [span(0, 2), span(4, 6, { join: heard })]
    const asked = askedOfPiece('p', piece(spans), [], [gone(2, {}), gone(9, { decision: null }), gone(11, { story: undefined })])
    expect(asked).toEqual([
      { text: '1 pause of “Nobody told us” cut that may be the story.', at: { piece: 'p', frame: expect.closeTo(2 * s, -1) } },
    ])
  })

  it('passages that are muted, for all or for a side', () => {
    const spans = [span(0, 2), span(2, 3, { mute: true }), span(3, 4, { mutes: [null, true] }), span(4, 5, { mutes: [false, null] })]
    expect(askedOfPiece('p', piece(spans), []).map(({ text }) => text)).toContain(
      '2 passages of “Nobody told us” muted, for all or for one side.',
    )
  })
})

describe('of a page', () => {
  const block = (id: string, order: string, more: Partial<Block>): Block => ({
    id,
    kind: 'copy',
    order,
    aside: false,
    text: '',
    reader: '',
    piece: null,
    ...more,
  })
  const pageOf = (blocks: Block[], slot: number): StoryDocument => newStory({ slug: 'Ferry' }, { id: 'out', slot }, blocks)
  const look = (story: StoryDocument, sent: number | null, file: number) =>
    askedOfPage(story, lay(story, { lengthOf: () => ({ length: 20 * s, head: 0, tail: 0 }) })[0], sent, file).map(({ text }) => text)
  const act = block('act', 'a0', { kind: 'actuality', piece: 'p' })
  const soc = block('soc', 'a9', { kind: 'soc', piece: 'q', text: 'Tamsin Roe, Brackle' })

  it('nothing, where all is voiced, on time, and signed off', () => {
    expect(look(pageOf([act, soc], 40 * s), 40 * s, 40 * s)).toEqual([])
  })

  it('its length against the slot and against what was sent last', () => {
    expect(look(pageOf([act, soc], 38 * s), 43.4 * s, 40 * s)).toEqual([
      '2.0 s over its slot of 0:38.0.',
      '3.4 s shorter than when it was sent last.',
    ])
  })

  it('copy without a voice track, by its first words, and a missing sign-off', () => {
    const line = block('line', 'a1', { text: 'The last boat left at midnight and nobody knew' })
    expect(look(pageOf([act, line], 0), null, 20 * s)).toEqual([
      'No voice track: “The last boat left at midnight …”',
      'No standard out cue.',
    ])
  })
})

it('digital silence is where no strip lies', () => {
  const strip = (at: number, length: number) => ({ at: at * s, length: length * s }) as Strip
  const silences = silencesIn({ length: 10 * s, channels: 1, strips: [strip(3, 4), strip(0, 2), strip(1, 1.99)] })
  expect(silences).toEqual([{ from: 7 * s, to: 10 * s }])
  expect(askedOfSilence(silences)[0].text).toBe('Digital silence at 0:07.0, for 3.0 s.')
})

it('loudness is asked of where it is off its target by more than half a unit, and true peak where it is too high', () => {
  expect(askedOfLoudness({ loudness: -22.6, truePeak: -1 }, -23)).toEqual([])
  expect(askedOfLoudness({ loudness: -20.5, truePeak: -0.2 }, -23).map(({ text }) => text)).toEqual([
    '2.5 LU louder than its target of −23.0 LUFS.',
    'True peak −0.2 dBTP: over −1.0.',
  ])
  expect(askedOfLoudness({ loudness: -12, truePeak: -3 }, null)).toEqual([])
})

it('voices that jump by more than 3 LU are named', () => {
  const row = [-24, -22, -26.5, -26].map((loudness, i) => ({ block: `b${i}`, name: `Cut ${i}`, loudness }))
  expect(askedOfLevels(row)).toEqual([{ text: '“Cut 2” is 4.5 LU softer than what comes before.', at: { block: 'b2' } }])
})
