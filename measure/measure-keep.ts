import { existsSync, readdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { setTimeout as wait } from 'node:timers/promises'
import type { KeepingInfo } from '../contract/storyFiles'
import type { Receipt, SendOrder } from '../contract/sends'
import { toFrames } from '../core/time'
import { readWav } from '../e2e/wav'
import { closeServices } from '../server/services'
import { report } from './figure'
import { hostileArchives } from './hostileArchives'
import { makeStory } from './longStory'
import { makeTape, openNewsroom, servicesOf } from './newsroom'
import { words } from './speechlike'

/** Stories out of one machine and back on another, where they must render bit for bit the same; and files that mean harm. */

const STORIES = 10
const [here, there] = [await openNewsroom(), await openNewsroom()]
const tapes: string[] = []
for (let i = 0; i < 3; i++) tapes.push(await makeTape(here, toFrames(70 + i * 5), words(toFrames(70 + i * 5), 160)))
const services = await servicesOf(here)
const stories: string[] = []
for (let i = 0; i < STORIES; i++) stories.push(await makeStory(services, tapes[i % 3], 14 + i, toFrames(40 + 2 * i), 1 + (i % 3)))
await closeServices(services)
const [server, other] = [await here.start(), await there.start()]

async function ask<T>(address: string, path: string, body?: unknown): Promise<T> {
  const init = body === undefined ? {} : { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) }
  const response = await fetch(`${address}/api${path}`, init)
  if (!response.ok) throw new Error(`${path}: ${response.status} ${await response.text()}`)
  return (await response.json()) as T
}

async function rendered(address: string, id: string): Promise<Buffer> {
  const order: SendOrder = { what: { kind: 'story', id }, format: 'wav', rate: 48_000, bits: 24, channels: 2, kbps: 192, pattern: '{slug}' }
  const { id: send } = await ask<Receipt>(address, '/sends', order)
  for (;;) {
    const { state, error } = await ask<Receipt>(address, `/sends/${send}`)
    if (state === 'failed') throw new Error(error)
    if (state === 'done') break
    await wait(50)
  }
  return readWav(Buffer.from(await (await fetch(`${address}/api/sends/${send}/file`)).arrayBuffer())).sound
}

async function settled(address: string, id: string): Promise<KeepingInfo> {
  for (;;) {
    const one = (await ask<KeepingInfo[]>(address, '/keepings')).find((keeping) => keeping.id === id)!
    if (one.state === 'done' || one.state === 'failed') return one
    await wait(50)
  }
}

const back = async (archive: Buffer) => {
  const path = join(there.data, 'story.zip')
  writeFileSync(path, archive)
  return settled(there.address, (await ask<{ id: string }>(there.address, '/keepings/backFrom', { path })).id)
}

let [same, out, took] = [0, 0, 0]
let last: Buffer = Buffer.alloc(0)
for (const story of stories) {
  const before = await rendered(here.address, story)
  let began = performance.now()
  const { id } = await ask<{ id: string }>(here.address, `/keepings/out/${story}`, {})
  const made = await settled(here.address, id)
  if (made.state === 'failed') throw new Error(made.error)
  out += performance.now() - began
  last = Buffer.from(await (await fetch(`${here.address}/api/keepings/${id}/file`)).arrayBuffer())
  began = performance.now()
  const came = await back(last)
  if (came.state === 'failed') throw new Error(came.error)
  took += performance.now() - began
  if (before.equals(await rendered(there.address, came.story!))) same++
}
report({ measure: 'keep', name: 'keep.same', value: same, unit: `renders of ${STORIES} bit for bit, 24 bit stereo` })
report({ measure: 'keep', name: 'keep.out', value: out / STORIES / 1000, unit: `s a story, ${(last.length / 1e6).toFixed(0)} MB the last` })
report({ measure: 'keep', name: 'keep.back', value: took / STORIES / 1000, unit: 's a story' })

const count = async () => (await ask<{ stories: unknown[] }>(there.address, '/desk')).stories.length
const stored = await count()
const tapesThere = readdirSync(join(there.data, 'media', 'tapes')).length
const hostile = await hostileArchives(last)
let refused = 0
for (const [name, archive, about] of hostile) {
  const { state, error } = await back(archive)
  if (state === 'failed' && about.test(error)) refused++
  else console.error(`${name}: ${state}, ${error}`)
}
const left = readdirSync(join(there.data, 'media', 'making')).length + readdirSync(join(there.data, 'media', 'kept')).length
const clean =
  (await count()) === stored &&
  readdirSync(join(there.data, 'media', 'tapes')).length === tapesThere &&
  left === 0 &&
  !existsSync(join(there.data, 'media', 'evil.txt'))
report({
  measure: 'keep',
  name: 'keep.refused',
  value: refused,
  unit: `of ${hostile.length} that mean harm, in words; ${clean ? 'nothing of them left' : 'SOMETHING OF THEM LEFT'}`,
})

for (const one of [server, other]) await one.stop()
for (const one of [here, there]) await one.close()
