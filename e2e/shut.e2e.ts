import { request } from 'node:http'
import { describe, expect, it } from 'vitest'
import type { Problem } from '../contract/desk'
import { here } from './here'
import { AMBIENCE, api, FERRY, pieceOf, QUAY } from './newsroom'

/** One request as any program could make it. */
function ask(
  path: string,
  { method = 'GET', headers = {}, body }: { method?: string; headers?: Record<string, string>; body?: string | Buffer } = {},
): Promise<{ status: number; headers: Record<string, unknown>; problem: Partial<Problem>; text: string }> {
  const { port } = new URL(here.address)
  return new Promise((resolve, reject) => {
    const call = request({ host: '127.0.0.1', port, path, method, headers: { Host: `localhost:${port}`, ...headers } }, (answer) => {
      let text = ''
      answer.on('data', (chunk) => (text += chunk))
      answer.on('end', () => {
        const isProblem = answer.headers['content-type']?.includes('problem+json')
        resolve({ status: answer.statusCode!, headers: answer.headers, problem: isProblem ? (JSON.parse(text) as Problem) : {}, text })
      })
    })
    call.on('error', reject)
    call.end(body)
  })
}
const json = { 'Content-Type': 'application/json' }
const id = () => crypto.randomUUID()

describe('strangers', () => {
  it('are kept out by host and by origin', async () => {
    expect((await ask('/api/desk', { headers: { Host: 'plaincut.example' } })).status).toBe(403)
    expect((await ask('/api/desk', { headers: { Host: 'localhost:1' } })).status).toBe(403)
    expect((await ask('/api/desk', { headers: { Origin: 'https://elsewhere.example' } })).status).toBe(403)
    expect((await ask('/api/desk', { headers: { Origin: 'null' } })).status).toBe(403)
    expect((await ask('/api/desk', { headers: { 'Sec-Fetch-Site': 'cross-site' } })).status).toBe(403)
    expect((await ask('/api/desk', { headers: { Origin: here.address } })).status).toBe(200)
  })
  it('find a policy that lets no foreign content in', async () => {
    const { headers } = await ask('/')
    const policy = String(headers['content-security-policy'])
    for (const part of ["default-src 'self'", "object-src 'none'", "frame-ancestors 'none'", "base-uri 'none'"])
      expect(policy).toContain(part)
    // WebAssembly may run, text may not be made a script
    expect(policy).not.toContain("'unsafe-eval'")
    expect(policy).not.toMatch(/script-src[^;]*unsafe-inline/)
    expect([
      headers['cross-origin-opener-policy'],
      headers['cross-origin-embedder-policy'],
      headers['x-content-type-options'],
      headers['x-powered-by'],
    ]).toEqual(['same-origin', 'require-corp', 'nosniff', undefined])
  })
})

describe('every request is checked', () => {
  it.each([
    ['/api/tapes/../../etc/passwd', {}],
    ['/api/tapes/%2e%2e%2f%2e%2e%2fetc/words', {}],
    [`/api/tapes/${QUAY}/sound/sound/9?from=0&to=10`, {}],
    [`/api/tapes/${QUAY}/sound/original/0?from=0&to=10`, {}],
    [`/api/tapes/${QUAY}/sound/sound/0?from=-1&to=10`, {}],
    [`/api/tapes/${QUAY}/sound/sound/0?from=0&to=99999999999`, {}],
    [`/api/tapes/${QUAY}/peaks/sound/0/7?from=0&to=10`, {}],
    [`/api/documents/${QUAY}/log?since=x';%20drop%20table%20entry`, {}],
    ['/api/documents/not-an-id', {}],
    ['/api/pieces?story=1', {}],
    [`/api/documents/${id()}`, { method: 'PUT', headers: json, body: '{"kind":"tape","records":{}}' }],
    [`/api/documents/${id()}`, { method: 'PUT', headers: json, body: '{"kind":"actuality"}' }],
    [`/api/documents/${id()}`, { method: 'PUT', headers: json, body: '{' }],
    [`/api/documents/${FERRY}`, { method: 'PATCH', headers: json, body: '{"aside":"yes"}' }],
    ['/api/sends', { method: 'POST', headers: json, body: '{"what":{"kind":"story","id":"x"}}' }],
  ])('%s', async (path, options) => {
    const { status, problem } = await ask(path, options)
    expect(status).toBeGreaterThanOrEqual(400)
    expect(status).toBeLessThan(500)
    expect(problem.detail).toMatch(/^[A-Z].*[.]$/)
    expect(problem.status).toBe(status)
  })

  const submit = async (document: string, steps: unknown[], base = 0) =>
    ask(`/api/documents/${document}/steps`, {
      method: 'POST',
      headers: json,
      body: JSON.stringify({ base, entries: [{ id: id(), author: id(), label: 'x', steps }] }),
    })

  it('so are steps, one by one', async () => {
    const piece = await pieceOf('No boat till six')
    const span = { tape: QUAY, from: 0, to: 100, sound: 'tape' }
    for (const step of [
      { type: 'replace', from: 0, to: 1, insert: [{ ...span, to: 0 }], after: null },
      { type: 'replace', from: 0, to: 1, insert: [{ ...span, tape: 'x' }], after: null },
      { type: 'replace', from: 0, to: 1, insert: [{ ...span, sound: 'other' }], after: null },
      { type: 'replace', from: 0, to: 1, insert: [{ ...span, extra: 1 }], after: null },
      { type: 'set', key: '__proto__', value: 1 },
      { type: 'set', key: 'spans', value: [] },
      { type: 'set', key: 'slug', value: 'x'.repeat(201) },
      { type: 'launch' },
    ])
      expect((await submit(piece.id, [step])).status).toBe(400)
    expect((await submit(piece.id, [{ type: 'replace', from: 0, to: 0, insert: [{ ...span, tape: id() }], after: null }])).status).toBe(422)
    expect((await submit(piece.id, [{ type: 'replace', from: 0, to: 0, insert: [{ ...span, to: 4e8 }], after: null }])).status).toBe(422)
    expect((await submit(FERRY, [{ type: 'put', record: { id: id(), kind: 'secret' } }])).status).toBe(400)
    expect((await submit(QUAY, [{ type: 'set', id: 'tape', key: 'sides', value: [{ name: '', channels: [99] }] }])).status).toBe(400)
    expect((await submit(id(), [])).status).toBe(404)
    expect((await pieceOf('No boat till six')).revision).toBe(piece.revision)
  })

  it('a step that does not fit is refused with a sentence, and changes nothing', async () => {
    const piece = await pieceOf('No boat till six')
    const { status, text } = await submit(piece.id, [{ type: 'replace', from: 0, to: 2e9, insert: [], after: null }], piece.revision)
    expect(status).toBe(200)
    expect(JSON.parse(text)).toMatchObject({ taken: [], refused: expect.stringContaining('cannot be done') })
    expect((await pieceOf('No boat till six')).revision).toBe(piece.revision)
  })

  it('bodies have a limit', async () => {
    const { status, problem } = await ask(`/api/documents/${id()}`, { method: 'PUT', headers: json, body: `{"kind":"${'x'.repeat(9e6)}"}` })
    expect([status, problem.title]).toEqual([413, 'Too large'])
  })
})

it('keeps a stereo picture as one side, a two-way as two', async () => {
  const [ambience, council] = await Promise.all([
    api<{ sides: unknown[] }>(`/tapes/${AMBIENCE}`),
    api<{ sides: unknown[] }>('/tapes/5e1f0c52-7a44-4d6e-9a0b-0c1d7f3b2a02'),
  ])
  expect([ambience.sides.length, council.sides.length]).toEqual([1, 2])
})
