import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { AnyStep, LoggedEntry, StoredDocument, Verdict } from '../../contract/documents'
import { actualityType, clipLength, type Actuality, type ActualityStep } from '../../core/edits/actuality'
import { storyType, type Block, type StoryDocument } from '../../core/page/story'
import { applyAll, applyAndInvert, exchange, type DocumentType } from '../../core/steps/document'
import { textChange } from '../../core/steps/text'
import type { WaitingActs } from './waiting'

/** A server in a few lines, which can be shut. */
const server = {
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
const kept = vi.hoisted(() => ({ last: null as { entries: unknown[] } | null, forgotten: [] as string[] }))
const notices = vi.hoisted(() => ({ tell: null as ((notice: unknown) => void) | null }))

vi.mock('../api/client', () => {
  class Unreachable extends Error {}
  class Refused extends Error {
    status = 400
  }
  const reach = () => {
    if (!server.up) throw new Unreachable()
  }
  return {
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
})
vi.mock('../api/notices', () => ({
  onNotice: (listener: (notice: unknown) => void) => {
    notices.tell = listener
    return () => undefined
  },
}))
vi.mock('./waiting', () => ({
  author: 'me',
  keep: (acts: { entries: unknown[] }) => {
    kept.last = acts
    return Promise.resolve()
  },
  forget: (key: string) => {
    kept.forgotten.push(key)
    return Promise.resolve()
  },
}))

const { LiveDocument } = await import('./liveDocument')
const { writeIn } = await import('./writing')

const TAPE = '5e1f0c52-7a44-4d6e-9a0b-0c1d7f3b2a01'
const cut = (from: number, to: number): ActualityStep => ({
  type: 'replace',
  from,
  to,
  insert: [],
  after: { fade: 0, shape: 'gain', origin: 'hand', heard: false },
})
const open = async (left: WaitingActs[] = []) => {
  const live = await LiveDocument.open('doc', 'actuality', Promise.resolve(left))
  await live.ready
  return live
}
const until = (test: () => boolean) => vi.waitFor(() => expect(test()).toBe(true), 3000)
const other = (steps: AnyStep[]) => server.take(server.log.length, [{ id: crypto.randomUUID(), author: 'you', label: '', steps }])
const told = () => notices.tell!({ about: 'document', id: 'doc', kind: 'actuality', revision: server.log.length })

beforeEach(() => {
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
})

describe('a live document', () => {
  it('shows an act at once and is saved once the server has it', async () => {
    const live = await open()
    live.act([cut(100, 200)], { label: 'take out' })
    expect(live.body.spans).toHaveLength(2)
    expect(live.state).toBe('saving')
    await until(() => live.state === 'saved')
    expect(server.document).toEqual(live.body)
    expect(kept.last?.entries).toEqual([])
  })

  it('goes on while the server is away, keeps what waits, and sends it in order', async () => {
    const live = await open()
    server.up = false
    live.act([cut(100, 200)], { label: 'one' })
    live.act([cut(5000, 6000)], { label: 'two' })
    await until(() => live.state === 'waiting')
    expect(kept.last?.entries).toHaveLength(2)
    server.up = true
    await until(() => live.state === 'saved')
    expect(server.log.map((entry) => entry.label)).toEqual(['one', 'two'])
    expect(server.document).toEqual(live.body)
  })

  it('takes in what others do, and maps places through it', async () => {
    const live = await open()
    let place = 7000
    live.onSteps((steps) => {
      for (const step of steps as ActualityStep[]) if (step.type === 'replace' && step.from < place) place -= step.to - step.from
    })
    other([cut(1000, 2000)])
    told()
    await until(() => live.body.spans.length === 2)
    expect(place).toBe(6000)
  })

  it.each(['opened', 'missed'])('asks what came in while nobody could tell of it: the stream %s', async (heard) => {
    const live = await open()
    await live.ready
    await new Promise((done) => setTimeout(done)) // what it asks for at its opening is here
    other([cut(1000, 2000)])
    notices.tell!(heard)
    await until(() => live.body.spans.length === 2)
    expect(live.body).toEqual(server.document)
  })

  it('hears of what came in while the answer to its own act was on its way', async () => {
    const live = await open()
    let arrive = () => undefined as void
    server.onTheWay = new Promise((done) => (arrive = done))
    live.act([cut(100, 200)], { label: 'mine' })
    await until(() => server.log.length === 1)
    other([cut(4000, 5000)])
    told()
    arrive()
    await until(() => live.body.spans.length === 3)
    expect(live.body).toEqual(server.document)
  })

  it('says so where an act had to be left out, once, and shows the newer state', async () => {
    const live = await open()
    const said: string[] = []
    live.onRefusal = (reason) => said.push(reason)
    other([cut(1000, 2000)])
    live.act([cut(1500, 2500)], { label: 'too late' })
    await until(() => live.state === 'saved')
    expect(said).toHaveLength(1)
    expect(live.body).toEqual(server.document)
  })

  it('undoes and does again, under what others did', async () => {
    const live = await open()
    live.act([cut(8000, 9000)], { label: 'mine' })
    await until(() => live.state === 'saved')
    other([cut(100, 200)])
    told()
    await until(() => live.body.spans.length === 3)
    expect(live.takeBack('undo')).toEqual({ label: 'mine', refused: false })
    expect(live.body.spans).toHaveLength(2)
    expect(live.takeBack('undo')).toBeNull()
    expect(live.takeBack('redo')).toEqual({ label: 'mine', refused: false })
    await until(() => live.state === 'saved')
    expect(server.document).toEqual(live.body)
  })

  it('does at once what is done better a moment later, as one act that nobody sees before', async () => {
    const live = await open()
    let know: (steps: ActualityStep[] | null) => void = () => undefined
    const known = () => new Promise<ActualityStep[] | null>((resolve) => (know = resolve))
    const done = live.actAtOnce([cut(100, 200)], { label: 'take out' }, known())
    expect(live.body.spans).toHaveLength(2)
    expect(live.state).toBe('saving')
    know([cut(110, 190)])
    expect(await done).toBe(true)
    expect(live.body.spans[1].from - live.body.spans[0].to).toBe(80)
    await until(() => live.state === 'saved')
    expect(server.document).toEqual(live.body)
    expect(server.log).toHaveLength(1)

    // what was done meanwhile stands, and the first stays as it was
    const rough = live.actAtOnce([cut(5000, 6000)], { label: 'rough' }, known())
    live.act([cut(500, 600)], { label: 'another' })
    know([cut(5100, 5200)])
    expect(await rough).toBe(false)
    await until(() => live.state === 'saved')
    expect(server.log.map(({ label }) => label)).toEqual(['take out', 'rough', 'another'])
    expect(live.takeBack('undo')).toEqual({ label: 'another', refused: false })
    expect(live.takeBack('undo')).toEqual({ label: 'rough', refused: false })
    expect(live.takeBack('undo')).toEqual({ label: 'take out', refused: false })
    expect(live.body.spans).toHaveLength(1)
  })

  it('does nothing that would leave nothing, nor something better that would', async () => {
    const live = await open()
    const said: string[] = []
    live.onRefusal = (reason) => said.push(reason)
    const all = cut(0, clipLength(live.body))
    live.act([all], { label: 'all of it' })
    expect(said).toEqual(['That cannot be done: nothing of the piece would be left.'])
    expect(await live.actAtOnce([cut(100, 200)], { label: 'rough' }, Promise.resolve([all]))).toBe(false)
    expect(live.body.spans).toHaveLength(2)
    await until(() => live.state === 'saved')
    expect(server.document).toEqual(live.body)
    expect(server.log.map(({ label }) => label)).toEqual(['rough'])
  })

  it('sends an act as it is where nobody knows in time how to do it better', async () => {
    const live = await open()
    expect(await live.actAtOnce([cut(100, 200)], { label: 'rough' }, new Promise(() => undefined))).toBe(false)
    await until(() => live.state === 'saved')
    expect(server.log.map(({ label }) => label)).toEqual(['rough'])
    expect(server.document).toEqual(live.body)
  })

  it('sends what a tab that is gone left waiting, but nothing twice', async () => {
    const start = server.document
    const entry = (id: string, steps: ActualityStep[]) => ({
      id,
      author: 'me',
      label: id,
      steps,
      inverse: applyAndInvert(actualityType, start, steps).inverse,
    })
    server.take(0, [entry('taken', [cut(100, 200)])])
    const left: WaitingActs = {
      key: 'doc/old',
      document: 'doc',
      kind: 'actuality',
      tab: 'old',
      revision: 0,
      entries: [entry('taken', [cut(100, 200)]), { ...entry('waiting', [cut(4000, 5000)]) }],
    }
    const live = await open([left])
    await until(() => server.log.length === 2 && live.state === 'saved')
    expect(server.log.map((one) => one.id)).toEqual(['taken', 'waiting'])
    expect(kept.forgotten).toEqual(['doc/old'])
    expect(live.body).toEqual(applyAll(actualityType, start, [cut(100, 200), cut(4000, 5000)]))
  })
})

it('leaves out what was left waiting and reads as no act, says so, and takes the rest', async () => {
  const said: string[] = []
  const fine = { id: 'fine', author: 'me', label: '', steps: [cut(100, 200)], inverse: [cut(0, 0)] }
  const entries = [{ ...fine, id: 'old', steps: [{ type: 'set', key: 'offcuts', value: [] } as unknown as ActualityStep] }, fine]
  let reading = () => undefined as void
  const left = new Promise<WaitingActs[]>((done) => {
    reading = () => done([{ key: 'doc/old', document: 'doc', kind: 'actuality', tab: 'old', revision: 0, entries }])
  })
  const live = await LiveDocument.open('doc', 'actuality', left)
  live.onRefusal = (reason) => said.push(reason)
  reading()
  await live.ready
  await until(() => live.state === 'saved' && server.log.length === 1)
  expect(server.log.map(({ id }) => id)).toEqual(['fine'])
  expect(said).toEqual(['An edit that was waiting here could not be read and was not applied.'])
})

describe('acts that came from one decision', () => {
  const passages = [500, 2500, 4500]
  const each = passages.map((from) => () => [cut(from, from + 100)])

  it('go out together, and are undone as one', async () => {
    const live = await open()
    const start = live.body
    expect(live.actEach(each, { label: 'take out 3 pauses' })).toBe(3)
    await until(() => live.state === 'saved')
    expect(server.log.map(({ label }) => label)).toEqual(Array(3).fill('take out 3 pauses'))
    expect(clipLength(live.body)).toBe(9700)
    expect(live.takeBack('undo')).toEqual({ label: 'take out 3 pauses', refused: false })
    expect(live.body).toEqual(start)
    expect(live.takeBack('redo')).toEqual({ label: 'take out 3 pauses', refused: false })
    expect(clipLength(live.body)).toBe(9700)
    await until(() => live.state === 'saved')
    expect(live.body).toEqual(server.document)
  })

  it('go in without the one that somebody else’s work refuses, which is said', async () => {
    const live = await open()
    const said: string[] = []
    live.onRefusal = (reason) => said.push(reason)
    other([cut(2550, 2650)])
    live.actEach(each, { label: 'take out 3 pauses' })
    await until(() => live.state === 'saved')
    expect(said).toHaveLength(1)
    expect(said[0]).toMatch(/^One edit of “take out 3 pauses” was not applied, the others were\./)
    expect(clipLength(live.body)).toBe(10_000 - 300)
    expect(live.body).toEqual(server.document)
    expect(live.takeBack('undo')).toEqual({ label: 'take out 3 pauses', refused: false })
    expect(clipLength(live.body)).toBe(9900)
  })
})

describe('undo', () => {
  it('says what somebody has changed since, and then reaches what lies before it', async () => {
    const live = await open()
    live.act([cut(1000, 2000)], { label: 'take out one' })
    live.act([cut(5000, 6000)], { label: 'take out another' })
    await until(() => live.state === 'saved')
    other([cut(4900, 5100)])
    told()
    await until(() => server.log.length === 3 && clipLength(live.body) === 7800)
    expect(live.takeBack('undo')).toEqual({ label: 'take out another', refused: true })
    expect(live.takeBack('undo')).toEqual({ label: 'take out one', refused: false })
    expect(live.takeBack('undo')).toBeNull()
    expect(clipLength(live.body)).toBe(8800)
    // what is done next is undone first, and the refused one is met again
    live.act([cut(0, 100)], { label: 'a third' })
    expect(live.takeBack('undo')).toEqual({ label: 'a third', refused: false })
    expect(live.takeBack('undo')).toEqual({ label: 'take out another', refused: true })
    expect(live.takeBack('undo')).toBeNull()
  })
})

describe('copy', () => {
  const block: Block = { id: 'b', kind: 'copy', order: 'a0', aside: false, text: 'The boat left.', reader: '', pace: 170, piece: null }
  const head = { id: 'story' as const, kind: 'story' as const, slug: '', airs: '', slot: 0, client: '', soc: '' }
  const line = (body: unknown): string => ((body as StoryDocument).records.b as Block).text
  const openStory = async () => {
    server.type = storyType as unknown as DocumentType<unknown, AnyStep>
    server.document = { kind: 'story', records: { story: head, b: block } }
    const live = await LiveDocument.open('doc', 'story', Promise.resolve([]))
    await live.ready
    return live
  }
  /** Types at the end of what stands, a letter at a time. */
  const type = (live: Awaited<ReturnType<typeof openStory>>, text: string) => {
    for (const letter of text) writeIn(live, 'b', 'text', textChange(line(live.body), line(live.body) + letter))
  }

  it('is kept with every letter, and sent as one act what was typed in one breath', async () => {
    const live = await openStory()
    type(live, ' Nobody came.')
    await until(() => JSON.stringify(kept.last).includes('Nobody came.'))
    await until(() => live.state === 'saved')
    expect(line(server.document)).toBe('The boat left. Nobody came.')
    expect(server.log.length).toBe(1)
  })

  it('of two who write in one line keeps both, and undo takes back one’s own', async () => {
    const live = await openStory()
    type(live, ' Nobody came.')
    other([{ type: 'write', id: 'b', key: 'text', change: textChange('The boat left.', 'At midnight the boat left.') }])
    told()
    await until(() => live.state === 'saved' && line(live.body) === 'At midnight the boat left. Nobody came.')
    expect(line(server.document)).toBe(line(live.body))
    expect(live.takeBack('undo')).toEqual({ label: 'write', refused: false })
    await until(() => live.state === 'saved')
    expect([line(live.body), line(server.document)]).toEqual(['At midnight the boat left.', 'At midnight the boat left.'])
    live.takeBack('redo')
    await until(() => live.state === 'saved')
    expect(line(server.document)).toBe('At midnight the boat left. Nobody came.')
  })

  it('written after a pause of thought is undone by itself', async () => {
    const live = await openStory()
    const clock = vi.spyOn(Date, 'now')
    try {
      clock.mockReturnValue(1e6)
      type(live, ' Nobody')
      clock.mockReturnValue(1e6 + 1000)
      type(live, ' came.')
      clock.mockReturnValue(1e6 + 4000)
      type(live, ' We waited.')
    } finally {
      clock.mockRestore()
    }
    live.takeBack('undo')
    expect(line(live.body)).toBe('The boat left. Nobody came.')
    live.takeBack('undo')
    expect(line(live.body)).toBe('The boat left.')
    await until(() => live.state === 'saved')
    expect(line(server.document)).toBe('The boat left.')
  })
})
