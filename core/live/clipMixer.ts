/** One playing of a clip; times are frames. */
export interface Playing {
  run: number
  channels: readonly Float32Array[]
  at: number
  /** How many frames of it were heard. */
  heard: number
  loop: boolean
  /** Nothing of it but zeros went out yet. */
  silent: boolean
  /** How many frames are left of a fade that is so long; null while it is not to stop. */
  fade: { left: number; length: number } | null
}

export interface EndedPlaying {
  run: number
  stopped: boolean
  heard: number
}

/** Adds up what plays, sample by sample as it is; what is looped begins again without a gap. */
export class ClipMixer {
  playing: Playing[] = []

  /** `began`: the first sample of it that is not zero goes out. */
  constructor(private readonly began: (run: number) => void = () => undefined) {}

  begin(run: number, channels: readonly Float32Array[], { from = 0, loop = false } = {}): void {
    this.playing.push({ run, channels, at: from, heard: 0, loop, silent: true, fade: null })
  }

  stop(run: number, fade: number): void {
    const one = this.playing.find((other) => other.run === run)
    if (one && !one.fade) one.fade = { left: fade, length: fade }
  }

  setLoop(run: number, loop: boolean): void {
    const one = this.playing.find((other) => other.run === run)
    if (one) one.loop = loop
  }

  /** Adds the next frames to left and right, as far as they are there; gives what ended with them. */
  add(output: readonly Float32Array[]): EndedPlaying[] {
    for (const one of this.playing) this.addOne(one, output)
    const isOver = ({ fade, loop, at, channels }: Playing) => fade?.left === 0 || (!loop && at >= channels[0].length)
    const ended = this.playing.filter(isOver)
    if (ended.length) this.playing = this.playing.filter((one) => !ended.includes(one))
    return ended.map(({ run, fade, heard }) => ({ run, stopped: fade !== null, heard }))
  }

  private addOne(one: Playing, output: readonly Float32Array[]): void {
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
        this.began(one.run)
      }
      output[0][i] += sample * factor
      if (output[1]) output[1][i] += right[one.at] * factor
      one.at++
      one.heard++
    }
  }
}
