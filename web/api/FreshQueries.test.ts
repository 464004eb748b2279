import { QueryObserver } from '@tanstack/react-query'
import { expect, it } from 'vitest'
import { FreshQueries } from './FreshQueries'

/** Something to ask for; answers when it is let, with what was there when it was asked. */
function server() {
  let there = 'old'
  const waiting: (() => void)[] = []
  return {
    change: (to: string) => (there = to),
    answer: () => waiting.shift()!(),
    asked: () => waiting.length,
    ask: () => {
      const read = there
      return new Promise<string>((done) => waiting.push(() => done(read)))
    },
  }
}

const soon = () => new Promise((done) => setTimeout(done))

it('asks again for what changed while it was asked for the first time', async () => {
  const queries = new FreshQueries()
  const { ask, answer, change } = server()
  const calls = new QueryObserver(queries, { queryKey: ['calls'], queryFn: ask })
  const leave = calls.subscribe(() => undefined)
  change('new')
  const told = queries.invalidateQueries({ queryKey: ['calls'] })
  answer()
  await soon()
  answer()
  await told
  expect(calls.getCurrentResult().data).toBe('new')
  leave()
})

it('has what nobody looks at yet asked for anew by who looks at it next', async () => {
  const queries = new FreshQueries()
  const { ask, answer, asked, change } = server()
  const query = { queryKey: ['tape', 'quay'], queryFn: ask, staleTime: 30_000 }
  const first = queries.prefetchQuery(query)
  change('new')
  const told = queries.invalidateQueries({ queryKey: ['tape'] })
  answer()
  await Promise.all([first, told])
  expect(asked()).toBe(0)
  const tape = new QueryObserver(queries, query)
  const leave = tape.subscribe(() => undefined)
  answer()
  await soon()
  expect(tape.getCurrentResult().data).toBe('new')
  leave()
})

it('asks once for what is here already', async () => {
  const queries = new FreshQueries()
  const { ask, answer, asked, change } = server()
  const desk = new QueryObserver(queries, { queryKey: ['desk'], queryFn: ask, staleTime: 30_000 })
  const leave = desk.subscribe(() => undefined)
  answer()
  await soon()
  change('new')
  const told = queries.invalidateQueries({ queryKey: ['desk'] })
  answer()
  await told
  expect(desk.getCurrentResult().data).toBe('new')
  expect(asked()).toBe(0)
  leave()
})
