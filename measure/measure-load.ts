import { readFileSync } from 'node:fs'
import type { Actuality, ActualityStep } from '../core/edits/actuality'
import { holdTime, takeOut } from '../core/edits/acts'
import { bringBack } from '../core/edits/bringBack'
import { nicks } from '../core/edits/gone'
import { shapeLevel } from '../core/edits/levelLine'
import { toggleMute } from '../core/edits/mute'
import { listLength } from '../core/edits/editList'
import { random } from '../core/sound/random'
import { toFrames, type Stretch } from '../core/time'
import { canonical, Copies } from './copies'
import { report } from './figure'
import { makeTape, openNewsroom } from './newsroom'
import { words } from './speechlike'

/**
 * Twenty people edit ten pieces for a minute, each as fast as the server answers. What was accepted must be in
 * the log, all copies must be the same, and the server's memory must go back to where it was.
 */

const [WRITERS, PIECES, SECONDS, AFTER] = [20, 10, 60, 60]
const wait = (ms: number) => new Promise((done) => setTimeout(done, ms))
const newsroom = await openNewsroom()
const length = toFrames(300)
const tape = await makeTape(newsroom, length, words(length, 700))
const server = await newsroom.start()

const editor = new Copies(newsroom.address)

/** Resident memory of the server, in MB. */
const memory = (): number => Number(/VmRSS:\s+(\d+) kB/.exec(readFileSync(`/proc/${server.child.pid}/status`, 'utf8'))![1]) / 1024

const ids = Array.from({ length: PIECES }, () => crypto.randomUUID())
for (const id of ids)
  await editor.put(id, {
    kind: 'actuality',
    slug: 'Cut by twenty',
    speaker: '',
    role: '',
    story: null,
    head: 0,
    tail: 0,
    spans: [{ tape, from: 0, to: length, sound: 'tape' }],
  })

const accepted = new Map<string, string>()
let refused = 0

async function write(seed: number, until: number): Promise<Copies> {
  const next = random(seed)
  const copies = new Copies(newsroom.address)
  const passage = ({ spans }: Actuality): Stretch => {
    const from = Math.floor(next() * (listLength(spans) - toFrames(1)))
    return { from, to: from + toFrames(0.05 + next() * 0.4) }
  }
  const acts: ((piece: Actuality) => ActualityStep[])[] = [
    (piece) => takeOut(piece, passage(piece)),
    (piece) => holdTime(piece, passage(piece)),
    (piece) => shapeLevel(piece, passage(piece), () => -6 + Math.floor(next() * 12)),
    (piece) => toggleMute(piece, passage(piece)),
    (piece) => {
      const all = nicks(piece)
      return all.length ? bringBack(piece, all[Math.floor(next() * all.length)]) : []
    },
    () => [{ type: 'set', key: 'slug', value: `Cut by ${seed}` }],
  ]
  while (Date.now() < until) {
    const id = ids[Math.floor(next() * ids.length)]
    const steps = acts[Math.floor(next() * acts.length)]((await copies.body(id)) as Actuality)
    if (!steps.length) continue
    const act = await copies.act(id, steps)
    if (act) accepted.set(act, id)
    else refused++
  }
  return copies
}

// what a server takes up once, whatever is asked of it, is not of the load
await write(1, Date.now() + 3000)
await wait(5000)
const before = memory()
const end = Date.now() + SECONDS * 1000
const all = await Promise.all(Array.from({ length: WRITERS }, (_, i) => write(100 + i, end)))
const top = memory()

let [lost, diverged] = [0, 0]
const logs = new Map<string, Set<string>>()
for (const id of ids) {
  const { body } = await editor.stored(id)
  logs.set(id, new Set((await editor.since(id, 0)).map((entry) => entry.id)))
  for (const copies of all) {
    if (!copies.ids.includes(id)) continue
    await copies.catchUp(id)
    if (canonical(await copies.body(id)) !== canonical(body)) diverged++
  }
}
for (const [entry, id] of accepted) if (!logs.get(id)!.has(entry)) lost++
await wait(AFTER * 1000)
report({
  measure: 'load',
  name: 'load.acts',
  value: accepted.size,
  unit: `acts accepted of ${WRITERS} writers in ${SECONDS} s, ${refused} refused`,
})
report({ measure: 'load', name: 'load.lost', value: lost, unit: 'accepted acts that are in no log' })
report({ measure: 'load', name: 'load.diverged', value: diverged, unit: 'copies that differ from the server’s' })
report({ measure: 'load', name: 'load.top', value: Math.round(top - before), unit: 'MB over the start, at the end of the load' })
report({ measure: 'load', name: 'load.memory', value: Math.round(memory() - before), unit: `MB over the start, ${AFTER} s after` })
await server.stop()
await newsroom.close()
