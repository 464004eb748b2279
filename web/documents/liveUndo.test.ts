import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { AnyStep } from '../../contract/documents'
import { clipLength } from '../../core/edits/actuality'
import { newStory, storyType, type Block, type StoryDocument } from '../../core/page/story'
import type { DocumentType } from '../../core/steps/document'
import { textChange } from '../../core/steps/text'
import { cut, kept, other, renew, server, told, until } from './fakeServer'

vi.mock('../api/client', async () => (await import('./fakeServer')).client)
vi.mock('../api/notices', async () => (await import('./fakeServer')).notices)
vi.mock('./waiting', async () => (await import('./fakeServer')).waiting)

const { LiveDocument } = await import('./liveDocument')
const { writeIn } = await import('./writing')
const open = async () => {
  const live = await LiveDocument.open('doc', 'actuality', Promise.resolve([]))
  await live.ready
  return live
}

beforeEach(renew)

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
  const line = (body: unknown): string => ((body as StoryDocument).records.b as Block).text
  const openStory = async () => {
    server.type = storyType as unknown as DocumentType<unknown, AnyStep>
    server.document = newStory({ slug: '' }, { id: 'output' }, [block])
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
