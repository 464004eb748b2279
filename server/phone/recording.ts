import { createSocket, type Socket } from 'node:dgram'
import { closeSync, openSync, writeSync } from 'node:fs'
import { JitterBuffer, LINE_RATE } from './jitter'
import { readRtp } from './rtp'
import { recordingBytes, recordingHeader } from '../../core/sound/recording'
import { allCame, seeTo } from '../intake/intake'
import type { Services } from '../services'

const WRITE_MS = 100
const HERE = '127.0.0.1'
/** A side that has not begun holds the other back for so long. */
const NOT_YET_MS = 1000

/** One side's packets as they come, each put at its time. */
class LineSide {
  private readonly buffer = new JitterBuffer()
  private begun = 0
  /** What has come and was not written yet, and how many samples came in all. */
  private queue: Float32Array<ArrayBuffer> = new Float32Array(0)
  private came = 0
  last = Date.now()

  constructor(
    readonly socket: Socket,
    private readonly since: number,
  ) {
    socket.on('message', (bytes) => {
      const packet = readRtp(bytes)
      if (!packet || (packet.payloadType !== 0 && packet.payloadType !== 8)) return
      this.last = Date.now()
      if (!this.begun) {
        this.begun = this.last
        // a side that begins later lies later
        this.silence(this.begun - this.since)
      }
      this.buffer.add(packet.timestamp, packet.payload, packet.payloadType === 8 ? 'PCMA' : 'PCMU')
    })
  }

  /** What stands to be written; at the end all that came. */
  pull(atEnd: boolean): Float32Array {
    const now = Date.now()
    if (this.begun)
      this.push(Float32Array.from(atEnd ? this.buffer.rest() : this.buffer.take(samples(now - this.begun)), (sample) => sample / 32_768))
    else this.silence(now - this.since - NOT_YET_MS)
    return this.queue
  }

  written(count: number): void {
    this.queue = this.queue.slice(count)
  }

  private silence(upToMs: number): void {
    this.push(new Float32Array(Math.max(0, samples(upToMs) - this.came)))
  }

  private push(some: Float32Array): void {
    const all = new Float32Array(this.queue.length + some.length)
    all.set(this.queue)
    all.set(some, this.queue.length)
    this.queue = all
    this.came += some.length
  }
}

const samples = (ms: number): number => Math.floor((ms / 1000) * LINE_RATE)

/** A call as it is recorded: both sides in step into one file that grows, and is a tape at once. */
export class CallRecording {
  private readonly timer: ReturnType<typeof setInterval>
  private bytes = 0

  private constructor(
    private readonly services: Services,
    private readonly tape: string,
    private readonly sides: LineSide[],
    private readonly file: number,
  ) {
    this.timer = setInterval(() => this.write(false), WRITE_MS)
  }

  static async begin(services: Services, tape: string, count: number): Promise<{ recording: CallRecording; ports: number[] }> {
    const sockets = Array.from({ length: count }, () => createSocket('udp4'))
    await Promise.all(sockets.map((socket) => new Promise<void>((done) => socket.bind(0, HERE, done))))
    const file = openSync(services.store.upload(tape), 'w')
    const since = Date.now()
    const recording = new CallRecording(
      services,
      tape,
      sockets.map((socket) => new LineSide(socket, since)),
      file,
    )
    recording.put(recordingHeader(count, LINE_RATE, 'Telephone call', new Date()))
    return { recording, ports: sockets.map((socket) => socket.address().port) }
  }

  /** Milliseconds since anything came. */
  silentFor = (): number => Date.now() - Math.max(...this.sides.map(({ last }) => last))

  seeTo = (): Promise<void> => seeTo(this.services, this.tape)

  private put(bytes: Uint8Array): void {
    writeSync(this.file, bytes)
    this.bytes += bytes.length
  }

  private write(atEnd: boolean): void {
    const sides = this.sides.map((side) => side.pull(atEnd))
    const count = atEnd ? Math.max(...sides.map(({ length }) => length)) : Math.min(...sides.map(({ length }) => length))
    if (!count) return
    this.put(
      recordingBytes(
        sides.map((side) => {
          const part = new Float32Array(count)
          part.set(side.subarray(0, count))
          return part
        }),
      ),
    )
    for (const side of this.sides) side.written(count)
  }

  async finish(): Promise<void> {
    clearInterval(this.timer)
    for (const { socket } of this.sides) socket.close()
    this.write(true)
    closeSync(this.file)
    await allCame(this.services, this.tape, this.bytes)
  }
}
