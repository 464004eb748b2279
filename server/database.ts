import 'reflect-metadata'
import { DataSource } from 'typeorm'
import { DocumentEntity, EntryEntity, SendEntity, TapeEntity } from './entities'
import { Beginning1764000000000 } from './migrations/1764000000000-beginning'

/** Connects and brings the schema up to date. */
export async function openDatabase(url: string): Promise<DataSource> {
  const database = new DataSource({
    type: 'postgres',
    url,
    entities: [DocumentEntity, EntryEntity, TapeEntity, SendEntity],
    migrations: [Beginning1764000000000],
    poolSize: 8,
  })
  await database.initialize()
  await database.runMigrations()
  return database
}
