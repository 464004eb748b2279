import { create } from 'zustand'
import { toast } from 'sonner'
import { liveDocument } from '../documents/useDocument'
import type { FromKeeper, ToKeeper } from './keeper.worker'
import KeeperWorker from './keeper.worker.ts?worker'
import workletUrl from './input.worklet.ts?worker&url'

/** One recorder for the whole application: it goes on wherever one looks meanwhile. */
interface Recording {
  state: 'off' | 'listening' | 'recording' | 'paused' | 'ending'
  devices: MediaDeviceInfo[]
  device: string
  /** What the browser still does to the sound, which nobody asked for. */
  processing: string[]
  channels: number
  /** Frames of the take so far. */
  frames: number
  tape: string | null
  lost: boolean
  monitoring: boolean
  error: string
}

export const useRecorder = create<Recording>(() => ({ state: 'off', devices: [], device: '', processing: [], channels: 1, frames: 0, tape: null, lost: false, monitoring: false, error: '' }))
const set = useRecorder.setState

const CHECK_SECONDS = 5
let context: AudioContext | null = null
let stream: MediaStream | null = null
let node: AudioWorkletNode | null = null
let source: MediaStreamAudioSourceNode | null = null
let monitor: GainNode | null = null
let keeper: Worker | null = null
/** The last seconds, for a check before one starts. */
let lately: Float32Array[][] = []
const levels = new Set<(peaks: number[]) => void>()

/** Hears of the highest sample of each channel, twenty times a second. */
export function onLevels(listener: (peaks: number[]) => void): () => void {
  levels.add(listener)
  return () => void levels.delete(listener)
}

/** Opens a microphone, with nothing between it and the tape. */
export async function listenTo(device = useRecorder.getState().device): Promise<void> {
  const { state } = useRecorder.getState()
  if (state === 'recording' || state === 'paused' || state === 'ending') return
  close()
  try {
    stream = await navigator.mediaDevices.getUserMedia({ audio: { ...(device ? { deviceId: { exact: device } } : {}), echoCancellation: false, noiseSuppression: false, autoGainControl: false, channelCount: { ideal: 2 } } })
  } catch (error) {
    const name = (error as DOMException).name
    set({ state: 'off', error: name === 'NotFoundError' ? 'No microphone was found. Plug one in, and try again.' : name === 'NotAllowedError' ? 'The browser was not allowed to use the microphone. Allow it beside the address, and try again.' : 'That microphone could not be opened. Another program may be using it.' })
    return
  }
  const [track] = stream.getAudioTracks()
  const settings = track.getSettings()
  const names = { echoCancellation: 'echo cancelling', noiseSuppression: 'noise suppression', autoGainControl: 'automatic gain' } as const
  context = new AudioContext({ sampleRate: 48_000, latencyHint: 'interactive' })
  await context.audioWorklet.addModule(workletUrl)
  source = context.createMediaStreamSource(stream)
  const channels = Math.min(2, settings.channelCount ?? 1)
  node = new AudioWorkletNode(context, 'input', { numberOfInputs: 1, numberOfOutputs: 0, channelCount: channels, channelCountMode: 'explicit' })
  node.port.onmessage = ({ data }: MessageEvent<number[]>) => levels.forEach((listener) => listener(data))
  source.connect(node)
  monitor = context.createGain()
  monitor.gain.value = useRecorder.getState().monitoring ? 1 : 0
  source.connect(monitor).connect(context.destination)
  hearLately()
  track.onended = () => {
    toast.error('The microphone was disconnected. The take up to that point is stored.', { duration: 10_000 })
    if (useRecorder.getState().state !== 'listening') stop()
    close()
    set({ state: 'off' })
  }
  const devices = (await navigator.mediaDevices.enumerateDevices()).filter(({ kind }) => kind === 'audioinput')
  set({ state: 'listening', error: '', devices, device: settings.deviceId ?? '', channels, processing: Object.entries(names).flatMap(([key, name]) => (settings[key as keyof typeof names] ? [name] : [])) })
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

/** Plays the last five seconds that were heard. */
export function check(): void {
  if (!context || !lately.length) return
  const length = lately.reduce((sum, [first]) => sum + first.length, 0)
  const buffer = context.createBuffer(lately[0].length, length, 48_000)
  let at = 0
  for (const chunk of lately) {
    chunk.forEach((samples, c) => buffer.copyToChannel(samples as Float32Array<ArrayBuffer>, c, at))
    at += chunk[0].length
  }
  const playing = context.createBufferSource()
  playing.buffer = buffer
  playing.connect(context.destination)
  playing.start()
}

function theKeeper(): Worker {
  if (keeper) return keeper
  keeper = new KeeperWorker()
  keeper.onmessage = ({ data }: MessageEvent<FromKeeper>) => {
    if ('tape' in data) set({ tape: data.tape })
    else if ('frames' in data) set({ frames: data.frames })
    else if ('lost' in data) set({ lost: data.lost })
    else if ('found' in data) toast.info('A recording that was interrupted is being imported.', { duration: 8000 })
    else if (useRecorder.getState().state === 'ending' && data.over === useRecorder.getState().tape) set({ state: context ? 'listening' : 'off' })
  }
  return keeper
}
const tell = (message: ToKeeper, hand: Transferable[] = []) => theKeeper().postMessage(message, hand)

/** Begins a take; `name` is what its tape will be called. */
export function record(name: string, story: string | null): void {
  if (useRecorder.getState().state !== 'listening' || !node) return
  const { port1, port2 } = new MessageChannel()
  node.port.postMessage(port2, [port2])
  set({ state: 'recording', frames: 0, tape: null, lost: false })
  tell({ do: 'begin', name: `${name}.wav`, channels: useRecorder.getState().channels, rate: 48_000, input: port1, story }, [port1])
}

export function pauseOrGoOn(): void {
  const { state } = useRecorder.getState()
  if (state !== 'recording' && state !== 'paused') return
  tell({ do: 'take', on: state === 'paused' })
  set({ state: state === 'paused' ? 'recording' : 'paused' })
}

export function stop(): void {
  const { state } = useRecorder.getState()
  if (state !== 'recording' && state !== 'paused') return
  set({ state: 'ending' })
  tell({ do: 'end' })
  if (node) hearLately()
}

/** Drops a mark where the take is now. */
export async function markTake(): Promise<void> {
  const { tape, frames, state } = useRecorder.getState()
  if (!tape || (state !== 'recording' && state !== 'paused')) return
  const live = await liveDocument(tape, 'tape')
  live.act([{ type: 'put', record: { id: crypto.randomUUID(), kind: 'mark', at: frames, text: '' } }], { label: 'mark' })
  toast.success('Mark added.', { duration: 1500 })
}

export function setMonitoring(on: boolean): void {
  set({ monitoring: on })
  if (monitor) monitor.gain.value = on ? 1 : 0
}

export const setChannels = (channels: number): void => set({ channels })

/** Lets go of the microphone; never of a take. */
export function close(): void {
  if (['recording', 'paused'].includes(useRecorder.getState().state)) return
  stream?.getTracks().forEach((track) => track.stop())
  void context?.close()
  stream = context = node = source = monitor = null
  lately = []
  if (useRecorder.getState().state === 'listening') set({ state: 'off' })
}

/** Brings in what a browser that was killed left behind. */
export const bringInLeftBehind = (): void => tell({ do: 'leftBehind' })

addEventListener('beforeunload', (event) => {
  if (['recording', 'paused'].includes(useRecorder.getState().state)) event.preventDefault()
})
