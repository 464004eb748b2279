import { beforeEach, describe, expect, it, vi } from 'vitest'
import { actualityType, clipLength, type ActualityStep } from '../../core/edits/actuality'
import { applyAll, applyAndInvert } from '../../core/steps/document'
import { cut, kept, other, renew, server, told, until } from './fakeServer'
import type { WaitingActs } from './waiting'

vi.mock('../api/client', async () => (await import('./fakeServer')).client)
vi.mock('../api/notices', async () => (await import('./fakeServer')).notices)
vi.mock('./waiting', async () => (await import('./fakeServer')).waiting)

const { LiveDocument } = await import('./liveDocument')
const open = async (left: WaitingActs[] = []) => {
  const live = await LiveDocument.open('doc', 'actuality', Promise.resolve(left))
  await live.ready
  return live
}

beforeEach(renew)

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
    told(heard)
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
