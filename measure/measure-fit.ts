import type { Actuality } from '../core/edits/actuality'
import { clipLength } from '../core/edits/actuality'
import { pieceWords } from '../core/edits/pieceWords'
import { fitted } from '../core/fit/apply'
import { harmOf, RANKS, type Change } from '../core/fit/change'
import { fit } from '../core/fit/fit'
import { offers, type FitBlock } from '../core/fit/offers'
import { lay } from '../core/page/lay'
import { newStory, storyType, type Block, type StoryDocument, type StoryStep } from '../core/page/story'
import { random } from '../core/sound/random'
import { applyAll } from '../core/steps/document'
import type { Word } from '../core/tape/words'
import { RATE, toFrames } from '../core/time'
import { percentile, report } from './figure'

/** Pages over or under their slots by 2 to 12 s, from a fixed seed: how many are brought there, how exactly, with how much harm. */

const PAGES = 60
const OUT_OF_REACH = 5
/** Of a page with few changes, every set of them can be tried. */
const SMALL = 12
const VOCABULARY = (
  'the boat night quay harbour nobody told us and they would be standing on a board with engine running council says eleven minutes ' +
  'island mother nurses shift fish plant ferry counted passengers regatta moorings'
).split(' ')
const next = random(77)
const below = (limit: number) => Math.floor(next() * limit)

/** Sentences with a speaker's pauses and now and then an um, from `at` on. */
function speech(at: number, sentences: number): Word[] {
  const words: Word[] = []
  let now = at
  for (let i = 0; i < sentences; i++) {
    const count = 4 + below(9)
    for (let k = 0; k < count; k++) {
      if (next() < 0.06) {
        now += toFrames(0.15 + 0.2 * next())
        words.push({ text: 'um', from: now, to: now + toFrames(0.3), what: 'filler' })
        now += toFrames(0.35 + 0.3 * next())
      }
      const length = toFrames(0.2 + 0.3 * next())
      const text = VOCABULARY[below(VOCABULARY.length)]
      words.push({ text: k === count - 1 ? `${text}.` : text, from: now, to: now + length })
      now += length + toFrames(next() < 0.15 ? 0.3 + 0.5 * next() : 0.03)
    }
    now += toFrames(0.3 + 0.9 * next())
  }
  return words
}

interface Page {
  story: StoryDocument
  pieces: Map<string, Actuality>
  words: ReadonlyMap<string, readonly Word[]>
}

function page(count: number): Page {
  const pieces = new Map<string, Actuality>()
  const words = new Map<string, Word[]>()
  const blocks = Array.from({ length: count }, (_, i): Block => {
    const kind = i === 0 ? 'intro' : i % 4 === 3 ? 'full' : i % 2 ? 'copy' : 'actuality'
    const text = Array.from({ length: 12 + below(16) }, (_, k) => VOCABULARY[below(VOCABULARY.length)] + (k % 9 === 8 ? '.' : '')).join(' ')
    const recorded = kind === 'actuality' || kind === 'full' || (kind === 'copy' && next() < 0.7)
    if (recorded) {
      const tape = `tape ${i}`
      const said = speech(RATE, kind === 'actuality' ? 3 + below(3) : 2)
      words.set(tape, kind === 'full' ? [] : said)
      const to = kind === 'full' ? RATE + toFrames(3 + 4 * next()) : said[said.length - 1].to
      pieces.set(tape, {
        kind: 'actuality',
        slug: tape,
        speaker: '',
        role: '',
        story: null,
        spans: [{ tape, from: RATE / 2, to: to + RATE / 2, sound: 'tape' }],
        head: RATE / 2,
        tail: RATE / 2,
      })
    }
    return {
      id: `block ${i}`,
      kind,
      order: `a${String.fromCharCode(97 + i)}`,
      aside: false,
      text: kind === 'copy' || kind === 'intro' ? text : '',
      reader: '',
      pace: 170,
      piece: recorded ? `tape ${i}` : null,
      ...(i && next() < 0.3 ? { gap: toFrames(0.5 * next()) } : {}),
    }
  })
  return { story: newStory({ slug: '' }, { id: 'out' }, blocks), pieces, words }
}

const lengthIn = (pieces: ReadonlyMap<string, Actuality>) => (id: string) => {
  const found = pieces.get(id)
  return found && { length: clipLength(found), head: found.head, tail: found.tail }
}
const airOf = ({ story, pieces }: Pick<Page, 'story' | 'pieces'>) => lay(story, { lengthOf: lengthIn(pieces) })[0].air

function blocksOf({ story, pieces, words }: Page): FitBlock[] {
  return airOf({ story, pieces }).placed.map((row) => {
    const body = row.block.piece ? pieces.get(row.block.piece) : undefined
    const said = body ? pieceWords(body.spans, (tape) => words.get(tape) ?? []) : []
    return {
      row,
      piece: body ? { ...lengthIn(pieces)(row.block.piece!)!, words: said, beyond: toFrames(10) } : null,
      guest: row.block.kind === 'actuality',
    }
  })
}

/** The page with changes carried out. */
function done(before: Page, changes: readonly Change[], room: number): Page {
  const pieces = new Map(before.pieces)
  const order = airOf(before).placed
  const steps = fitted(order, changes, (id) => before.pieces.get(id), room).flatMap((one): StoryStep[] => {
    if (!one.piece) return one.steps
    pieces.set(`${one.block} fitted`, one.piece)
    return [...one.steps, { type: 'set', id: one.block, key: 'piece', value: `${one.block} fitted` }]
  })
  return { ...before, story: applyAll(storyType, before.story, steps), pieces }
}

const harm = (changes: readonly Change[]) => changes.reduce((sum, change) => sum + harmOf(change), 0)

/**
 * The least harm of any set of changes that reaches the need, what can be done in parts reduced where that does the most harm. As the
 * rule has it, no change counts whose rank is later than need be.
 */
function leastHarm(offered: readonly Change[], need: number): number {
  const totals = RANKS.map((_, i) => offered.reduce((sum, { rank, saves }) => sum + (RANKS.indexOf(rank) <= i ? saves : 0), 0))
  const last = totals.findIndex((total) => total >= need)
  const changes = offered.filter(({ rank }) => RANKS.indexOf(rank) <= last)
  const sign = Math.sign(need)
  let best = Infinity
  for (let set = 1; set < 1 << changes.length; set++) {
    const some = changes.filter((_, i) => set & (1 << i))
    let over = some.reduce((sum, { saves }) => sum + sign * saves, 0) - Math.abs(need)
    if (over < 0) continue
    let sum = harm(some)
    for (const change of some
      .filter(({ partly }) => partly)
      .sort((a, b) => harmOf(b) / Math.abs(b.saves) - harmOf(a) / Math.abs(a.saves))) {
      const back = Math.min(over, Math.abs(change.saves))
      sum -= harmOf({ ...change, saves: back })
      over -= back
    }
    best = Math.min(best, sum)
  }
  return best
}

let [found, refused, wrong, over] = [0, 0, 0, 0]
const times: number[] = []
const ratios: number[] = []
for (let i = 0; i < PAGES; i++) {
  const one = page(10 + below(8))
  const need = (next() < 0.7 ? 1 : -1) * toFrames(2 + 10 * next())
  const length = airOf(one).length
  const start = performance.now()
  const { changes, missing, tooMuch } = fit(offers(blocksOf(one), need > 0), need)
  times.push((performance.now() - start) / 1000)
  const after = airOf(done(one, changes, tooMuch)).length
  if (!missing) found++
  // what the plan promises is what the page comes to
  if (length - after !== need - Math.sign(need) * missing) wrong++
  if (after > length - need + (need > 0 ? missing : 0)) over++
}
for (let i = 0; i < OUT_OF_REACH; i++) {
  const one = page(6)
  const offered = offers(blocksOf(one), true)
  const most = offered.reduce((sum, { saves }) => sum + saves, 0)
  if (fit(offered, most + toFrames(1 + i)).missing === toFrames(1 + i)) refused++
}
for (let i = 0; i < 40; i++) {
  const one = page(5)
  const offered = offers(blocksOf(one), true).slice(0, SMALL)
  const most = offered.reduce((sum, { saves }) => sum + saves, 0)
  if (most < toFrames(0.5)) continue
  const need = Math.round(most * (0.1 + 0.8 * next()))
  ratios.push(harm(fit(offered, need).changes) / leastHarm(offered, need))
}
report({ measure: 'fit', name: 'fit.found', value: found, unit: `of ${PAGES} pages over or under by 2 to 12 s` })
report({ measure: 'fit', name: 'fit.error', value: wrong, unit: 'pages that are not to the frame what their plan says' })
report({ measure: 'fit', name: 'fit.over', value: over, unit: 'pages that run past their slot' })
report({ measure: 'fit', name: 'fit.refused', value: refused, unit: `of ${OUT_OF_REACH} pages that cannot be brought there` })
report({ measure: 'fit', name: 'fit.time', value: Math.max(...times), unit: 's, the slowest' })
report({
  measure: 'fit',
  name: 'fit.harm',
  value: Math.max(...ratios),
  unit: `of the least harm, the worst of ${ratios.length}; median ${percentile(ratios, 0.5).toFixed(3)}`,
})
