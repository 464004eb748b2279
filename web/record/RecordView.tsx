import { Circle, Pause, Play, Square } from 'lucide-react'
import { useEffect, useRef, useState } from 'react'
import { Link, useSearchParams } from 'react-router'
import { useQuery } from '@tanstack/react-query'
import { decibels } from '../../core/sound/level'
import { zone } from '../../core/sound/recording'
import { clock, RATE } from '../../core/time'
import type { StoryDocument } from '../../core/page/story'
import { get } from '../api/client'
import { useCommands } from '../commands/commands'
import { useDocument } from '../documents/useDocument'
import { useStoryName } from '../page/StoryFigures'
import { Button, Choice, CommandButton, CommandKey, Empty, Field } from '../ui/parts'
import { Crumb, Shell } from '../ui/Shell'
import { check, close, listenTo, markTake, onLevels, pauseOrGoOn, record, setChannels, setMonitoring, stop, useRecorder } from './recorder'

const LOWEST = -60
const HELD_MS = 1500
const share = (dB: number): number => Math.max(0, Math.min(1, (dB - LOWEST) / -LOWEST))
const ZONES = [['too low', -60, -30], ['good', -30, -6], ['too hot', -6, 0]] as const
const SAYS = { silent: 'No signal', low: 'Too low: move closer or turn it up', good: 'Good level', hot: 'Too hot: move back or turn it down', over: 'Clipping: can’t be repaired' }
/** Of one channel in 32-bit float, in bytes. */
const BYTES_A_SECOND = RATE * 4

/** Records from a microphone into a tape that can be read, cut and played while it is still being recorded. */
export function RecordView() {
  const [params] = useSearchParams()
  const story = params.get('story')
  const line = params.get('line')
  const recorder = useRecorder()
  const { state } = recorder
  const running = state === 'recording' || state === 'paused'
  const [name, setName] = useState('')
  const [copy, setCopy] = useState('')
  const [takes, setTakes] = useState(0)
  const [again, setAgain] = useState(false)
  const disk = useQuery({ queryKey: ['disk'], queryFn: () => get<{ free: number }>('/library/disk'), refetchInterval: 20_000 }).data
  useEffect(() => {
    void listenTo()
    return close
  }, [])
  const called = name.trim() || (copy ? `Voice track, ${copy.split(/\s+/).slice(0, 5).join(' ')}` : `Recording ${new Date().toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })}`)
  const begin = () => {
    setTakes(takes + 1)
    record(takes ? `${called}, take ${takes + 1}` : called, story)
  }
  // a new take begins as soon as the one before is in
  useEffect(() => {
    if (!again || state !== 'listening') return
    setAgain(false)
    begin()
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [again, state])
  useCommands({
    'record.toggle': () => (running ? pauseOrGoOn() : begin()),
    'record.stop': stop,
    'edit.mark': () => void markTake(),
  })
  return (
    <Shell path={story ? <><StoryCrumb id={story} /><Crumb>Record</Crumb></> : <><Crumb to="/tapes">Tapes</Crumb><Crumb>Record</Crumb></>}>
      <div className="min-h-0 flex-1 overflow-y-auto">
        <div className="mx-auto flex max-w-2xl flex-col gap-7 px-8 py-10">
          {recorder.error ? (
            <Empty title="No input.">
              <p className="mb-4">{recorder.error}</p>
              <Button onClick={() => void listenTo('')}>Try again</Button>
            </Empty>
          ) : (
            <>
              {story && line && <CopyToRead story={story} line={line} onText={setCopy} />}
              <div className="flex items-end gap-6">
                <span data-testid="take-length" className="font-sans text-[64px] leading-none font-bold tracking-tight">{clock(recorder.frames)}</span>
                <span className={`pb-1.5 text-[14px] ${state === 'recording' ? 'text-cut-ink' : 'text-faint'}`} role="status">
                  {state === 'recording' ? 'recording' : state === 'paused' ? 'paused; resume goes on in the same take' : state === 'ending' ? 'finishing …' : state === 'listening' ? 'ready' : 'opening the microphone …'}
                  {recorder.lost && running && <span className="block text-cut-ink">Can’t reach the server. The take is kept in this browser and sent when it is back.</span>}
                </span>
              </div>
              <InputMeter />
              <div className="flex flex-wrap items-center gap-2">
                {running ? (
                  <>
                    <CommandButton id="record.toggle">{state === 'recording' ? <><Pause size={15} /> Pause</> : <><Play size={15} /> Resume</>}</CommandButton>
                    <CommandButton id="record.stop" look="strong"><Square size={14} /> Stop</CommandButton>
                    <CommandButton id="edit.mark">Mark</CommandButton>
                    <Button onClick={() => { setAgain(true); stop() }}>New take</Button>
                  </>
                ) : (
                  <>
                    <Button look="cut" className="h-10 px-5 text-[15px]" disabled={state !== 'listening'} onClick={begin}><Circle size={13} fill="currentColor" /> {takes ? 'New take' : 'Record'} <CommandKey id="record.toggle" /></Button>
                    <Button disabled={state !== 'listening'} onClick={check}>Play last 5 s</Button>
                  </>
                )}
                <span className="flex-1" />
                {recorder.tape && <Link to={`/tapes/${recorder.tape}`} className="text-[14px] text-tape hover:underline">{running ? 'Edit while recording' : 'To the tape'}</Link>}
              </div>
              <div className="grid grid-cols-2 gap-x-8 gap-y-5 border-t border-rule pt-6">
                <Field label="Name of the take" value={name} disabled={running} maxLength={150} placeholder={copy ? called : 'Recording, and the time'} onChange={(event) => { setName(event.target.value); setTakes(0) }} />
                <label className="flex flex-col gap-1">
                  <span className="text-[12px] text-faint">Microphone</span>
                  <select className="h-9 rounded-md border border-rule bg-paper-lit px-2 text-[14px] text-ink focus:border-tape focus:outline-none" value={recorder.device} disabled={running} onChange={(event) => void listenTo(event.target.value)}>
                    {recorder.devices.map((device) => <option key={device.deviceId} value={device.deviceId}>{device.label || 'Microphone'}</option>)}
                  </select>
                </label>
                {!running && <Choice label="Channels" value={recorder.channels} options={[[1, 'Mono (input 1)'], [2, 'Two sides']] as const} onChange={setChannels} />}
                <label className="flex items-center gap-2 self-end text-[14px]">
                  <input type="checkbox" className="accent-[var(--tape)]" checked={recorder.monitoring} onChange={(event) => setMonitoring(event.target.checked)} /> Monitor in headphones
                </label>
              </div>
              <p className="text-[13px] text-soft">
                {recorder.processing.length ? `This browser leaves ${recorder.processing.join(' and ')} on.` : 'Echo cancelling, noise suppression and automatic gain are off.'}
                {disk && ` Space left for ${hours(disk.free / BYTES_A_SECOND / recorder.channels / 2)}`}
              </p>
            </>
          )}
        </div>
      </div>
    </Shell>
  )
}

const hours = (seconds: number): string => (seconds > 200 * 3600 ? 'hundreds of hours' : seconds > 7200 ? `some ${Math.floor(seconds / 3600)} hours` : `some ${Math.floor(seconds / 60)} minutes`)

/** The line of copy that is read, large enough for whoever stands at the microphone. */
function CopyToRead({ story, line, onText }: { story: string; line: string; onText: (text: string) => void }) {
  const document = useDocument<StoryDocument>(story, 'story')
  const record = document && 'body' in document ? document.body.records[line] : undefined
  const text = record?.kind === 'copy' || record?.kind === 'intro' ? record.text : ''
  useEffect(() => onText(text), [text, onText])
  if (!text) return null
  return <p data-testid="copy-to-read" className="border-l-2 border-cut pl-5 font-serif text-[24px] leading-relaxed">{text}</p>
}

function StoryCrumb({ id }: { id: string }) {
  return <Crumb to={`/stories/${id}`}>{useStoryName(id)}</Crumb>
}

/** The level that comes in, with what it means. */
function InputMeter() {
  const { channels } = useRecorder()
  const bars = useRef<(HTMLDivElement | null)[]>([])
  const held = useRef<{ dB: number; at: number }>({ dB: -120, at: 0 })
  const [now, setNow] = useState<keyof typeof SAYS>('silent')
  const [peak, setPeak] = useState('')
  useEffect(
    () =>
      onLevels((peaks) => {
        const loudest = Math.max(...peaks.slice(0, channels).map(decibels))
        const time = performance.now()
        if (loudest >= held.current.dB || time - held.current.at > HELD_MS) held.current = { dB: loudest, at: time }
        peaks.forEach((value, c) => {
          const bar = bars.current[c]
          if (bar) bar.style.width = `${share(decibels(value)) * 100}%`
        })
        setNow(zone(held.current.dB))
        setPeak(held.current.dB > -100 ? held.current.dB.toFixed(1).replace('-', '−') : '')
      }),
    [channels],
  )
  return (
    <div>
      <div className="mb-2 flex items-baseline justify-between">
        <span className={`text-[15px] font-medium ${now === 'good' ? 'text-tape' : now === 'silent' ? 'text-faint' : 'text-cut-ink'}`} data-testid="zone">{SAYS[now]}</span>
        <span className="text-[14px] text-soft" data-testid="input-level">{peak && `${peak} dB`}</span>
      </div>
      <div role="img" aria-label="Level of the microphone in dBFS">
        {Array.from({ length: channels }, (_, c) => (
          <div key={c} className="relative mb-1 h-4 overflow-hidden rounded-sm bg-rule">
            <div className="absolute top-0 h-full bg-wash" style={{ left: `${share(-30) * 100}%`, width: `${(share(-6) - share(-30)) * 100}%` }} />
            <div ref={(element) => void (bars.current[c] = element)} className={`absolute top-0 h-full ${now === 'hot' || now === 'over' ? 'bg-cut' : 'bg-ink'}`} style={{ width: 0 }} />
          </div>
        ))}
        <div className="relative h-4 text-[11px] text-faint">
          {ZONES.map(([says, from, to]) => <span key={says} className="absolute -translate-x-1/2 whitespace-nowrap" style={{ left: `${((share(from) + share(to)) / 2) * 100}%` }}>{says}</span>)}
        </div>
      </div>
    </div>
  )
}
