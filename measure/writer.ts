import type { AnyStep, Body, LoggedEntry, Verdict } from '../contract/documents'
import { applyAll, exchange } from '../core/steps/document'
import { typeOf } from '../contract/documentTypes'
import type { Copies } from './copies'

/**
 * A document as several simulated people have it. What it is at a revision is the same for all who know that revision, so
 * it is worked out once for all of them: twenty browsers share one machine with the server here, as they never do.
 */
export class SharedDocument {
  private readonly bodies = new Map<number, Body>()
  private latest: number

  constructor(
    readonly id: string,
    readonly kind: Body['kind'],
    /** As it was at first, and at which revision. */
    readonly begun: { body: Body; revision: number },
  ) {
    this.latest = begun.revision
    this.bodies.set(begun.revision, begun.body)
  }

  at(revision: number): Body {
    return this.bodies.get(revision)!
  }

  hear(entries: readonly Pick<LoggedEntry, 'revision' | 'steps'>[]): void {
    for (const { revision, steps } of entries) {
      if (revision !== this.latest + 1) continue
      this.bodies.set(revision, applyAll(typeOf(this.kind), this.at(this.latest), steps))
      this.latest = revision
    }
  }
}

/** What one person knows of a document: how far, and every act that was heard of on the way. */
interface Known {
  revision: number
  heard: Pick<LoggedEntry, 'revision' | 'steps'>[]
}

/** One of several people, who acts as fast as the server answers. */
export class Writer {
  private readonly known = new Map<string, Known>()
  readonly author = crypto.randomUUID()

  constructor(private readonly server: Copies) {}

  private of({ id, begun }: SharedDocument): Known {
    let known = this.known.get(id)
    if (!known) this.known.set(id, (known = { revision: begun.revision, heard: [] }))
    return known
  }

  body(document: SharedDocument): Body {
    return document.at(this.of(document).revision)
  }

  /** Acts, and waits for the answer; resolves to the act's id, or null where it was refused. */
  async act(document: SharedDocument, steps: AnyStep[]): Promise<string | null> {
    const known = this.of(document)
    const entry = { id: crypto.randomUUID(), author: this.author, label: 'an act', steps }
    const verdict = await this.server.ask<Verdict>(`/documents/${document.id}/steps`, {
      method: 'POST',
      body: JSON.stringify({ base: known.revision, entries: [entry] }),
    })
    const heard: Known['heard'] = verdict.since.map(({ revision, steps: theirs }) => ({ revision, steps: theirs }))
    const [revision] = verdict.taken
    if (revision !== undefined) {
      const type = typeOf(document.kind)
      const mine = heard.reduce((left, one) => exchange(type, left, one.steps)!.mine, steps)
      heard.push({ revision, steps: mine })
    }
    document.hear(heard)
    known.heard.push(...heard)
    known.revision = heard.at(-1)?.revision ?? known.revision
    return revision === undefined ? null : entry.id
  }

  /** The document as all that this person heard makes it, with what came since; null where this person never had it. */
  async copyOf(document: SharedDocument): Promise<Body | null> {
    const known = this.known.get(document.id)
    if (!known) return null
    const rest = await this.server.since(document.id, known.revision)
    return [...known.heard, ...rest].reduce((body, { steps }) => applyAll(typeOf(document.kind), body, steps), document.begun.body)
  }
}
