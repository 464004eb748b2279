import { join, resolve } from 'node:path'

/** Where this server finds what it needs; all of it from the environment. */
export interface Config {
  port: number
  /** Folder that holds the media store. */
  data: string
  databaseUrl: string
  /** Folder with the built interface, or null where a development server shows it. */
  web: string | null
}

export function configFromEnvironment(env = process.env): Config {
  if (!env.PLAIN_CUT_DATABASE) throw new Error('PLAIN_CUT_DATABASE is not set: start with npm start')
  return {
    port: Number(env.PORT ?? 4170),
    data: resolve(env.PLAIN_CUT_DATA ?? join(import.meta.dirname, '..', '.data')),
    databaseUrl: env.PLAIN_CUT_DATABASE,
    web: env.PLAIN_CUT_WEB === 'none' ? null : join(import.meta.dirname, '..', 'dist'),
  }
}
