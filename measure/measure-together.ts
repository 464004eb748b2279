import fc from 'fast-check'
import { actualityType, mapPosition, type Actuality, type ActualityStep } from '../core/edits/actuality'
import type { PaintPart } from '../core/edits/actualitySteps'
import { drawnAct, drawSteps, piece, shareOf } from '../core/edits/arbitrary'
import { random } from '../core/sound/random'
import { applyAll, applyAndInvert, exchange } from '../core/steps/document'
import { Replica, type Accepted } from '../core/steps/replica'
import { changedText, changeOver, type TextChange } from '../core/steps/text'
import type { Stretch } from '../core/time'
import { canonical } from './copies'
import { report } from './figure'

/**
 * Two people work on one piece at once, each seeing the other’s work late: all kinds of acts, at evenly drawn places.
 * Everybody must end with the same piece; what does not meet must not be refused; and in copy no letter may go.
 */

const [HISTORIES, ACTS, SEED] = [2000, 10, 47]

type Log = Accepted<ActualityStep>[]

/** What a server does with an act: the revision that it becomes, or null where it is refused. */
function submit(server: { document: Actuality; log: Log }, base: number, id: string, steps: readonly ActualityStep[]): number | null {
  let mine = [...steps]
  for (const other of server.log.slice(base)) {
    const swapped = exchange(actualityType, mine, other.steps)
    if (!swapped) return null
    mine = swapped.mine
  }
  const { document, inverse } = applyAndInvert(actualityType, server.document, mine)
  server.document = document
  server.log.push({ id, author: '', label: '', steps: mine, inverse, revision: server.log.length + 1 })
  return server.log.length
}

const script = fc.array(fc.tuple(fc.boolean(), fc.noBias(fc.nat(4)), drawnAct), { minLength: ACTS * 2, maxLength: ACTS * 2 })
let [diverged, acted] = [0, 0]
for (const [start, turns] of fc.sample(fc.tuple(piece, script), { seed: SEED, numRuns: HISTORIES })) {
  const server = { document: start, log: [] as Log }
  const people = [0, 1].map(() => new Replica(actualityType, start, 0, []))
  const send = (replica: Replica<Actuality, ActualityStep>) => {
    const [entry] = replica.waiting
    const taken = submit(server, replica.revision, entry.id, entry.steps)
    replica.receive(server.log.slice(replica.revision))
    if (taken === null) replica.drop(entry.id)
  }
  for (const [who, what, drawn] of turns) {
    const replica = people[Number(who)]
    if (what < 3) {
      const steps = drawSteps(replica.current, drawn)
      if (!steps.length || !applyAll(actualityType, replica.current, steps).spans.length) continue
      replica.act(steps, { id: crypto.randomUUID(), author: String(who), label: '' })
      acted++
    } else if (what === 3 && replica.waiting.length) send(replica)
    else replica.receive(server.log.slice(replica.revision))
  }
  for (const replica of people) while (replica.waiting.length) send(replica)
  for (const replica of people) {
    replica.receive(server.log.slice(replica.revision))
    if (canonical(replica.current) !== canonical(server.document)) diverged++
  }
}

const overlap = (a: Stretch, b: Stretch): boolean => a.from <= b.to && b.from <= a.to
/** Of a level line, the points that change are what is touched; it is painted over all of its span. */
const painted = (part: PaintPart): Stretch =>
  part.what === 'line' && part.over ? { from: part.from + part.over.from, to: part.from + part.over.to } : part

/** The places of a piece that an act touches, as they lie before it; properties are touched too, by their names. */
function touched(start: Actuality, steps: readonly ActualityStep[]): { places: Stretch[]; keys: string[] } {
  const places: Stretch[] = []
  const keys: string[] = []
  let now = start
  let back: ActualityStep[] = []
  const before = (at: number, side: 'before' | 'after') => back.reduce((place, step) => mapPosition(step, place, side), at)
  for (const step of steps) {
    const here: Stretch[] =
      step.type === 'replace'
        ? [step]
        : step.type === 'move'
          ? [step, { from: step.at, to: step.at }]
          : step.type === 'paint'
            ? step.parts.map(painted)
            : step.type === 'join' || (step.type === 'heard' && step.at !== null)
              ? [{ from: step.at!, to: step.at! }]
              : []
    places.push(...here.map(({ from, to }) => ({ from: before(from, 'before'), to: before(to, 'after') })))
    if (step.type === 'set') keys.push(step.key)
    back = [actualityType.invert(now, step), ...back]
    now = actualityType.apply(now, step)
  }
  return { places, keys }
}

let [apart, refused] = [0, 0]
const refusals = new Map<string, number>()
for (const [start, a, b] of fc.sample(fc.tuple(piece, drawnAct, drawnAct, shareOf), { seed: SEED, numRuns: 10 * HISTORIES })) {
  const [mine, theirs] = [drawSteps(start, a), drawSteps(start, b)]
  if (!mine.length || !theirs.length) continue
  const [one, other] = [touched(start, mine), touched(start, theirs)]
  // an act that sets a property of the whole, as its name or gain, is at no place
  const placeless = !one.places.length || !other.places.length
  if (one.places.some((place) => other.places.some((there) => overlap(place, there)))) continue
  if (placeless && one.keys.some((key) => other.keys.includes(key))) continue
  apart++
  if (exchange(actualityType, mine, theirs)) continue
  refused++
  const pair = [a[0], b[0]].sort().join(' / ')
  refusals.set(pair, (refusals.get(pair) ?? 0) + 1)
}

/** Two who write in one line: each puts words of their own in, and takes letters of the old text out. */
const next = random(SEED)
const upTo = (most: number): number => Math.floor(next() * (most + 1))
let lost = 0
for (let run = 0; run < HISTORIES; run++) {
  const text = 'The last boat to Brackle left at midnight for forty years.'
  const words: string[] = []
  const change = (length: number, word: string): TextChange => {
    const at = upTo(length)
    const out = Math.min(length - at, next() < 0.3 ? upTo(5) : 0)
    const cut = out ? [{ cut: text.slice(at, at + out) }] : []
    words.push(word)
    return [...(at ? [at] : []), ...cut, { put: word }, ...(length - at - out ? [length - at - out] : [])]
  }
  const [one, other] = [change(text.length, '<one>'), change(text.length, '<other>')]
  const both = changedText(changedText(text, one), changeOver(other, one))
  if (both !== changedText(changedText(text, other), changeOver(one, other))) diverged++
  for (const word of words) if (!both.includes(word)) lost += word.length
}

report({ measure: 'together', name: 'together.acts', value: acted, unit: `acts in ${HISTORIES} histories of two people` })
report({ measure: 'together', name: 'together.diverged', value: diverged, unit: 'copies that differ at the end' })
report({
  measure: 'together',
  name: 'together.refused',
  value: Number(((100 * refused) / apart).toFixed(2)),
  unit: `% of ${apart} pairs at different places`,
})
report({ measure: 'together', name: 'together.text', value: lost, unit: `characters lost, of ${HISTORIES} lines that two wrote in` })
const most = [...refusals].sort((a, b) => b[1] - a[1]).slice(0, 8)
if (most.length) console.error(most.map(([pair, times]) => `${times} ${pair}`).join('\n'))
