import { readFileSync } from 'node:fs'
import type { AnyStep, LoggedEntry, StoredDocument, Verdict } from '../contract/documents'
import { actualityType, type Actuality, type ActualityStep } from '../core/edits/actuality'
import { holdTime, takeOut } from '../core/edits/acts'
import { bringBack } from '../core/edits/bringBack'
import { nicks } from '../core/edits/gone'
import { shapeLevel } from '../core/edits/levelLine'
import { toggleMute } from '../core/edits/mute'
import { listLength } from '../core/edits/editList'
import { random } from '../core/sound/random'
import { applyAll } from '../core/steps/document'
import { toFrames, type Stretch } from '../core/time'
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

async function ask<T>(path: string, init?: RequestInit): Promise<T> {
  const answer = await fetch(`${newsroom.address}/api${path}`, { ...init, headers: { 'Content-Type': 'application/json' } })
  if (!answer.ok) throw new Error(`${answer.status} ${await answer.text()}`)
  return (await answer.json()) as T
}
const stored = (id: string) => ask<StoredDocument & { body: Actuality }>(`/documents/${id}`)
const since = (id: string, revision: number) => ask<LoggedEntry[]>(`/documents/${id}/log?since=${revision}`)

/** Resident memory of the server, in MB. */
const memory = (): number => Number(/VmRSS:\s+(\d+) kB/.exec(readFileSync(`/proc/${server.child.pid}/status`, 'utf8'))![1]) / 1024

const ids = Array.from({ length: PIECES }, () => crypto.randomUUID())
for (const id of ids)
  await ask(`/documents/${id}`, {
    method: 'PUT',
    body: JSON.stringify({
      kind: 'actuality',
      slug: 'Cut by twenty',
      speaker: '',
      role: '',
      story: null,
      head: 0,
      tail: 0,
      spans: [{ tape, from: 0, to: length, sound: 'tape' }],
    } satisfies Actuality),
  })

type Copy = { body: Actuality; revision: number }
const accepted = new Map<string, string>()
let refused = 0

async function write(seed: number, until: number): Promise<Map<string, Copy>> {
  const next = random(seed)
  const author = crypto.randomUUID()
  const copies = new Map<string, Copy>()
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
    if (!copies.has(id)) copies.set(id, await stored(id))
    const copy = copies.get(id)!
    const steps = acts[Math.floor(next() * acts.length)](copy.body)
    if (!steps.length) continue
    const entry = { id: crypto.randomUUID(), author, label: 'an act', steps }
    const verdict = await ask<Verdict>(`/documents/${id}/steps`, { method: 'POST', body: JSON.stringify({ base: copy.revision, entry }) })
    if (verdict.taken) accepted.set(entry.id, id)
    else refused++
    await catchUp(id, copy)
  }
  return copies
}

async function catchUp(id: string, copy: Copy): Promise<void> {
  for (const entry of await since(id, copy.revision)) {
    copy.body = applyAll(actualityType, copy.body, entry.steps as AnyStep[] as ActualityStep[])
    copy.revision = entry.revision
  }
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
  const { body } = await stored(id)
  logs.set(id, new Set((await since(id, 0)).map((entry) => entry.id)))
  for (const copies of all) {
    const copy = copies.get(id)
    if (!copy) continue
    await catchUp(id, copy)
    if (JSON.stringify(sorted(copy.body)) !== JSON.stringify(sorted(body))) diverged++
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

/** The same whatever the order of its fields. */
function sorted(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(sorted)
  if (value === null || typeof value !== 'object') return value
  return Object.fromEntries(
    Object.entries(value)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([key, inner]) => [key, sorted(inner)]),
  )
}
