import type { DataSource } from 'typeorm'
import type { Config } from './config'
import { openDatabase } from './database'
import { Jobs } from './jobs'
import { MediaStore } from './media/store'
import { Notices } from './notices'
import { join } from 'node:path'

/** What every part of the server works with. */
export interface Services {
  config: Config
  database: DataSource
  store: MediaStore
  jobs: Jobs
  notices: Notices
}

export async function openServices(config: Config): Promise<Services> {
  const database = await openDatabase(config.databaseUrl)
  const store = new MediaStore(join(config.data, 'media'))
  await store.open()
  const jobs = new Jobs(config.databaseUrl)
  await jobs.open()
  const notices = new Notices(config.databaseUrl)
  await notices.open()
  return { config, database, store, jobs, notices }
}

export async function closeServices({ database, jobs, notices }: Services): Promise<void> {
  await jobs.close()
  await notices.close()
  await database.destroy()
}
