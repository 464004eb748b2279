import { END, ENDING, MISSED, PEAK_LEFT, PEAK_RIGHT, READ, RING_MASK, ringOn, RUNNING, WRITTEN, type Ring, type RingMemory } from './ring'

declare class AudioWorkletProcessor {
  readonly port: MessagePort
}
declare function registerProcessor(name: string, processor: new () => AudioWorkletProcessor): void

const bits = new Int32Array(1)
const value = new Float32Array(bits.buffer)

/** Takes frames from the ring to the output, as they are. */
class Output extends AudioWorkletProcessor {
  private ring: Ring | null = null
  private sounding = false
  /** Where a test asked for it: what went out, to the bit. */
  private captured: Float32Array[][] | null = null

  constructor() {
    super()
    this.port.onmessage = ({ data }: MessageEvent<{ ring?: RingMemory; capture?: boolean }>) => {
      if (data.ring) this.ring = ringOn(data.ring)
      if (data.capture !== undefined) {
        if (!data.capture) this.port.postMessage({ captured: this.captured ?? [] })
        this.captured = data.capture ? [] : null
      }
    }
  }

  process(_inputs: Float32Array[][], [output]: Float32Array[][]): boolean {
    const { ring } = this
    if (!ring || Atomics.load(ring.control, RUNNING) !== 1) {
      this.sounding = false
      return true
    }
    const count = output[0].length
    const read = Atomics.load(ring.control, READ)
    const ending = Atomics.load(ring.control, ENDING) === 1
    const there = (Atomics.load(ring.control, WRITTEN) - read) | 0
    const take = Math.max(0, Math.min(count, there, ending ? (Atomics.load(ring.control, END) - read) | 0 : count))
    let highLeft = 0
    let highRight = 0
    for (let i = 0; i < take; i++) {
      const at = (read + i) & RING_MASK
      const left = (output[0][i] = ring.left[at])
      const right = ring.right[at]
      if (output[1]) output[1][i] = right
      highLeft = Math.max(highLeft, Math.abs(left))
      highRight = Math.max(highRight, Math.abs(right))
    }
    raise(ring.control, PEAK_LEFT, highLeft)
    raise(ring.control, PEAK_RIGHT, highRight)
    if (take && this.captured) this.captured.push(output.map((channel) => channel.slice(0, take)))
    Atomics.store(ring.control, READ, (read + take) | 0)
    if (take && !this.sounding) {
      this.sounding = true
      this.port.postMessage({ began: Date.now() })
    }
    if (ending && ((Atomics.load(ring.control, END) - read - take) | 0) <= 0) {
      Atomics.store(ring.control, RUNNING, 0)
      this.port.postMessage({ ended: true })
    } else if (take < count) Atomics.add(ring.control, MISSED, 1)
    return true
  }
}

function raise(control: Int32Array, word: number, level: number): void {
  bits[0] = Atomics.load(control, word)
  if (level > value[0]) {
    value[0] = level
    Atomics.store(control, word, bits[0])
  }
}

registerProcessor('output', Output)
