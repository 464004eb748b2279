import { join, resolve } from 'node:path'

/** Where this server finds what it needs; all of it from the environment. */
export interface Config {
  port: number
  /** Folder that holds the media store. */
  data: string
  databaseUrl: string
  /** Folder with the built interface, or null where a development server shows it. */
  web: string | null
  /** UDP port on which the telephone system reaches the newsroom's line. */
  phone: number
  /** Folder in which recorders' cards appear, each as a folder. */
  cards: string
  /** Who recognises words: `sphinx`, `sherpa:FOLDER` or the address of a service. */
  recogniser: string
  /** How long a destination may take nothing before that try is given up, in milliseconds. */
  patience: number
  /** Tapes get their words when they arrive, or only when somebody asks. */
  recogniseOnArrival: boolean
}

export function configFromEnvironment(env = process.env): Config {
  if (!env.PLAIN_CUT_DATABASE) throw new Error('PLAIN_CUT_DATABASE is not set: start with npm start')
  const port = Number(env.PORT ?? 4170)
  const data = resolve(env.PLAIN_CUT_DATA ?? join(import.meta.dirname, '..', '.data'))
  return {
    port,
    data,
    phone: Number(env.PLAIN_CUT_PHONE ?? port),
    cards: resolve(env.PLAIN_CUT_CARDS ?? join(data, 'cards')),
    recogniser: env.PLAIN_CUT_RECOGNISER ?? 'sphinx',
    recogniseOnArrival: env.PLAIN_CUT_RECOGNISE !== 'asked',
    patience: Number(env.PLAIN_CUT_PATIENCE ?? 30_000),
    databaseUrl: env.PLAIN_CUT_DATABASE,
    web: env.PLAIN_CUT_WEB === 'none' ? null : join(import.meta.dirname, '..', 'dist'),
  }
}
