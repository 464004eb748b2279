import { randomUUID } from 'node:crypto'
import type { PieceRow } from '../contract/desk'
import type { StoredDocument } from '../contract/documents'
import { spineOf, type StoryDocument } from '../core/page/story'
import { FERRY } from './demoIds'

/**
 * Takes the demo's ferry back to the hour before its last line and its sign-off were recorded: copy without a voice track is what much of
 * voicing, timing and sending is tested on.
 */
export async function leaveUnvoiced(address: string): Promise<void> {
  const ask = async <T>(path: string, method = 'GET', body?: unknown): Promise<T> => {
    const response = await fetch(`${address}/api${path}`, {
      method,
      headers: { 'Content-Type': 'application/json' },
      body: body === undefined ? undefined : JSON.stringify(body),
    })
    if (!response.ok) throw new Error(`${method} ${path}: ${response.status} ${await response.text()}`)
    return (await response.json()) as T
  }
  const { revision, body } = await ask<StoredDocument>(`/documents/${FERRY}`)
  const last = spineOf(body as StoryDocument).slice(-2)
  const steps = last.map(({ id }) => ({ type: 'set', id, key: 'piece', value: null }))
  await ask(`/documents/${FERRY}/steps`, 'POST', {
    base: revision,
    entries: [{ id: randomUUID(), author: randomUUID(), label: '', steps }],
  })
  const pieces = await ask<PieceRow[]>(`/pieces?story=${FERRY}`)
  const gone = pieces.filter(({ id }) => last.some(({ piece }) => piece === id))
  await Promise.all(gone.map(({ id }) => ask(`/documents/${id}`, 'PATCH', { aside: true })))
}
