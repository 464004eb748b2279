import { fork, type ChildProcess } from 'node:child_process'
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import type { Fit } from '../contract/lineups'
import { requirePackages } from '../scripts/machine'
import type { CompareReport } from '../server/lineup/compare'
import type { JoinedChannel, JoinReport } from '../server/lineup/join'
import { MediaStore } from '../server/media/store'
import { runThread } from '../server/thread'
import { percentile, report } from './figure'
import { HOURS, lies, offAt, PAIRS, type PairResult } from './lineupCases'
import type { Case } from './lineupLane'

/**
 * Twenty pairs of recordings that belong together and twenty that do not, and three recordings of an
 * hour that the server's own threads compare and join. The voices are synthetic (flite). Where
 * microphones stand apart the sound's own way to them is part of the error, as it is in life.
 */

requirePackages('flite')
const VOICES = 6
const folder = mkdtempSync(join(tmpdir(), 'plain-cut-lineup-'))
const media = join(folder, 'media')
const store = new MediaStore(media)
const lanes = [0, 1].map(() => fork(join(import.meta.dirname, 'lineupLane.ts')))
process.on('exit', () => rmSync(folder, { recursive: true, force: true }))

const ask = <T>(lane: ChildProcess, one: Case): Promise<T> =>
  new Promise((answered, failed) => {
    const ended = () => failed(new Error('a lane ended'))
    lane.once('exit', ended)
    lane.once('message', (answer: T) => {
      lane.off('exit', ended)
      answered(answer)
    })
    lane.send(one)
  })

/** Does cases in both lanes; their results in the order of the cases. */
async function inLanes<T>(cases: readonly Omit<Case, 'folder'>[]): Promise<T[]> {
  const results: T[] = []
  let next = 0
  const work = async (lane: ChildProcess) => {
    for (let i = next++; i < cases.length; i = next++) results[i] = await ask<T>(lane, { ...cases[i], folder })
  }
  await Promise.all(lanes.map(work))
  return results
}

const many = (count: number, what: Case['what']) => Array.from({ length: count }, (_, which) => ({ what, which }))

const tapes = ['first', 'second', 'third'].slice(0, HOURS)
for (const tape of tapes) mkdirSync(store.tape(tape), { recursive: true })
mkdirSync(dirname(store.making('x')), { recursive: true })
await inLanes(many(VOICES, 'speak'))
const frames = await inLanes<number>(tapes.map((tape, which) => ({ what: 'hour', which, path: store.channel(tape, 0) })))
const pairs = await inLanes<PairResult>(many(PAIRS, 'together'))
const others = await inLanes<PairResult>(many(PAIRS, 'apart'))
for (const lane of lanes) lane.kill()

for (const { about, refused, off } of pairs)
  console.log(`// ${about}${refused ? `: refused: ${refused}` : `, off by ${off.map((ms) => ms.toFixed(2)).join(' ')} ms`}`)
for (const { about, refused } of others) console.log(`// ${about}: ${refused || 'taken'}`)

const began = performance.now()
let fits: Fit[] = []
await runThread<CompareReport>(
  'compare',
  { tapes: tapes.map((id, i) => ({ id, channels: 1, frames: frames[i], sides: 1 })), media, looks: store.making('looks') },
  (said) => {
    if ('fits' in said) fits = said.fits
  },
)
const compared = performance.now()
const channels = fits.map(({ tape, offset, drift }, i): JoinedChannel[] => [
  { tape, channel: 0, offset, drift, frames: frames[i], mixed: false },
])
await runThread<JoinReport>(
  'join',
  { channels, media, path: store.making('joined'), description: '', at: '2026-01-01T00:00:00Z' },
  () => undefined,
)
const joined = performance.now()

const off = pairs.flatMap((pair) => pair.off)
const hourOff = fits.flatMap((fit, i) => (fit.belongs ? offAt(frames[i], fit, lies(i)) : [Infinity]))
const sound = 'synthetic voices'
report({
  measure: 'lineup',
  name: 'lineup.right',
  value: pairs.filter((pair) => !pair.refused && Math.max(...pair.off) < 50).length,
  unit: `of ${PAIRS} pairs, ${sound}`,
})
report({
  measure: 'lineup',
  name: 'lineup.refused',
  value: others.filter(({ refused }) => refused).length,
  unit: `of ${PAIRS} pairs that do not belong together`,
})
report({ measure: 'lineup', name: 'lineup.error', value: percentile(off, 0.95), unit: 'ms, 95th percentile over five places a pair' })
report({ measure: 'lineup', name: 'lineup.error.most', value: Math.max(...off), unit: 'ms' })
report({ measure: 'lineup', name: 'lineup.hours.error', value: Math.max(...hourOff), unit: 'ms, the most, three recordings of an hour' })
report({ measure: 'lineup', name: 'lineup.hours.compare', value: (compared - began) / 1000, unit: 's, three recordings of an hour' })
report({ measure: 'lineup', name: 'lineup.hours', value: (joined - began) / 1000, unit: 's, the same compared and joined' })
