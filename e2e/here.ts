import { inject } from 'vitest'

export interface Application {
  /** Where it is, with the demo in it. */
  address: string
  /** For tests that start a server of their own: the database, and the folder with the media. */
  database: string
  data: string
}

declare module 'vitest' {
  interface ProvidedContext {
    lanes: Application[]
  }
}

/** The application of the lane that this test file is in. */
export const here: Application = inject('lanes')[Number(process.env.VITEST_POOL_ID) - 1]
