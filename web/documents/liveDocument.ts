import type { AnyStep, Body, Kind, LoggedEntry, StoredDocument, Verdict } from '../../contract/documents'
import { actualityType } from '../../core/edits/actuality'
import { storyType } from '../../core/page/story'
import type { DocumentType } from '../../core/steps/document'
import type { Entry } from '../../core/steps/history'
import { rebaseWaiting, Replica, type Received } from '../../core/steps/replica'
import { tapeType } from '../../core/tape/tape'
import { get, post, Refused, Unreachable } from '../api/client'
import { onNotice } from '../api/notices'
import { author, forget, keep, type WaitingActs } from './waiting'

const types = { actuality: actualityType, story: storyType, tape: tapeType } as unknown as Record<Kind, DocumentType<Body, AnyStep>>

export type SaveState = 'saved' | 'saving' | 'waiting'

export interface ActOptions {
  label: string
  quiet?: boolean
}

/**
 * A document that is worked on: acts are applied at once, wait in the browser's own storage, and
 * go to the server one after the other; what others do comes in as it is heard of.
 */
export class LiveDocument {
  private replica: Replica<Body, AnyStep> | null = null
  private readonly listeners = new Set<() => void>()
  private readonly mappers = new Set<(steps: AnyStep[]) => void>()
  private sending = false
  private retry: ReturnType<typeof setTimeout> | undefined
  private stored: Promise<void> = Promise.resolve()
  unreachable = false
  /** Said once, when an act had to be left out. */
  onRefusal: (reason: string) => void = () => undefined

  private constructor(
    readonly id: string,
    readonly kind: Kind,
  ) {
    onNotice((notice) => {
      if (notice === 'missed' || (notice.about === 'document' && notice.id === id && notice.revision > (this.replica?.revision ?? 0))) void this.catchUp()
    })
  }

  static async open(id: string, kind: Kind, left: Promise<WaitingActs[]>): Promise<LiveDocument> {
    const live = new LiveDocument(id, kind)
    const [stored, log] = await Promise.all([get<StoredDocument>(`/documents/${id}`), get<LoggedEntry[]>(`/documents/${id}/log?since=0`)])
    const upTo = log.filter((entry) => entry.revision <= stored.revision)
    live.replica = new Replica(types[kind], stored.body, stored.revision, upTo)
    void left.then(async (all) => {
      for (const acts of all) await live.adopt(acts)
      live.changed()
      void live.catchUp()
    })
    return live
  }

  /** Acts that a tab which is gone left behind. */
  private async adopt(acts: WaitingActs): Promise<void> {
    const log = this.replica!.log
    const { waiting, dropped } = rebaseWaiting(types[this.kind], acts.entries, log.filter((entry) => entry.revision > acts.revision))
    const known = new Set(log.map((entry) => entry.id))
    for (const { steps, ...meta } of waiting) {
      if (known.has(meta.id)) continue
      try {
        this.replica!.act(steps, meta)
        this.map(steps)
      } catch {
        dropped.push({ ...meta, steps })
      }
    }
    if (dropped.length) this.onRefusal('Something that waited here touched what was changed meanwhile, and was left out.')
    await this.store()
    await forget(acts.key)
  }

  get body(): Body {
    return this.replica!.current
  }

  get state(): SaveState {
    if (!this.replica?.waiting.length) return 'saved'
    return this.unreachable ? 'waiting' : 'saving'
  }

  act(steps: readonly AnyStep[], { label, quiet }: ActOptions): void {
    if (!steps.length) return
    this.put(steps, { id: crypto.randomUUID(), author, label, ...(quiet ? { quiet } : {}) })
  }

  private put(steps: readonly AnyStep[], meta: Omit<Entry<AnyStep>, 'steps' | 'inverse'>): void {
    this.replica!.act(steps, meta)
    this.map([...steps])
    this.stored = this.store()
    this.changed()
    void this.send()
  }

  /** Takes back or does again; says what it was, or why it could not be. */
  takeBack(which: 'undo' | 'redo'): { label: string } | 'conflict' | null {
    const found = this.replica!.takingBack(which, author)
    if (found === null || found === 'conflict') return found
    const label = found.target.label
    this.put(found.steps, { id: crypto.randomUUID(), author, label, undoes: found.target.id })
    return { label }
  }

  private store = (): Promise<void> => keep({ document: this.id, kind: this.kind, revision: this.replica!.revision, entries: this.replica!.waiting })

  private async send(): Promise<void> {
    if (this.sending) return
    this.sending = true
    clearTimeout(this.retry)
    try {
      while (this.replica!.waiting.length) {
        const { id, author: by, label, steps, undoes, quiet } = this.replica!.waiting[0]
        await this.stored
        const verdict = await post<Verdict>(`/documents/${this.id}/steps`, { base: this.replica!.revision, entry: { id, author: by, label, steps, ...(undoes ? { undoes } : {}), ...(quiet ? { quiet } : {}) } })
        this.unreachable = false
        this.take(this.replica!.receive(verdict.since))
        const first = this.replica!.waiting[0]
        if (verdict.taken) {
          if (first?.id === id) this.take(this.replica!.receive([{ ...first, revision: verdict.revision }]))
        } else if (first?.id === id) {
          // else it ran into the same thing here already, and that was said
          this.replica!.drop(id).delta.forEach((step) => this.map([step]))
          this.onRefusal(verdict.reason)
        }
        this.stored = this.store()
        this.changed()
      }
    } catch (error) {
      if (error instanceof Refused && error.status < 500) {
        this.onRefusal(error.message)
        this.take(this.replica!.drop(this.replica!.waiting[0].id))
        this.stored = this.store()
      } else this.unreachable = true
      this.retry = setTimeout(() => void this.send(), 700)
      this.changed()
    } finally {
      this.sending = false
    }
  }

  /** Fetches what came in since, and sends what waits. */
  private async catchUp(): Promise<void> {
    if (!this.replica) return
    if (this.replica.waiting.length) return this.send()
    try {
      const log = await get<LoggedEntry[]>(`/documents/${this.id}/log?since=${this.replica.revision}`)
      this.take(this.replica.receive(log))
      this.unreachable = false
      this.changed()
    } catch (error) {
      if (error instanceof Unreachable) this.unreachable = true
    }
  }

  private take({ delta, dropped }: Received<AnyStep>): void {
    if (delta.length) this.map(delta)
    if (dropped.length) {
      this.stored = this.store()
      this.onRefusal('Somebody changed the same place first, so your last act was left out. You see the newer state.')
    }
  }

  private map(steps: AnyStep[]): void {
    this.mappers.forEach((mapper) => mapper(steps))
  }

  /** Hears of every change as steps, so that places in the document can follow it. */
  onSteps(mapper: (steps: AnyStep[]) => void): () => void {
    this.mappers.add(mapper)
    return () => void this.mappers.delete(mapper)
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener)
    return () => void this.listeners.delete(listener)
  }

  private changed(): void {
    this.listeners.forEach((listener) => listener())
  }
}
