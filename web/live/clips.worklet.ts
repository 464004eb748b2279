import { ClipMixer } from '../../core/live/clipMixer'

/** Plays what is kept at hand: whole clips in memory that is shared, so that nothing has to come from anywhere. */

declare class AudioWorkletProcessor {
  readonly port: MessagePort
}
declare function registerProcessor(name: string, processor: new () => AudioWorkletProcessor): void

/** Of a clip: its frames, one run for each channel. Times are frames. */
export type ToClips =
  | { load: string; channels: readonly Float32Array[] }
  | { remove: string }
  /** `run` names this playing of it. */
  | { play: string; run: number; from: number; loop: boolean }
  | { stop: number; fade: number }
  | { loop: boolean; run: number }
  | { capture: boolean }
export type FromClips =
  /** The first sample that is not zero went out, in milliseconds since 1970. */
  | { began: number; at: number }
  | { places: readonly (readonly [run: number, at: number])[] }
  | { ended: number; stopped: boolean; heard: number }
  | { captured: Float32Array[]; late: number }

/** Places are told so often, in blocks: some 40 times a second. */
const TELL_EVERY = 9
/**
 * What goes out is kept in parts of so many frames, which are whole blocks: one for each block would make the browser tidy its
 * memory while it plays.
 */
const PART = 375 * 128
/** No output waits so long for the next block without being heard to. */
const LATE_MS = 80

class Clips extends AudioWorkletProcessor {
  private readonly loaded = new Map<string, readonly Float32Array[]>()
  private readonly mixer = new ClipMixer((began) => this.tell({ began, at: Date.now() }))
  private blocks = 0
  private captured: Float32Array[] | null = null
  /** So much of the last part is filled. */
  private filled = 0
  private before = 0
  private late = 0

  constructor() {
    super()
    this.port.onmessage = ({ data }: MessageEvent<ToClips>) => {
      if ('load' in data) this.loaded.set(data.load, data.channels)
      else if ('remove' in data) this.loaded.delete(data.remove)
      else if ('play' in data) {
        const channels = this.loaded.get(data.play)
        if (channels) this.mixer.begin(data.run, channels, data)
        else this.tell({ ended: data.run, stopped: false, heard: 0 })
      } else if ('stop' in data) this.mixer.stop(data.stop, data.fade)
      else if ('loop' in data) this.mixer.setLoop(data.run, data.loop)
      else this.capture(data.capture)
    }
  }

  private tell = (message: FromClips) => this.port.postMessage(message)

  /** For whoever wants to know to the bit: what goes out from now on, or what went out since. */
  private capture(on: boolean): void {
    if (!on) {
      const parts = this.captured ?? []
      const last = parts.pop()
      this.tell({ captured: last ? [...parts, last.slice(0, this.filled)] : [], late: this.late })
    }
    this.captured = on ? [] : null
    this.filled = 0
    this.late = 0
  }

  private keep(block: Float32Array): void {
    const parts = this.captured
    if (!parts) return
    if (!parts.length || this.filled + block.length > PART) {
      parts.push(new Float32Array(PART))
      this.filled = 0
    }
    parts[parts.length - 1].set(block, this.filled)
    this.filled += block.length
  }

  process(_inputs: Float32Array[][], [output]: Float32Array[][]): boolean {
    const now = Date.now()
    if (this.before && now - this.before > LATE_MS) this.late++
    this.before = now
    for (const { run, stopped, heard } of this.mixer.add(output)) this.tell({ ended: run, stopped, heard })
    const { playing } = this.mixer
    if (playing.length && this.blocks++ % TELL_EVERY === 0) this.tell({ places: playing.map(({ run, at }) => [run, at]) })
    this.keep(output[0])
    return true
  }
}

registerProcessor('clips', Clips)
