import type { Frames } from '../time'

/**
 * Noise that moves (a street, a crowd, a door), taken out by a network that was taught to tell speech from all else: RNNoise 0.1
 * (Valin 2018, "A hybrid DSP/deep learning approach to real-time full-band speech enhancement"), as WebAssembly, whose arithmetic is
 * the same in every engine. It works in frames of 10 ms, one of which it is late; that is made good here. It begins anew with each run.
 */
export interface MovingNoise {
  kind: 'movingNoise'
}

const FRAME: Frames = 480
const LATE: Frames = FRAME
/** It wants samples of 16 bits. */
const SCALE = 32_768

interface Network {
  memory: WebAssembly.Memory
  create: (model: number) => number
  destroy: (state: number) => void
  process: (state: number, out: number, input: number) => number
  /** Where frames go in and come out, in bytes. */
  frames: number
}

/** The program is given by whoever can read its file: a browser's worker, or the server. */
let program: (() => BufferSource) | null = null
let network: Network | null = null

/** Says where the network's program comes from; it is read when it is first needed. */
export function networkFrom(read: () => BufferSource): void {
  program = read
}

function theNetwork(): Network {
  if (network) return network
  if (!program) throw new Error('the network against moving noise was not given')
  // what it asks of its surroundings: more memory, which it does not get, and copies
  const imports = { a: { a: () => 0, b: (to: number, from: number, count: number) => void bytes().copyWithin(to, from, from + count) } }
  const made = new WebAssembly.Instance(new WebAssembly.Module(program()), imports).exports as Record<string, unknown>
  const memory = made.c as WebAssembly.Memory
  const bytes = () => new Uint8Array(memory.buffer)
  ;(made.d as () => void)()
  network = {
    memory,
    create: made.f as Network['create'],
    destroy: made.h as Network['destroy'],
    process: made.j as Network['process'],
    frames: (made.g as (bytes: number) => number)(2 * FRAME * 4),
  }
  return network
}

/** Takes moving noise out of a run in place. */
export function withoutMovingNoise(samples: Float64Array): void {
  const { memory, create, destroy, process, frames } = theNetwork()
  const state = create(0)
  const input = new Float32Array(memory.buffer, frames, FRAME)
  const out = new Float32Array(memory.buffer, frames + FRAME * 4, FRAME)
  for (let at = 0; at < samples.length + LATE; at += FRAME) {
    for (let i = 0; i < FRAME; i++) input[i] = at + i < samples.length ? samples[at + i] * SCALE : 0
    process(state, frames + FRAME * 4, frames)
    // what comes out belongs to the frame before, which was read already
    for (let i = Math.max(0, LATE - at); i < FRAME && at - LATE + i < samples.length; i++) samples[at - LATE + i] = out[i] / SCALE
  }
  destroy(state)
}
