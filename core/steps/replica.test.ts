import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { actualityType, clipLength, type Actuality, type ActualityStep } from '../edits/actuality'
import { markHeard } from '../edits/acts'
import { drawnAct, drawSteps, piece } from '../edits/arbitrary'
import { cuts } from '../edits/editList'
import { applyAll, applyAndInvert, exchange } from './document'
import type { Entry } from './history'
import { Replica, type Accepted } from './replica'

/** What the server does with one act, without a server. */
class Server {
  log: Accepted<ActualityStep>[] = []
  constructor(public document: Actuality) {}

  submit(base: number, entry: Entry<ActualityStep>): boolean {
    let steps = entry.steps
    for (const other of this.log.slice(base)) {
      const swapped = exchange(actualityType, steps, other.steps)
      if (!swapped) return false
      steps = swapped.mine
    }
    const { document, inverse } = applyAndInvert(actualityType, this.document, steps)
    this.document = document
    this.log.push({ ...entry, steps, inverse, revision: this.log.length + 1 })
    return true
  }
}

const unheard = (body: Actuality) => JSON.parse(JSON.stringify(body), (key, value: unknown) => (key === 'heard' ? false : value)) as unknown

type Client = { replica: Replica<Actuality, ActualityStep>; name: string }

const sendOne = (server: Server, { replica }: Client) => {
  const entry = replica.waiting[0]
  if (!entry) return
  const taken = server.submit(replica.revision, entry)
  replica.receive(server.log.slice(replica.revision))
  if (!taken) replica.drop(entry.id)
}

describe('replica', () => {
  it('ends equal everywhere, whoever does, sends and hears what in whatever order', () =>
    fc.assert(
      fc.property(piece, fc.array(fc.tuple(fc.boolean(), fc.nat(4), drawnAct), { maxLength: 40 }), (start, script) => {
        const server = new Server(start)
        const clients: Client[] = ['one', 'two'].map((name) => ({ name, replica: new Replica(actualityType, start, 0, []) }))
        let count = 0
        for (const [which, what, drawn] of script) {
          const client = clients[Number(which)]
          if (what < 3) {
            const steps = drawSteps(client.replica.current, drawn)
            const rest = applyAll(actualityType, client.replica.current, steps)
            if (steps.length && rest.spans.length) client.replica.act(steps, { id: `e${count++}`, author: client.name, label: '' })
          } else if (what === 3) sendOne(server, client)
          else client.replica.receive(server.log.slice(client.replica.revision))
        }
        for (const client of clients) while (client.replica.waiting.length) sendOne(server, client)
        for (const { replica } of clients) {
          replica.receive(server.log.slice(replica.revision))
          expect(replica.current).toEqual(server.document)
        }
        expect(
          applyAll(
            actualityType,
            start,
            server.log.flatMap((entry) => entry.steps),
          ),
        ).toEqual(server.document)
      }),
      { numRuns: 400 },
    ))

  it('takes back, one after the other, all that one hand did, whatever was heard, undone and done again meanwhile', () =>
    fc.assert(
      fc.property(piece, fc.array(fc.tuple(fc.nat(5), drawnAct), { maxLength: 30 }), (begun, script) => {
        const replica = new Replica(actualityType, begun, 0, [])
        let count = 0
        const act = (steps: readonly ActualityStep[], more: { undoes?: string; quiet?: boolean } = {}) =>
          steps.length &&
          applyAll(actualityType, replica.current, steps).spans.length &&
          replica.act(steps, { id: `e${count++}`, author: 'me', label: '', ...more })
        const takeBack = (which: 'undo' | 'redo') => {
          const found = replica.takingBack(which, 'me')
          if (!found) return null
          expect(found.steps).not.toBeNull()
          act(found.steps!, { undoes: found.target.id })
          return found
        }
        for (const [what, drawn] of script) {
          if (what < 3) act(drawSteps(replica.current, drawn).filter(({ type }) => type !== 'heard'))
          else if (what === 3) for (const { at } of cuts(replica.current.spans)) act(markHeard(replica.current, at), { quiet: true })
          else takeBack(what === 4 ? 'undo' : 'redo')
        }
        while (takeBack('undo'));
        expect(unheard(replica.current)).toEqual(unheard(begun))
      }),
      { numRuns: 400 },
    ))

  it('hearing a join takes nobody’s cut away, and no cut takes away what others heard elsewhere', () => {
    const two = applyAll(actualityType, start, [cut(100, 200), cut(500, 600)])
    const replica = new Replica(actualityType, two, 0, [])
    replica.act([cut(50, 150)], { id: 'mine', author: 'me', label: '' })
    const theirs = [100, 500].map((at, i): Accepted<ActualityStep> => ({
      id: `heard ${at}`,
      author: 'you',
      label: '',
      steps: [{ type: 'heard', at, heard: true }],
      inverse: [],
      quiet: true,
      revision: i + 1,
    }))
    expect(replica.receive(theirs).dropped).toEqual([])
    expect(cuts(replica.current.spans).map(({ at, join }) => [at, join.heard])).toEqual([
      [50, false],
      [400, true],
    ])
  })

  const start: Actuality = {
    kind: 'actuality',
    slug: '',
    speaker: '',
    role: '',
    story: null,
    head: 0,
    tail: 0,
    spans: [{ tape: 'a', from: 0, to: 1000, sound: 'tape' }],
  }
  const cut = (from: number, to: number): ActualityStep => ({
    type: 'replace',
    from,
    to,
    insert: [],
    after: { fade: 0, shape: 'gain', origin: 'hand', heard: false },
  })

  it('tells what changed in what is shown, and what had to be left out', () => {
    const replica = new Replica(actualityType, start, 0, [])
    replica.act([cut(100, 200)], { id: 'mine', author: 'me', label: '' })
    replica.act([cut(700, 800)], { id: 'later', author: 'me', label: '' })
    const theirs: Accepted<ActualityStep> = { id: 'theirs', author: 'you', label: '', steps: [cut(150, 250)], inverse: [], revision: 1 }
    const { delta, dropped } = replica.receive([theirs])
    expect(dropped.map((entry) => entry.id)).toEqual(['mine'])
    expect(replica.waiting.map((entry) => entry.id)).toEqual(['later'])
    const before = applyAll(actualityType, start, [cut(100, 200), cut(700, 800)])
    expect(applyAll(actualityType, before, delta)).toEqual(replica.current)
  })

  it('tells of any acts what changed in what is shown, whatever waits here and whatever came', () =>
    fc.assert(
      fc.property(piece, fc.array(drawnAct, { maxLength: 3 }), fc.array(drawnAct, { minLength: 1, maxLength: 3 }), (from, mine, theirs) => {
        const replica = new Replica(actualityType, from, 0, [])
        mine.forEach((drawn, i) => {
          const steps = drawSteps(replica.current, drawn)
          if (steps.length && applyAll(actualityType, replica.current, steps).spans.length)
            replica.act(steps, { id: `mine ${i}`, author: 'me', label: '' })
        })
        const server = new Server(from)
        theirs.forEach((drawn, i) => {
          const steps = drawSteps(server.document, drawn)
          if (steps.length && applyAll(actualityType, server.document, steps).spans.length)
            server.submit(server.log.length, { id: `theirs ${i}`, author: 'you', label: '', steps, inverse: [] })
        })
        const shown = replica.current
        const { delta, dropped } = replica.receive(server.log)
        const told = applyAll(actualityType, shown, delta)
        // with what was left out goes what was painted over it; places are told rightly all the same
        if (dropped.length) expect(clipLength(told)).toBe(clipLength(replica.current))
        else expect(told).toEqual(replica.current)
      }),
      { numRuns: 400 },
    ))

  it('takes an act that came back by another way as its own', () => {
    const replica = new Replica(actualityType, start, 0, [])
    const entry = replica.act([cut(100, 200)], { id: 'mine', author: 'me', label: '' })
    replica.receive([{ ...entry, revision: 1 }])
    expect(replica.waiting).toEqual([])
    expect(replica.revision).toBe(1)
  })
})
