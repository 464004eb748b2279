import type { AddressInfo } from 'node:net'
import express from 'express'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { problems, Refusal } from './problem'

/** What a request is told that ends in a fault, whatever came with it. */

const app = express()
app.use(express.json())
app.all('/fault', async () => {
  // as the answer of a database: the request has been read to its end by then
  await new Promise((done) => setTimeout(done, 30))
  throw new Error('column reference "marks" is ambiguous')
})
app.all('/refused', () => {
  throw new Refusal(409, 'In use', 'That tape stays.')
})
app.use(problems)

let address: string
const server = app.listen(0)
beforeAll(() => void (address = `http://localhost:${(server.address() as AddressInfo).port}`))
afterAll(() => void server.close())

it.each(['GET', 'POST', 'PUT', 'DELETE'])('a fault is answered in plain words, and says nothing of its insides: %s', async (method) => {
  const init = { method, headers: { 'Content-Type': 'application/json' }, ...(method === 'GET' ? {} : { body: '{"some": "body"}' }) }
  const answer = await fetch(`${address}/fault`, init)
  const { detail } = (await answer.json()) as { detail: string }
  expect(answer.status).toBe(500)
  expect(detail).toMatch(/^Something went wrong on the server/)
  expect((await fetch(`${address}/refused`, init)).status).toBe(409)
})
