import type { RequestHandler } from 'express'
import pg from 'pg'
import type { DataSource, EntityManager } from 'typeorm'
import type { Notice } from '../contract/desk'

/** What PostgreSQL's notices go by. */
export const CHANNEL = 'plain_cut'

/** Tells every listener of every server process; inside a transaction, once it is committed. */
export async function tell(database: DataSource | EntityManager, notice: Notice): Promise<void> {
  await database.query('select pg_notify($1, $2)', [CHANNEL, JSON.stringify(notice)])
}

/** Hands on what PostgreSQL notifies to the browsers that listen, as server-sent events. */
export class Notices {
  private readonly listeners = new Set<(line: string) => void>()
  private client: pg.Client | null = null
  private closed = false
  private reopening: ReturnType<typeof setTimeout> | undefined

  constructor(private readonly url: string) {}

  async open(): Promise<void> {
    const client = new pg.Client({ connectionString: this.url })
    client.on('notification', ({ payload }) => this.send(`data: ${payload}\n\n`))
    client.on('error', () => this.again())
    client.on('end', () => this.again())
    await client.connect()
    await client.query(`listen ${CHANNEL}`)
    this.client = client
  }

  /** The connection is gone: another one is made, as often as it takes. */
  private again(): void {
    if (this.closed || this.reopening) return
    this.reopening = setTimeout(() => void this.reopen(), 300)
  }

  private async reopen(): Promise<void> {
    this.reopening = undefined
    try {
      await this.open()
      this.send('event: missed\ndata: {}\n\n') // something may have been: look again
    } catch {
      this.again()
    }
  }

  private send(line: string): void {
    for (const listener of this.listeners) listener(line)
  }

  stream: RequestHandler = (request, response) => {
    response.set({ 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store' })
    response.write('retry: 500\n\n')
    const listener = (line: string) => response.write(line)
    this.listeners.add(listener)
    const alive = setInterval(() => response.write(': alive\n\n'), 15_000)
    request.on('close', () => {
      clearInterval(alive)
      this.listeners.delete(listener)
    })
  }

  async close(): Promise<void> {
    this.closed = true
    clearTimeout(this.reopening)
    await this.client?.end()
  }
}
