import { create } from 'zustand'
import { toast } from 'sonner'
import { clock, type Frames } from '../../core/time'
import { liveDocument } from '../documents/useDocument'
import { author } from '../documents/waiting'
import type { FromKeeper, MadeFor, ToKeeper } from './keeper.worker'
import KeeperWorker from './keeper.worker.ts?worker'
import workletUrl from './input.worklet.ts?worker&url'

/** One recorder for the whole application: it goes on wherever one looks meanwhile. */
interface Recording {
  /** `starting`: no sound of the take is safely kept yet. `ending`: the last of it is being kept. */
  state: 'off' | 'asking' | 'listening' | 'starting' | 'recording' | 'paused' | 'ending'
  devices: MediaDeviceInfo[]
  device: string
  /** What the browser still does to the sound, which nobody asked for. */
  processing: string[]
  /** How many channels the microphone has, and which of them are kept, counted from 0: one, in the middle, or two, a side each. */
  inputs: number
  chosen: number[]
  /** Frames of the take that are safely kept. */
  frames: Frames
  /** Sound has stopped coming in, while it should. */
  stalled: boolean
  monitoring: boolean
  /** Why the microphone could not be opened. */
  error: string
  /** Why the last take came to an end that nobody asked for; empty once another one begins. */
  stopped: string
  /** Takes that are kept in this browser and not yet all sent, and those sent since it was opened; the newest first. */
  takes: Take[]
}

export interface Take {
  key: string
  name: string
  frames: Frames
  state: 'running' | 'sending' | 'lost' | 'sent'
  /** The tape that it becomes, once the server has heard of it. */
  tape: string | null
}

export const useRecorder = create<Recording>(() => ({
  state: 'off',
  devices: [],
  device: '',
  processing: [],
  inputs: 1,
  chosen: [0],
  frames: 0,
  stalled: false,
  monitoring: false,
  error: '',
  stopped: '',
  takes: [],
}))
const set = useRecorder.setState
const now = useRecorder.getState

const CHECK_SECONDS = 5
/** Most inputs of an interface that can be chosen from. */
const MOST_INPUTS = 32
/** With no sound for so long it is said that none comes in. */
const STALLED_MS = 1500
let context: AudioContext | null = null
let stream: MediaStream | null = null
let node: AudioWorkletNode | null = null
let monitor: GainNode | null = null
let keeper: Worker | null = null
/** Each opening and closing of the microphone is a turn; what was asked for in an earlier one opens nothing. */
let turn = 0
/** Nobody looks at the microphone any more: it is let go as soon as its take is kept. */
let leaving = false
/** The take that runs. */
let running: string | null = null
let lastKept = 0
/** The last seconds, for a check before one starts. */
let lately: Float32Array[][] = []
const levels = new Set<(peaks: number[]) => void>()

/** Hears of the highest sample of each channel that is chosen, twenty times a second. */
export function onLevels(listener: (peaks: number[]) => void): () => void {
  levels.add(listener)
  return () => void levels.delete(listener)
}

/** A take runs, or is about to. */
export const isRunning = (state: Recording['state']): boolean => ['starting', 'recording', 'paused', 'ending'].includes(state)

const REFUSED: Record<string, string> = {
  NotFoundError: 'No microphone was found. Plug one in, and try again.',
  NotAllowedError: 'The browser was not allowed to use the microphone. Allow it beside the address, and try again.',
}

/** Opens a microphone, with nothing between it and the tape. Whoever leaves before it is allowed has it closed again. */
export async function listenTo(device = now().device): Promise<void> {
  leaving = false
  if (isRunning(now().state)) return
  close()
  const mine = ++turn
  set({ state: 'asking', error: '' })
  let opened: MediaStream | null = null
  try {
    opened = await navigator.mediaDevices.getUserMedia({
      audio: {
        ...(device ? { deviceId: { exact: device } } : {}),
        echoCancellation: false,
        noiseSuppression: false,
        autoGainControl: false,
        channelCount: { ideal: MOST_INPUTS },
      },
    })
    if (mine !== turn) return opened.getTracks().forEach((track) => track.stop())
    stream = opened
    await open(opened, mine)
  } catch (error) {
    opened?.getTracks().forEach((track) => track.stop())
    if (mine !== turn) return
    close()
    set({ error: REFUSED[(error as DOMException).name] ?? 'That microphone could not be opened. Another program may be using it.' })
  }
}

async function open(opened: MediaStream, mine: number): Promise<void> {
  const [track] = opened.getAudioTracks()
  const settings = track.getSettings()
  const names = { echoCancellation: 'echo cancelling', noiseSuppression: 'noise suppression', autoGainControl: 'automatic gain' } as const
  const here = new AudioContext({ sampleRate: 48_000, latencyHint: 'interactive' })
  context = here
  await here.audioWorklet.addModule(workletUrl)
  const devices = (await navigator.mediaDevices.enumerateDevices()).filter(({ kind }) => kind === 'audioinput')
  if (mine !== turn) return
  const source = here.createMediaStreamSource(opened)
  const inputs = Math.min(MOST_INPUTS, settings.channelCount ?? 1)
  node = new AudioWorkletNode(here, 'input', {
    numberOfInputs: 1,
    numberOfOutputs: 0,
    channelCount: inputs,
    channelCountMode: 'explicit',
    channelInterpretation: 'discrete',
  })
  node.port.onmessage = ({ data }: MessageEvent<number[]>) =>
    levels.forEach((listener) => listener(now().chosen.map((input) => data[input] ?? 0)))
  source.connect(node)
  monitor = here.createGain()
  monitor.gain.value = now().monitoring ? 1 : 0
  source.connect(monitor).connect(here.destination)
  hearLately()
  track.onended = () => {
    if (mine !== turn) return
    const was = isRunning(now().state)
    stop()
    letGo()
    set({
      state: 'off',
      error: 'The microphone was disconnected.',
      ...(was
        ? { stopped: `The microphone was disconnected. ${clock(now().frames)} of the take ${now().frames ? 'is kept' : 'was recorded'}.` }
        : {}),
    })
    if (was) sayStopped()
  }
  const device = settings.deviceId ?? ''
  const chosen = device === now().device ? now().chosen.filter((input) => input < inputs) : []
  set({
    state: 'listening',
    devices,
    device,
    inputs,
    chosen: chosen.length ? chosen : [0],
    processing: Object.entries(names).flatMap(([key, name]) => (settings[key as keyof typeof names] ? [name] : [])),
  })
}

function hearLately(): void {
  const { port1, port2 } = new MessageChannel()
  node!.port.postMessage(port2, [port2])
  lately = []
  port1.onmessage = ({ data }: MessageEvent<Float32Array[]>) => {
    lately.push(data)
    while (lately.length > (CHECK_SECONDS * 48_000) / 2400) lately.shift()
  }
}

/** Plays the last five seconds that were heard, as they would be kept. */
export function check(): void {
  if (!context || !lately.length) return
  const { chosen } = now()
  const length = lately.reduce((sum, [first]) => sum + first.length, 0)
  const buffer = context.createBuffer(chosen.length, length, 48_000)
  let at = 0
  for (const chunk of lately) {
    chosen.forEach((input, c) => buffer.copyToChannel((chunk[input] ?? chunk[0]) as Float32Array<ArrayBuffer>, c, at))
    at += chunk[0].length
  }
  const playing = context.createBufferSource()
  playing.buffer = buffer
  playing.connect(context.destination)
  playing.start()
}

const changeTake = (key: string, fields: Partial<Take>) =>
  set({ takes: now().takes.map((take) => (take.key === key ? { ...take, ...fields } : take)) })

const FAILED = {
  'no room': 'this browser has no more room to keep it. Free some space on the disk',
  'not allowed': 'this browser is not allowed to store it. Allow this site to store data',
  fault: 'this browser’s storage does not answer',
} as const

function heard(data: FromKeeper): void {
  const { key } = data
  if ('kept' in data) {
    if (key !== running) return
    lastKept = performance.now()
    set({ frames: data.kept, stalled: false, ...(now().state === 'starting' ? { state: 'recording' } : {}) })
    changeTake(key, { frames: data.kept })
  } else if ('failed' in data) {
    if (key === running) running = null
    const keptSome = data.frames > 0
    if (keptSome) changeTake(key, { frames: data.frames, state: 'sending' })
    else set({ takes: now().takes.filter((take) => take.key !== key) })
    const keptOfIt = keptSome ? `The ${clock(data.frames)} recorded until then is kept.` : 'Nothing was recorded.'
    set({
      state: context ? 'listening' : 'off',
      stopped: `Recording stopped: ${FAILED[data.failed]}, and record again. ${keptOfIt}`,
    })
    if (node) hearLately()
    if (leaving) close()
    sayStopped()
  } else if ('over' in data) {
    changeTake(key, { frames: data.over, state: 'sending' })
    if (key !== running) return
    running = null
    set({ state: context ? 'listening' : 'off', frames: data.over })
    if (leaving) close()
  } else if ('tape' in data) {
    changeTake(key, { tape: data.tape })
    for (const at of data.marks) void putMark(data.tape, at)
  } else if ('lost' in data) {
    if (key !== running) changeTake(key, { state: data.lost ? 'lost' : 'sending' })
    else changeTake(key, { state: data.lost ? 'lost' : 'running' })
  } else if ('found' in data) {
    set({ takes: [{ key, name: data.found.replace(/\.wav$/, ''), frames: 0, state: 'sending', tape: null }, ...now().takes] })
    toast.info('A recording that was interrupted is being imported.', { duration: 8000 })
  } else changeTake(key, { state: 'sent' })
}

/** Loud: a take that ends by itself is never noticed too late. */
const sayStopped = () => toast.error(now().stopped, { duration: Infinity, closeButton: true })

function theKeeper(): Worker {
  if (keeper) return keeper
  keeper = new KeeperWorker()
  keeper.onmessage = ({ data }: MessageEvent<FromKeeper>) => heard(data)
  keeper.onerror = () => {
    keeper = null
    if (running) heard({ key: running, failed: 'fault', frames: now().frames })
  }
  return keeper
}
const tell = (message: ToKeeper, hand: Transferable[] = []) => theKeeper().postMessage(message, hand)

/** Begins a take; `name` is what its tape will be called. It is recording once the first of it is kept. */
export function record(name: string, madeFor: Omit<MadeFor, 'author'>): void {
  if (now().state !== 'listening' || !node) return
  const { port1, port2 } = new MessageChannel()
  node.port.postMessage(port2, [port2])
  const key = crypto.randomUUID()
  running = key
  lastKept = performance.now()
  set({
    state: 'starting',
    frames: 0,
    stalled: false,
    stopped: '',
    takes: [{ key, name, frames: 0, state: 'running', tape: null }, ...now().takes],
  })
  tell({ do: 'begin', key, name: `${name}.wav`, inputs: now().chosen, rate: 48_000, input: port1, madeFor: { ...madeFor, author } }, [
    port1,
  ])
}

export function pauseOrGoOn(): void {
  const { state } = now()
  if (state !== 'recording' && state !== 'paused') return
  lastKept = performance.now()
  tell({ do: 'take', on: state === 'paused' })
  set({ state: state === 'paused' ? 'recording' : 'paused' })
}

export function stop(): void {
  if (!['starting', 'recording', 'paused'].includes(now().state)) return
  set({ state: 'ending' })
  tell({ do: 'end' })
  if (node) hearLately()
}

/** Puts a mark where the take is now. */
export function markTake(): void {
  const { frames, state } = now()
  if (state !== 'recording' && state !== 'paused') return
  tell({ do: 'mark', at: frames })
  toast.success('Mark added.', { duration: 1500 })
}

async function putMark(tape: string, at: Frames): Promise<void> {
  const live = await liveDocument(tape, 'tape')
  live.act([{ type: 'put', record: { id: crypto.randomUUID(), kind: 'mark', at, text: '' } }], { label: 'mark' })
}

export function setMonitoring(on: boolean): void {
  set({ monitoring: on })
  if (monitor) monitor.gain.value = on ? 1 : 0
}

/** Which inputs are kept: one, or two as a side each. */
export const choose = (inputs: number[]): void => set({ chosen: inputs })

/** Lets go of the microphone; never of a take. */
export function close(): void {
  leaving = isRunning(now().state)
  if (leaving) return
  letGo()
  set({ state: 'off' })
}

function letGo(): void {
  turn++
  stream?.getTracks().forEach((track) => track.stop())
  void context?.close()
  stream = context = node = monitor = null
  lately = []
}

/** Brings in what a browser that was killed left behind. */
export const bringInLeftBehind = (): void => tell({ do: 'leftBehind' })

// sound that stops coming in is said while it lasts: a take without it is worth nothing
setInterval(() => {
  const { state } = now()
  if (state !== 'recording' && state !== 'starting') return
  const stalled = performance.now() - lastKept > STALLED_MS
  if (stalled !== now().stalled) set({ stalled })
}, 500)

addEventListener('beforeunload', (event) => {
  if (isRunning(now().state)) event.preventDefault()
})
