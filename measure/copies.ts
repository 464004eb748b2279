import { Agent, request } from 'node:http'
import type { AnyStep, Body, Kind, LoggedEntry, StoredDocument, Verdict } from '../contract/documents'
import type { DocumentType } from '../core/steps/document'
import { Replica, type Accepted } from '../core/steps/replica'
import { typeOf } from '../contract/documentTypes'

const AGENT = new Agent({ keepAlive: true })

/** Documents as one person has them, kept up by what the server answers, as a browser does it. */
export class Copies {
  private readonly replicas = new Map<string, Replica<Body, AnyStep>>()
  readonly author = crypto.randomUUID()

  constructor(private readonly address: string) {}

  /** By Node's own client: what asks must cost less than what answers, since both share this machine. */
  ask<T>(path: string, { method = 'GET', body }: { method?: string; body?: string } = {}): Promise<T> {
    return new Promise((done, failed) => {
      const headers = body === undefined ? {} : { 'Content-Type': 'application/json', 'Content-Length': Buffer.byteLength(body) }
      const asked = request(`${this.address}/api${path}`, { method, headers, agent: AGENT }, (answer) => {
        const parts: Buffer[] = []
        answer.on('data', (part: Buffer) => parts.push(part))
        answer.on('error', failed)
        answer.on('end', () => {
          const text = Buffer.concat(parts).toString()
          if (answer.statusCode !== 200 && answer.statusCode !== 201) return failed(new Error(`${answer.statusCode} ${text}`))
          done(JSON.parse(text) as T)
        })
      })
      asked.on('error', failed)
      asked.end(body)
    })
  }

  stored(id: string): Promise<StoredDocument> {
    return this.ask(`/documents/${id}`)
  }

  since(id: string, revision: number): Promise<LoggedEntry[]> {
    return this.ask(`/documents/${id}/log?since=${revision}`)
  }

  put(id: string, body: Body): Promise<unknown> {
    return this.ask(`/documents/${id}`, { method: 'PUT', body: JSON.stringify(body) })
  }

  get ids(): string[] {
    return [...this.replicas.keys()]
  }

  async body(id: string): Promise<Body> {
    return (await this.replica(id)).current
  }

  private async replica(id: string): Promise<Replica<Body, AnyStep>> {
    let replica = this.replicas.get(id)
    if (!replica) {
      const { kind, body, revision } = await this.stored(id)
      replica = new Replica(typeOf(kind as Kind) as DocumentType<Body, AnyStep>, body, revision, [])
      this.replicas.set(id, replica)
    }
    return replica
  }

  /** Acts, and waits for the answer; resolves to the act's id, or null where it was refused. */
  async act(id: string, steps: AnyStep[]): Promise<string | null> {
    const replica = await this.replica(id)
    const entry = replica.act(steps, { id: crypto.randomUUID(), author: this.author, label: 'an act' })
    const base = replica.revision
    const { id: act, author, label } = entry
    const verdict = await this.ask<Verdict>(`/documents/${id}/steps`, {
      method: 'POST',
      body: JSON.stringify({ base, entries: [{ id: act, author, label, steps }] }),
    })
    replica.receive(verdict.since)
    const [first] = replica.waiting
    const [revision] = verdict.taken
    if (revision === undefined) replica.drop(act)
    else if (first) replica.receive([{ ...first, revision } as Accepted<AnyStep>])
    return revision === undefined ? null : act
  }

  /** Takes in what others did since. */
  async catchUp(id: string): Promise<void> {
    const replica = await this.replica(id)
    replica.receive((await this.since(id, replica.revision)) as Accepted<AnyStep>[])
  }
}

/** The same text for the same value, whatever the order of its fields. */
export function canonical(value: unknown): string {
  return JSON.stringify(sorted(value))
}

function sorted(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(sorted)
  if (value === null || typeof value !== 'object') return value
  return Object.fromEntries(
    Object.entries(value)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([key, inner]) => [key, sorted(inner)]),
  )
}
