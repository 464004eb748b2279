import { describe, expect, it } from 'vitest'
import type { Actuality } from '../../core/edits/actuality'
import { nicks } from '../../core/edits/gone'
import { benchLayout } from '../../core/edits/benchLayout'
import { normal, plainJoin } from '../../core/edits/editList'
import { piecePlan } from '../../core/page/plan'
import type { TapeFacts } from '../../core/render/plan'
import { benchNicks, benchPlan, benchShades, benchWords, joinRows, originalPlan, takenOut } from './benchSheet'

const S = 48_000
const words = ['We', 'just,', 'um,', 'we', 'sat', 'there.'].map((text, i) => ({
  text,
  from: i * S,
  to: i * S + S / 2,
  speaker: 'Piet',
  ...(i === 2 ? { what: 'filler' as const } : {}),
}))
const piece: Actuality = {
  kind: 'actuality',
  slug: 'Sat there',
  speaker: 'Piet',
  role: '',
  story: null,
  head: 0,
  tail: S / 2,
  spans: normal([
    { tape: 't', from: 0, to: 1.8 * S, sound: 'tape' },
    { tape: 't', from: 2.8 * S, to: 4.6 * S, sound: 'tape', join: plainJoin() },
    { tape: 't', from: 4.6 * S, to: 4.9 * S, sound: 'tone', join: plainJoin() },
    { tape: 't', from: 4.9 * S, to: 6 * S, sound: 'tape', join: plainJoin() },
  ]),
}
const facts = (): TapeFacts => ({
  id: 't',
  frames: 10 * S,
  sides: [{ name: '', channels: [0] }],
  tone: { sound: 't', quiet: [{ from: 7 * S, to: 9 * S }] },
})
const gone = nicks(piece)

describe('the Bench’s Sheet', () => {
  it('shows the words that are kept, and what went where a nick is open', () => {
    const shut = benchWords(piece, benchLayout(piece.spans, []), () => words)
    expect(shut.shown.map((word) => word.text)).toEqual(['We', 'just,', 'we', 'sat', 'there.'])
    const open = benchWords(piece, benchLayout(piece.spans, [gone[0]]), () => words)
    expect(open.shown.map((word) => `${word.text}${word.look === 'gone' ? '×' : ''}`)).toEqual([
      'We',
      'just,',
      'um,×',
      'we',
      'sat',
      'there.',
    ])
    expect(open.shown.every((word, i) => i === 0 || word.at >= open.shown[i - 1].end)).toBe(true)
  })
  it('shows what is muted and who is hushed in its place, as not heard', () => {
    const shownOf = (body: Actuality) => benchWords(body, benchLayout(body.spans, []), () => words)
    const looks = ({ shown }: ReturnType<typeof shownOf>) => shown.map((word) => `${word.text}${word.look === 'gone' ? '×' : ''}`)
    const muted = shownOf({ ...piece, spans: [{ ...piece.spans[0], mute: true }, ...piece.spans.slice(1)] })
    expect(looks(muted)).toEqual(['We×', 'just,×', 'we', 'sat', 'there.'])
    expect(muted.kept.map(({ text }) => text)).toEqual(['we', 'sat', 'there.'])
    const hushed = shownOf({ ...piece, sides: { t: [{ name: 'Piet', channels: [0], hush: [{ from: S, to: 2 * S }] }] } })
    expect(looks(hushed)).toEqual(['We', 'just,×', 'we', 'sat', 'there.'])
    expect(hushed.shown.map(({ at }) => at)).toEqual(shownOf(piece).shown.map(({ at }) => at))
  })
  it('names joins by the words on either side', () => {
    const { kept } = benchWords(piece, benchLayout(piece.spans, []), () => words)
    expect(joinRows(piece, kept).map((row) => `${row.before} / ${row.after}`)).toEqual([
      'just, / we',
      'sat / held time',
      'held time / there.',
    ])
    expect(takenOut(gone[0], () => words)).toBe('um,')
    expect(takenOut({ ...gone[0], parts: [{ tape: gone[0].tape, from: 3.5 * S, to: 3.9 * S }] }, () => words)).toBe('a pause')
  })
  it('makes room for open nicks in wave, shades and strokes', () => {
    const layout = benchLayout(piece.spans, [gone[0]])
    const plan = benchPlan(piecePlan(piece, facts), layout, facts)
    expect(plan.length).toBe(layout.length)
    expect(Math.max(...plan.strips.map((strip) => strip.at + strip.length))).toBe(layout.length)
    expect(benchShades(layout).map((shade) => shade.look)).toEqual(['gone', 'tone'])
    expect(benchNicks(piece, layout, gone[0].at)).toHaveLength(4)
  })
  it('draws the outline of the tape only where the piece sounds otherwise', () => {
    const plan = originalPlan(piece, benchLayout(piece.spans, []), facts)
    expect(plan.strips.map((strip) => strip.from)).toEqual([4.9 * S]) // under the tail’s fade
  })
})
