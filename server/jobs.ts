import PgBoss from 'pg-boss'
import { log } from './log'

/** Long work waits in PostgreSQL, so that more workers only need the database and the media store. */
export class Jobs {
  private readonly boss: PgBoss
  /** Who works on what in this process, to be woken at once. */
  private readonly workers = new Map<string, string[]>()

  constructor(url: string) {
    this.boss = new PgBoss({ connectionString: url, schema: 'jobs', max: 4 })
    this.boss.on('error', (error) => log.error({ error }, 'jobs'))
  }

  async open(): Promise<void> {
    await this.boss.start()
  }

  /** Sets up one kind of work. Whatever is done must be safe to do twice. */
  async work<T extends object>(queue: string, atOnce: number, act: (data: T) => Promise<void>): Promise<void> {
    await this.boss.createQueue(queue)
    const options = { pollingIntervalSeconds: 0.5, batchSize: 1 }
    for (let i = 0; i < atOnce; i++) {
      const worker = await this.boss.work<T>(queue, options, async ([job]) => {
        await act(job.data)
      })
      this.workers.set(queue, [...(this.workers.get(queue) ?? []), worker])
    }
  }

  async add(queue: string, data: object): Promise<void> {
    await this.boss.send(queue, data, { retryLimit: 1, expireInMinutes: 60 })
    for (const worker of this.workers.get(queue) ?? []) this.boss.notifyWorker(worker)
  }

  close = (): Promise<void> => this.boss.stop({ graceful: false, wait: true })
}
