import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { rmSync } from 'node:fs'
import { buildOnce } from '../scripts/build'
import { freePort, startCluster, type Cluster } from '../scripts/cluster'
import { ownFolder } from '../scripts/leftOvers'
import { serve, type Serving } from '../scripts/serving'
import { takeIn } from '../server/intake/intake'
import { tend } from '../server/intake/tend'
import { configFromEnvironment } from '../server/config'
import { closeServices, openServices, type Services } from '../server/services'
import { RATE, type Frames } from '../core/time'
import type { Word } from '../core/tape/words'
import { sound } from './speechlike'

/** A Plain Cut of its own for a measurement, with nothing in it but what is measured. */
export interface Newsroom {
  cluster: Cluster
  data: string
  port: number
  address: string
  start(): Promise<Serving>
  close(): Promise<void>
}

export async function openNewsroom(): Promise<Newsroom> {
  buildOnce()
  const data = ownFolder('measure')
  const cluster = await startCluster(data)
  const port = await freePort()
  return {
    cluster,
    data,
    port,
    address: `http://localhost:${port}`,
    start: () =>
      serve({
        PORT: String(port),
        PLAIN_CUT_DATA: data,
        PLAIN_CUT_DATABASE: cluster.url,
        PLAIN_CUT_DEMO: 'none',
        PLAIN_CUT_RECOGNISE: 'asked',
      }),
    close: async () => {
      await cluster.stop()
      rmSync(data, { recursive: true, force: true })
    },
  }
}

/** What a server works with, in this process. */
export const servicesOf = ({ cluster, data, port }: Newsroom): Promise<Services> =>
  openServices(
    configFromEnvironment({
      PORT: String(port),
      PLAIN_CUT_DATA: data,
      PLAIN_CUT_DATABASE: cluster.url,
      PLAIN_CUT_WEB: 'none',
      PLAIN_CUT_RECOGNISE: 'asked',
    }),
  )

/** Brings a made-up tape in, by the way that all tapes take; gives its id. */
export async function makeTape(newsroom: Newsroom, length: Frames, words: readonly Word[]): Promise<string> {
  const services = await servicesOf(newsroom)
  const encoder = spawn('ffmpeg', [
    '-v',
    'error',
    '-f',
    'f32le',
    '-ar',
    String(RATE),
    '-ac',
    '1',
    '-i',
    'pipe:0',
    '-c:a',
    'pcm_s16le',
    '-f',
    'wav',
    'pipe:1',
  ])
  const feeding = (async () => {
    for (const block of sound(length, words)) if (!encoder.stdin.write(new Uint8Array(block.buffer))) await once(encoder.stdin, 'drain')
    encoder.stdin.end()
  })()
  const id = await takeIn(services, encoder.stdout, 'long tape.wav', { name: 'Long tape', words: [...words] })
  await feeding
  await tend(services, { id })
  await closeServices(services)
  return id
}
