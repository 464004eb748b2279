import { beginThread } from '../thread'
import { Ear, type TapeFigures } from '../../core/hearing/ear'
import type { Frames } from '../../core/time'
import { PeakWriter } from './soundWriter'

/** What was heard once all of a tape was listened to. */
export interface Heard {
  figures: TapeFigures
  /** Mean square of each 20 ms, and K-weighted of each tenth of a second, a channel each. */
  looks: readonly (readonly number[])[]
  powers: Float32Array[]
}

/** Listens to a tape as it comes, from samples that are put where it says. */
export interface Listener {
  /** Somewhere for so many frames of each channel. */
  place(frames: Frames): Float32Array[]
  /** Resolves when there is room for more. What was handed over is not to be touched again. */
  add(samples: Float32Array[]): Promise<void>
  /** Brings the peaks on disk up to what was added before; resolves to how far they go. */
  show(): Promise<Frames>
  finish(): Promise<Heard>
}

export interface ListenerOrder {
  /** The tape's, where its peaks are written. */
  folder: string
  channels: number
  overs: boolean
}
export type ToListener = { samples: Float32Array[] } | { show: true } | { finish: true }
/** So many blocks were listened to: their places can be used again. */
export type FromListener = { taken: number } | { shown: Frames } | { heard: Heard }

/** In this thread: for what is over sooner than another thread is begun. */
export function listenHere({ folder, channels, overs }: ListenerOrder): Listener {
  const ear = new Ear(channels, overs)
  const peaks = new PeakWriter(folder, channels)
  let frames: Frames = 0
  return {
    place: (count) => Array.from({ length: channels }, () => new Float32Array(count)),
    add: async (samples) => {
      ear.add(samples)
      frames += samples[0].length
    },
    show: async () => {
      peaks.add(ear.takePeaks())
      return frames
    },
    finish: async () => {
      const figures = ear.finish()
      peaks.add(ear.takePeaks())
      peaks.finish()
      return { figures, looks: ear.looks, powers: ear.powers }
    },
  }
}

const MOST_WAITING = 12

/**
 * In a thread of its own, so that the machine's other processor takes part. It is begun before it
 * is known what there is to hear, so that it is there by then.
 */
export function listenBeside(): (order: ListenerOrder) => Listener {
  const worker = beginThread('listen')
  // memory that both threads see: nothing is copied, nothing handed over
  const spare: Float32Array<SharedArrayBuffer>[][] = []
  const under: Float32Array[][] = []
  let waiting = 0
  let room = (): void => undefined
  const showing: ((frames: Frames) => void)[] = []
  const heard = new Promise<Heard>((resolve, reject) => {
    worker.on('error', reject)
    worker.on('message', (message: FromListener) => {
      if ('heard' in message) return resolve(message.heard)
      if ('shown' in message) return showing.shift()!(message.shown)
      waiting -= message.taken
      spare.push(...(under.splice(0, message.taken) as Float32Array<SharedArrayBuffer>[][]))
      room()
    })
  })
  heard.catch(() => room())
  worker.unref()
  const tell = (message: ToListener | ListenerOrder) => worker.postMessage(message)
  return (order) => {
    worker.ref()
    tell(order)
    return {
      place: (frames) => {
        const used = spare.pop()
        const whole =
          used && used[0].buffer.byteLength >= frames * 4
            ? used.map(({ buffer }) => buffer)
            : Array.from({ length: order.channels }, () => new SharedArrayBuffer(frames * 4))
        return whole.map((buffer) => new Float32Array(buffer, 0, frames))
      },
      add: async (samples) => {
        waiting++
        under.push(samples)
        tell({ samples })
        if (waiting > MOST_WAITING) await new Promise<void>((done) => (room = done))
      },
      show: () =>
        new Promise((done) => {
          showing.push(done)
          tell({ show: true })
        }),
      finish: async () => {
        tell({ finish: true })
        const all = await heard
        await worker.terminate()
        return all
      },
    }
  }
}
