import PgBoss from 'pg-boss'
import { log } from './log'

/** Long work waits in PostgreSQL, so that more workers only need the database and the media store. */
export class Jobs {
  private readonly boss: PgBoss

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
    for (let i = 0; i < atOnce; i++)
      await this.boss.work<T>(queue, options, async ([job]) => {
        await act(job.data)
      })
  }

  async add(queue: string, data: object): Promise<void> {
    await this.boss.send(queue, data, { retryLimit: 1, expireInMinutes: 60 })
  }

  close = (): Promise<void> => this.boss.stop({ graceful: false, wait: true })
}
