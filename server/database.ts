import 'reflect-metadata'
import { log } from './log'
import { DataSource } from 'typeorm'
import {
  CallEntity,
  CardFileEntity,
  DocumentEntity,
  EditListEntity,
  EntryEntity,
  KeptEntity,
  LineUpEntity,
  SendEntity,
  TapeEntity,
} from './entities'
import { DeliveryEntity, DestinationEntity } from './delivery/rows'
import { Beginning1764000000000 } from './migrations/1764000000000-beginning'
import { Arrivals1764200000000 } from './migrations/1764200000000-arrivals'
import { Library1764300000000 } from './migrations/1764300000000-library'
import { LineUps1764400000000 } from './migrations/1764400000000-lineups'
import { Lines1764500000000 } from './migrations/1764500000000-lines'
import { Transcripts1764600000000 } from './migrations/1764600000000-transcripts'
import { Heard1764700000000 } from './migrations/1764700000000-heard'
import { Room1764800000000 } from './migrations/1764800000000-room'
import { SendFigures1764900000000 } from './migrations/1764900000000-sendFigures'
import { Paging1765000000000 } from './migrations/1765000000000-paging'
import { Takes1765100000000 } from './migrations/1765100000000-takes'
import { Pieces1765200000000 } from './migrations/1765200000000-pieces'
import { Outputs1765300000000 } from './migrations/1765300000000-outputs'
import { Renditions1765400000000 } from './migrations/1765400000000-renditions'
import { Listenings1765500000000 } from './migrations/1765500000000-listenings'
import { TidyRules1765600000000 } from './migrations/1765600000000-tidyRules'
import { Pace1765700000000 } from './migrations/1765700000000-pace'
import { Voicing1765800000000 } from './migrations/1765800000000-voicing'
import { RenditionProgress1765900000000 } from './migrations/1765900000000-renditionProgress'
import { LastLook1766000000000 } from './migrations/1766000000000-lastLook'
import { KeepRules1766400000000 } from './migrations/1766400000000-keepRules'
import { KeptTreatments1766600000000 } from './migrations/1766600000000-keptTreatments'
import { ListeningFrames1766700000000 } from './migrations/1766700000000-listeningFrames'
import { Scripts1766500000000 } from './migrations/1766500000000-scripts'
import { Keepings1766300000000 } from './migrations/1766300000000-keepings'
import { Plays1766200000000 } from './migrations/1766200000000-plays'
import { Deliveries1766100000000 } from './migrations/1766100000000-deliveries'

/** In their order: what was there is brought over step by step. */
export const MIGRATIONS = [
  Beginning1764000000000,
  Arrivals1764200000000,
  Library1764300000000,
  LineUps1764400000000,
  Lines1764500000000,
  Transcripts1764600000000,
  Heard1764700000000,
  Room1764800000000,
  SendFigures1764900000000,
  Paging1765000000000,
  Takes1765100000000,
  Pieces1765200000000,
  Outputs1765300000000,
  Renditions1765400000000,
  Listenings1765500000000,
  TidyRules1765600000000,
  Pace1765700000000,
  Voicing1765800000000,
  RenditionProgress1765900000000,
  LastLook1766000000000,
  Deliveries1766100000000,
  Plays1766200000000,
  Keepings1766300000000,
  KeepRules1766400000000,
  Scripts1766500000000,
  KeptTreatments1766600000000,
  ListeningFrames1766700000000,
]

/** Connects and brings the schema up to date. */
export async function openDatabase(url: string): Promise<DataSource> {
  const database = new DataSource({
    type: 'postgres',
    url,
    entities: [
      DocumentEntity,
      EditListEntity,
      KeptEntity,
      EntryEntity,
      TapeEntity,
      SendEntity,
      LineUpEntity,
      CallEntity,
      CardFileEntity,
      DestinationEntity,
      DeliveryEntity,
    ],
    migrations: MIGRATIONS,
    poolSize: 8,
    // all that is asked is short: compiling it takes longer than answering it. To pack a page with LZ4 costs it less than the usual way
    extra: { options: '-c jit=off -c default_toast_compression=lz4' },
    // a connection that breaks while nobody uses it is no fault: the next one is made anew
    poolErrorHandler: (error: unknown) => log.debug({ error }, 'a database connection ended'),
  })
  await database.initialize()
  await database.runMigrations()
  return database
}
