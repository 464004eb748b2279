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

interface Playing {
  run: number
  channels: readonly Float32Array[]
  at: number
  /** How many frames of it were heard. */
  heard: number
  loop: boolean
  silent: boolean
  /** How many frames are left of a fade that is so long; null while it is not to stop. */
  fade: { left: number; length: number } | null
}

/** Places are told so often, in blocks: some 40 times a second. */
const TELL_EVERY = 9
/** No output waits so long for the next block without being heard to. */
const LATE_MS = 80

class Clips extends AudioWorkletProcessor {
  private readonly loaded = new Map<string, readonly Float32Array[]>()
  private playing: Playing[] = []
  private blocks = 0
  private captured: Float32Array[] | null = null
  private before = 0
  private late = 0

  constructor() {
    super()
    this.port.onmessage = ({ data }: MessageEvent<ToClips>) => {
      if ('load' in data) this.loaded.set(data.load, data.channels)
      else if ('remove' in data) this.loaded.delete(data.remove)
      else if ('play' in data) this.begin(data)
      else if ('stop' in data) {
        const one = this.playing.find(({ run }) => run === data.stop)
        if (one && !one.fade) one.fade = { left: data.fade, length: data.fade }
      } else if ('loop' in data) {
        const one = this.playing.find(({ run }) => run === data.run)
        if (one) one.loop = data.loop
      } else this.capture(data.capture)
    }
  }

  private tell = (message: FromClips) => this.port.postMessage(message)

  private begin({ play, run, from, loop }: { play: string; run: number; from: number; loop: boolean }): void {
    const channels = this.loaded.get(play)
    if (!channels) return this.tell({ ended: run, stopped: false, heard: 0 })
    this.playing.push({ run, channels, at: from, heard: 0, loop, silent: true, fade: null })
  }

  /** For whoever wants to know to the bit: what goes out from now on, or what went out since. */
  private capture(on: boolean): void {
    if (!on) this.tell({ captured: this.captured ?? [], late: this.late })
    this.captured = on ? [] : null
    this.late = 0
  }

  process(_inputs: Float32Array[][], [output]: Float32Array[][]): boolean {
    const now = Date.now()
    if (this.before && now - this.before > LATE_MS) this.late++
    this.before = now
    for (const one of this.playing) this.add(one, output)
    const ended = this.playing.filter((one) => one.fade?.left === 0 || one.at >= one.channels[0].length)
    if (ended.length) {
      this.playing = this.playing.filter((one) => !ended.includes(one))
      for (const { run, fade, heard } of ended) this.tell({ ended: run, stopped: fade !== null, heard })
    }
    if (this.playing.length && this.blocks++ % TELL_EVERY === 0) this.tell({ places: this.playing.map(({ run, at }) => [run, at]) })
    if (this.captured) this.captured.push(output[0].slice())
    return true
  }

  private add(one: Playing, output: Float32Array[]): void {
    const { channels, fade } = one
    const length = channels[0].length
    const [left, right] = [channels[0], channels[channels.length - 1]]
    for (let i = 0; i < output[0].length; i++) {
      if (one.at >= length && one.loop && length) one.at = 0
      if (one.at >= length || fade?.left === 0) return
      const factor = fade ? fade.left-- / fade.length : 1
      const sample = left[one.at]
      if (one.silent && sample !== 0) {
        one.silent = false
        this.tell({ began: one.run, at: Date.now() })
      }
      output[0][i] += sample * factor
      if (output[1]) output[1][i] += right[one.at] * factor
      one.at++
      one.heard++
    }
  }
}

registerProcessor('clips', Clips)
