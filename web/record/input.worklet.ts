declare class AudioWorkletProcessor {
  readonly port: MessagePort
}
declare function registerProcessor(name: string, processor: new () => AudioWorkletProcessor): void

/** So many frames go on together: 50 ms. */
const CHUNK = 2400

/** Hands on what comes from a microphone, a channel each, in chunks; says how high it was. */
class Input extends AudioWorkletProcessor {
  private held: Float32Array[] = []
  private count = 0
  private to: MessagePort | null = null

  constructor() {
    super()
    this.port.onmessage = ({ data }: MessageEvent<MessagePort>) => (this.to = data)
  }

  process([input]: Float32Array[][]): boolean {
    if (!input?.length) return true
    if (this.held.length !== input.length) {
      this.held = input.map(() => new Float32Array(CHUNK))
      this.count = 0
    }
    for (let at = 0; at < input[0].length;) {
      const more = Math.min(input[0].length - at, CHUNK - this.count)
      input.forEach((channel, c) => this.held[c].set(channel.subarray(at, at + more), this.count))
      this.count += more
      at += more
      if (this.count === CHUNK) this.handOn()
    }
    return true
  }

  private handOn(): void {
    const peaks = this.held.map((channel) => channel.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0))
    this.port.postMessage(peaks)
    this.to?.postMessage(
      this.held,
      this.held.map(({ buffer }) => buffer as ArrayBuffer),
    )
    this.held = this.held.map(() => new Float32Array(CHUNK))
    this.count = 0
  }
}

registerProcessor('input', Input)
