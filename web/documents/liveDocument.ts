import type { BodyOf, Kind, LoggedEntry, StepOf, StoredDocument, ToldEntry, Verdict } from '../../contract/documents'
import { documentTypes as types } from '../../contract/documentTypes'
import { SENT_AT_ONCE } from '../../contract/limits'
import type { Entry } from '../../core/steps/history'
import type { Identified, RecordStep } from '../../core/steps/records'
import { rebaseWaiting, Replica, type Received } from '../../core/steps/replica'
import { bothChanges } from '../../core/steps/text'
import { get, post, Refused, Unreachable } from '../api/client'
import { onNotice } from '../api/notices'
import { checkedActs } from './checkedActs'
import { author, forget, keep, type WaitingActs } from './waiting'

export type SaveState = 'saved' | 'saving' | 'waiting'

export interface ActOptions {
  label: string
  quiet?: boolean
  /** Acts that came from one decision share this, and are undone as one. */
  together?: string
}

/** An act is kept from the server for so long at most. */
const LONGEST_HELD_MS = 1500
/** What is written is gathered for so long before it is sent; it is kept here at once. */
const GATHERED_MS = 250
/** Answers that refuse the act itself. All others (not allowed in, too many, too large, a gateway) say nothing of it: it waits. */
const ABOUT_THE_ACT = new Set([400, 404, 409, 410, 422])

/** Of several that were done together, it is said that it is one of them. */
const aboutOne = ({ together, label, steps }: Entry<StepOf<Kind>>, reason: string): string =>
  together && steps[0]?.type !== 'write' ? `One edit of “${label}” was not applied, the others were. ${reason}` : reason

type WriteStep = Extract<RecordStep<Identified>, { type: 'write' }>

/**
 * A document that is worked on: acts are applied at once, wait in the browser's own storage, and
 * go to the server one after the other; what others do comes in as it is heard of.
 */
export class LiveDocument<K extends Kind = Kind> {
  private replica: Replica<BodyOf<K>, StepOf<K>> | null = null
  private readonly listeners = new Set<() => void>()
  private readonly mappers = new Set<(steps: StepOf<K>[]) => void>()
  /** What was done before, and what was left waiting, is at hand too. */
  ready: Promise<void> = Promise.resolve()
  /** Acts that are still being made better. */
  private readonly held = new Set<string>()
  private sending = false
  /** The acts that are being sent: they stay as they are. */
  private onTheirWay: readonly string[] = []
  /** So many acts are sent at once; after a failure one, so that it is known which it is about. */
  private atOnce = SENT_AT_ONCE
  /** Own acts that undo could not take back: it goes on with what lies before them, until something else is done. */
  private readonly passed = new Set<string>()
  /** Whether the browser's own storage takes what waits. */
  private kept = true
  /** The newest revision that anybody told of. */
  private heardOf = 0
  private retry: ReturnType<typeof setTimeout> | undefined
  private stored: Promise<void> = Promise.resolve()
  unreachable = false
  /** Said once, when an act had to be left out. */
  onRefusal: (reason: string) => void = () => undefined

  private constructor(
    readonly id: string,
    readonly kind: K,
  ) {
    onNotice((notice) => {
      if (notice === 'missed' || notice === 'opened') this.heardOf = Infinity
      else if (notice.about === 'document' && notice.id === id) this.heardOf = Math.max(this.heardOf, notice.revision)
      else return
      if (this.behind) void this.catchUp()
    })
  }

  /** `left`: acts that a tab which is gone left waiting. `known`: the document, where it came by another way. */
  static async open<K extends Kind>(
    id: string,
    kind: K,
    left: Promise<WaitingActs[]>,
    known?: StoredDocument<K>,
  ): Promise<LiveDocument<K>> {
    const live = new LiveDocument(id, kind)
    // of the log only what undo, and what was left, can reach back to; what is shown does not wait for it
    const logged = left.then((all) =>
      get<LoggedEntry<K>[]>(
        `/documents/${id}/log?own=${author}${all.length ? `&since=${Math.min(...all.map(({ revision }) => revision))}` : ''}`,
      ),
    )
    const stored = known ?? (await get<StoredDocument<K>>(`/documents/${id}`))
    live.replica = new Replica(types[kind], stored.body, stored.revision, [])
    // what was left on the very revision that is here needs no log: it is here again without a server, too
    const reach = Promise.all([left, logged]).catch(async (error): Promise<[WaitingActs[], LoggedEntry<K>[]]> => {
      const all = await left
      if (!(error instanceof Unreachable) || all.some(({ revision }) => revision !== stored.revision)) throw error
      return [all, []]
    })
    live.ready = reach.then(async ([all, log]) => {
      live.replica!.log.unshift(...log.filter((entry) => entry.revision <= stored.revision))
      for (const acts of all) await live.adopt(acts)
      live.changed()
      void live.catchUp()
    })
    live.ready.catch(() => undefined) // as good as without what was before; the next visit asks again
    return live
  }

  /** Acts that a tab which is gone left behind. */
  private async adopt(acts: WaitingActs): Promise<void> {
    const log = this.replica!.log
    const entries = await checkedActs(this.kind, acts)
    if (entries.length < acts.entries.length) this.onRefusal('An edit that was waiting here could not be read and was not applied.')
    const { waiting, dropped } = rebaseWaiting(
      types[this.kind],
      entries,
      log.filter((entry) => entry.revision > acts.revision),
    )
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
    if (dropped.length) this.onRefusal('An edit that was waiting here conflicted with newer changes and was not applied.')
    await this.store()
    await forget(acts.key)
  }

  get body(): BodyOf<K> {
    return this.replica!.current
  }

  get state(): SaveState {
    if (!this.replica?.waiting.length) return 'saved'
    return this.unreachable ? 'waiting' : 'saving'
  }

  act(steps: readonly StepOf<K>[], options: ActOptions): void {
    if (steps.length && !options.quiet) this.passed.clear()
    if (steps.length) this.put(steps, { id: crypto.randomUUID(), author, ...options })
  }

  /**
   * Does something at once that can be done better a moment later: until then nobody else hears of
   * it, and it is one act. `better` is on the document as it was before; it is left where it takes too
   * long, or something was done meanwhile. Resolves to whether it was taken.
   */
  async actAtOnce(steps: readonly StepOf<K>[], { label }: ActOptions, better: Promise<readonly StepOf<K>[] | null>): Promise<boolean> {
    if (!steps.length) return false
    const id = crypto.randomUUID()
    this.held.add(id)
    this.put(steps, { id, author, label })
    const { revision } = this.replica!
    const found = await Promise.race([better.catch(() => null), new Promise<null>((late) => setTimeout(() => late(null), LONGEST_HELD_MS))])
    const last = this.replica!.waiting.at(-1)
    const taken =
      found !== null && last?.id === id && this.replica!.revision === revision && this.instead([...last.inverse, ...found], found)
    this.held.delete(id)
    this.changed()
    void this.send()
    return taken
  }

  /** The newest act becomes another one; `delta` is what that changes in what is shown. False where it cannot be. */
  private instead(delta: readonly StepOf<K>[], found: readonly StepOf<K>[]): boolean {
    try {
      this.replica!.instead(found)
    } catch {
      return false
    }
    this.map([...delta])
    this.stored = this.store()
    return true
  }

  /**
   * Writes in a text. It is kept at once, and sent with what else is written in the next moment, as one act:
   * what is still here and goes on at the same place becomes one with it.
   */
  write(step: WriteStep, { label, together }: ActOptions & { together: string }): void {
    const last = this.replica!.waiting.at(-1)
    const [before, ...more] = last?.steps ?? []
    const goesOn =
      last &&
      !this.onTheirWay.includes(last.id) &&
      last.together === together &&
      !last.undoes &&
      !more.length &&
      before?.type === 'write' &&
      before.id === step.id &&
      before.key === step.key
    if (goesOn && this.instead([step], [{ ...step, change: bothChanges((before as WriteStep).change, step.change) }])) return this.changed()
    const id = crypto.randomUUID()
    this.held.add(id)
    this.put([step], { id, author, label, together })
    setTimeout(() => {
      this.held.delete(id)
      void this.send()
    }, GATHERED_MS)
  }

  /** Gives whether it could be done; where not, it was said. */
  private put(steps: readonly StepOf<K>[], meta: Omit<Entry<StepOf<K>>, 'steps' | 'inverse'>): boolean {
    try {
      this.replica!.act(steps, { ...meta, at: new Date().toISOString() })
    } catch (error) {
      if (!(error instanceof RangeError)) throw error
      this.onRefusal(`That cannot be done: ${error.message}.`)
      return false
    }
    this.acted(steps)
    return true
  }

  private acted(steps: readonly StepOf<K>[]): void {
    this.map([...steps])
    this.stored = this.store()
    this.changed()
    void this.send()
  }

  /**
   * Does several things that came from one decision: each is an act of its own, so that one which somebody else's work
   * refuses leaves the others, and they are undone as one. Each is made on the document as those before it left it; one
   * that cannot be done is left out. Each is told the id of its act. Returns how many were done.
   */
  actEach(
    makes: readonly ((body: BodyOf<K>, act: string) => readonly StepOf<K>[])[],
    { label, together = crypto.randomUUID() }: ActOptions,
  ): number {
    const at = new Date().toISOString()
    const done: StepOf<K>[] = []
    let count = 0
    for (const make of makes) {
      try {
        const id = crypto.randomUUID()
        const steps = make(this.replica!.current, id)
        if (!steps.length) continue
        this.replica!.act(steps, { id, author, label, together, at })
        done.push(...steps)
        count++
      } catch (error) {
        if (!(error instanceof RangeError)) throw error
      }
    }
    if (count) this.acted(done)
    return count
  }

  /**
   * Takes back or does again, with all that was done together; says what it was. What somebody has since changed stays
   * as it is: `refused` if that is all of it. The next call then goes on with what lies before it.
   */
  takeBack(which: 'undo' | 'redo'): { label: string; refused: boolean } | null {
    const first = this.takeBackOne(which)
    if (!first) return null
    const { label, together } = first
    let { refused } = first
    while (together && this.replica!.next(which, author, this.passed)?.together === together)
      if (!this.takeBackOne(which)!.refused) refused = false
    return { label, refused }
  }

  private takeBackOne(which: 'undo' | 'redo'): { label: string; together?: string; refused: boolean } | null {
    const found = this.replica!.takingBack(which, author, this.passed)
    if (!found) return null
    const { id, label, together } = found.target
    const meta = { id: crypto.randomUUID(), author, label, undoes: id, ...(together ? { together } : {}) }
    const done = found.steps !== null && this.put(found.steps, meta)
    if (!done) this.passed.add(id)
    return { label, refused: !done, ...(together ? { together } : {}) }
  }

  /** When that was done which undo or redo would take back now; null where there is none. */
  nextAt(which: 'undo' | 'redo'): string | null {
    const next = this.replica!.next(which, author, this.passed)
    return next && (next.at ?? '')
  }

  /** Never fails: where the browser keeps nothing, acts go to the server all the same, and it is said once. */
  private store = (): Promise<void> =>
    keep({ document: this.id, kind: this.kind, revision: this.replica!.revision, entries: this.replica!.waiting }).catch(() => {
      if (!this.kept) return
      this.kept = false
      this.onRefusal(
        'This browser can’t store anything now (its storage is full or switched off). Your edits go to the server, but ' +
          'what has not reached it would be lost with this tab.',
      )
    })

  /** What waits, in its order, up to the first that is held. */
  private toSend(): Entry<StepOf<K>>[] {
    const { waiting } = this.replica!
    const held = waiting.findIndex(({ id }) => this.held.has(id))
    return waiting.slice(0, Math.min(this.atOnce, held < 0 ? waiting.length : held))
  }

  private async send(): Promise<void> {
    if (this.sending) return
    this.sending = true
    clearTimeout(this.retry)
    try {
      while (this.replica!.waiting.length && !this.held.has(this.replica!.waiting[0].id)) {
        const sent = this.toSend()
        this.onTheirWay = sent.map(({ id }) => id)
        await this.stored
        const entries = sent.map(({ inverse: _, at: __, ...entry }) => entry)
        const verdict = await post<Verdict<K>>(`/documents/${this.id}/steps`, { base: this.replica!.revision, entries })
        this.unreachable = false
        this.atOnce = SENT_AT_ONCE
        this.take(this.replica!.receive(verdict.since))
        verdict.taken.forEach((revision, i) => {
          const first = this.replica!.waiting[0]
          if (first?.id === sent[i].id) this.take(this.replica!.receive([{ ...first, revision }]))
        })
        const refused = sent[verdict.taken.length]
        if (verdict.refused !== null && this.replica!.waiting[0]?.id === refused.id) {
          // else it ran into the same thing here already, and that was said
          this.replica!.drop(refused.id).delta.forEach((step) => this.map([step]))
          this.onRefusal(aboutOne(refused, verdict.refused))
        }
        this.stored = this.store()
        this.changed()
      }
    } catch (error) {
      const alone = this.onTheirWay.length === 1
      this.atOnce = 1
      if (alone && error instanceof Refused && ABOUT_THE_ACT.has(error.status)) {
        this.onRefusal(error.message)
        this.take(this.replica!.drop(this.replica!.waiting[0].id))
        this.stored = this.store()
      } else if (alone || !(error instanceof Refused)) this.unreachable = true
      this.retry = setTimeout(() => void this.send(), 700)
      this.changed()
    } finally {
      this.sending = false
      this.onTheirWay = []
    }
    // what was told of while an act was on its way, and is not in its answer
    if (this.behind && !this.replica!.waiting.length) void this.catchUp()
  }

  private get behind(): boolean {
    return this.heardOf > (this.replica?.revision ?? 0)
  }

  /** Fetches what came in since, and sends what waits. */
  private async catchUp(): Promise<void> {
    if (!this.replica) return
    if (this.replica.waiting.length) return this.send()
    try {
      const log = await get<ToldEntry<K>[]>(`/documents/${this.id}/log?since=${this.replica.revision}`)
      this.take(this.replica.receive(log))
      if (this.heardOf === Infinity) this.heardOf = this.replica.revision
      this.unreachable = false
      this.changed()
    } catch (error) {
      if (error instanceof Unreachable) this.unreachable = true
    }
  }

  private take({ delta, dropped }: Received<StepOf<K>>): void {
    if (delta.length) this.map(delta)
    if (!dropped.length) return
    this.stored = this.store()
    const reason = 'Somebody changed the same place first, so your last edit was not applied.'
    this.onRefusal(
      dropped.length === 1
        ? aboutOne(dropped[0], reason)
        : `Somebody changed the same places first: ${dropped.length} of your edits were not applied.`,
    )
  }

  private map(steps: StepOf<K>[]): void {
    this.mappers.forEach((mapper) => mapper(steps))
  }

  /** Hears of every change as steps, so that places in the document can follow it. */
  onSteps(mapper: (steps: StepOf<K>[]) => void): () => void {
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
