import { expect, vi } from 'vitest'
import type { AnyStep, LoggedEntry, StoredDocument, Verdict } from '../../contract/documents'
import { actualityType, type Actuality, type ActualityStep } from '../../core/edits/actuality'
import type { StoryDocument } from '../../core/page/story'
import { applyAndInvert, exchange, type DocumentType } from '../../core/steps/document'

/** For tests of live documents: what stands for the server, its notices and the browser's own store. */

/** A server in a few lines, which can be shut. */
export const server = {
  type: actualityType as unknown as DocumentType<unknown, AnyStep>,
  document: null as unknown as Actuality | StoryDocument,
  log: [] as LoggedEntry[],
  up: true,
  /** What an answer waits for before it arrives. */
  onTheWay: Promise.resolve() as Promise<void>,
  take(base: number, entries: { id: string; author: string; label: string; steps: AnyStep[]; undoes?: string }[]): Verdict {
    const since = server.log.slice(base)
    const others = since.map((one) => one.steps)
    const taken: number[] = []
    for (const entry of entries) {
      const before = server.log.findIndex((one) => one.id === entry.id)
      if (before >= 0) {
        taken.push(before + 1)
        if (before >= base) others[before - base] = []
        continue
      }
      let steps = entry.steps
      for (const [i, other] of others.entries()) {
        const swapped = exchange(server.type, steps, other)
        if (!swapped) return { taken, refused: 'Somebody was first.', since }
        steps = swapped.mine
        // the next one was made on top of this one
        others[i] = swapped.theirs
      }
      const { document, inverse } = applyAndInvert(server.type, server.document, steps)
      server.document = document as Actuality | StoryDocument
      server.log.push({ ...entry, steps, inverse, revision: server.log.length + 1 })
      taken.push(server.log.length)
    }
    return { taken, refused: null, since }
  },
}

/** What the browser's own store was asked to keep last, and to forget. */
export const kept = { last: null as { entries: unknown[] } | null, forgotten: [] as string[] }

let listener: ((notice: unknown) => void) | null = null

class Unreachable extends Error {}
class Refused extends Error {
  status = 400
}
const reach = () => {
  if (!server.up) throw new Unreachable()
}

/** In place of `../api/client`. */
export const client = {
  Unreachable,
  Refused,
  get: (path: string) => {
    reach()
    if (path.includes('/log?')) {
      const since = Number(/since=(\d+)/.exec(path)?.[1] ?? Infinity)
      const first = path.includes('own=me') ? server.log.findIndex((entry) => entry.author === 'me') : -1
      return Promise.resolve(structuredClone(server.log.slice(first < 0 ? since : Math.min(since, first))))
    }
    return Promise.resolve({
      id: 'doc',
      kind: server.document.kind,
      revision: server.log.length,
      aside: false,
      body: structuredClone(server.document),
    } satisfies StoredDocument)
  },
  post: async (_path: string, { base, entries }: { base: number; entries: Parameters<typeof server.take>[1] }) => {
    await Promise.resolve()
    reach()
    const verdict = structuredClone(server.take(base, entries))
    await server.onTheWay
    return verdict
  },
}

/** In place of `../api/notices`. */
export const notices = {
  onNotice: (heard: (notice: unknown) => void) => {
    listener = heard
    return () => undefined
  },
}

/** In place of `./waiting`. */
export const waiting = {
  author: 'me',
  keep: (acts: { entries: unknown[] }) => {
    kept.last = acts
    return Promise.resolve()
  },
  forget: (key: string) => {
    kept.forgotten.push(key)
    return Promise.resolve()
  },
}

export const TAPE = '5e1f0c52-7a44-4d6e-9a0b-0c1d7f3b2a01'

/** Begins anew: a piece of 10,000 frames that nobody has worked on. */
export function renew(): void {
  server.type = actualityType as unknown as DocumentType<unknown, AnyStep>
  server.document = {
    kind: 'actuality',
    slug: '',
    speaker: '',
    role: '',
    story: null,
    head: 0,
    tail: 0,
    spans: [{ tape: TAPE, from: 0, to: 10_000, sound: 'tape' }],
  }
  server.log = []
  server.up = true
  server.onTheWay = Promise.resolve()
  kept.last = null
  kept.forgotten = []
}

export const cut = (from: number, to: number): ActualityStep => ({
  type: 'replace',
  from,
  to,
  insert: [],
  after: { fade: 0, shape: 'gain', origin: 'hand', heard: false },
})
export const until = (test: () => boolean) => vi.waitFor(() => expect(test()).toBe(true), 3000)
/** Somebody else does something. */
export const other = (steps: AnyStep[]) => server.take(server.log.length, [{ id: crypto.randomUUID(), author: 'you', label: '', steps }])
/** The browser is told something by the server: where nothing is named, that the document was changed. */
export const told = (notice: unknown = { about: 'document', id: 'doc', kind: 'actuality', revision: server.log.length }) =>
  listener!(notice)
