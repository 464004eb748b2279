import { useEffect, useState, useSyncExternalStore } from 'react'
import { toast } from 'sonner'
import { create } from 'zustand'
import type { BodyOf, Kind, StoredDocument } from '../../contract/documents'
import { get } from '../api/client'
import { LiveDocument, type SaveState } from './liveDocument'
import { orphans } from './waiting'

/** Documents that are open in this tab. They stay open, so that coming back to one is at once. */
const open = new Map<string, Promise<unknown>>()
const transcripts = new Map<string, Promise<LiveDocument<'transcript'>>>()

/** How each of them stands with the server. */
export const useSaving = create<{ states: Record<string, SaveState> }>(() => ({ states: {} }))

export function liveDocument<K extends Kind>(id: string, kind: K, known?: StoredDocument<K>): Promise<LiveDocument<K>> {
  // an id belongs to one document, of one kind
  let live = open.get(id) as Promise<LiveDocument<K>> | undefined
  if (!live) {
    live = begin(id, kind, known)
    open.set(id, live)
    live.catch(() => open.delete(id))
  }
  return live
}

/** The document with a tape's words; it is asked for by its tape. */
export function liveTranscript(tape: string): Promise<LiveDocument<'transcript'>> {
  let live = transcripts.get(tape)
  if (!live) {
    live = get<StoredDocument<'transcript'>>(`/tapes/${tape}/words`).then((known) => liveDocument(known.id, 'transcript', known))
    transcripts.set(tape, live)
    live.catch(() => transcripts.delete(tape))
  }
  return live
}

const left = orphans()

async function begin<K extends Kind>(id: string, kind: K, known?: StoredDocument<K>): Promise<LiveDocument<K>> {
  const live = await LiveDocument.open(
    id,
    kind,
    left.then((all) => all.filter((acts) => acts.document === id)),
    known,
  )
  live.onRefusal = (reason) => toast.warning(reason, { duration: 8000 })
  const note = () => useSaving.setState(({ states }) => ({ states: { ...states, [id]: live.state } }))
  live.subscribe(note)
  note()
  return live
}

/** Sends what a tab that is gone left waiting, whether or not its document is looked at again. */
export async function sendOrphans(): Promise<void> {
  for (const acts of await left) await liveDocument(acts.document, acts.kind).catch(() => undefined)
}

/** A document that is open, with its body as it is now. */
export interface OpenDocument<K extends Kind> {
  live: LiveDocument<K>
  body: BodyOf<K>
}

/** A document to work on, a transcript by its tape; null until it is here, or the error that kept it. */
export function useDocument<K extends Kind>(id: string, kind: K): OpenDocument<K> | { error: Error } | null {
  const [found, setFound] = useState<{ id: string; live: LiveDocument<K> } | { id: string; error: Error } | null>(null)
  useEffect(() => {
    let current = true
    const asked = kind === 'transcript' ? (liveTranscript(id) as unknown as Promise<LiveDocument<K>>) : liveDocument(id, kind)
    asked.then(
      (live) => current && setFound({ id, live }),
      (error: Error) => current && setFound({ id, error }),
    )
    return () => {
      current = false
    }
  }, [id, kind])
  const live = found?.id === id && 'live' in found ? found.live : null
  const body = useSyncExternalStore(live?.subscribe ?? nothing, () => live?.body ?? null)
  if (found?.id === id && 'error' in found) return { error: found.error }
  return live && body ? { live, body } : null
}

const nothing = () => () => undefined

// for tests and measurements, which drive the real page
Object.assign(globalThis, { plainCutDocument: async (id: string) => ((await open.get(id)) as LiveDocument | undefined)?.body })
