import { Circle, Pause, Play, Square } from 'lucide-react'
import { useEffect, useState } from 'react'
import { Link, useNavigate, useSearchParams } from 'react-router'
import { useQuery } from '@tanstack/react-query'
import { clock, RATE } from '../../core/time'
import { get } from '../api/client'
import { useCommands } from '../commands/commands'
import { useStoryName } from '../story/StoryFigures'
import { Button, Empty, Field } from '../ui/parts'
import { Crumb, Shell } from '../shell/Shell'
import { CallChoice } from './CallChoice'
import { InputMeter } from './InputMeter'
import { STATES } from './states'
import {
  check,
  choose,
  close,
  isRunning,
  listenTo,
  markTake,
  pauseOrGoOn,
  record,
  setMonitoring,
  stop,
  useRecorder,
  type Take,
} from './recorder'
import { CommandButton, CommandKey } from '../commands/CommandButton'

/** Of one channel in 32-bit float, in bytes. */
const BYTES_A_SECOND = RATE * 4

/** Records from a microphone into a tape that can be read, cut and played while it is still being recorded. */
export function RecordView() {
  const navigate = useNavigate()
  const [params] = useSearchParams()
  const story = params.get('story')
  const recorder = useRecorder()
  const { state } = recorder
  const running = isRunning(state)
  const [name, setName] = useState('')
  const [takes, setTakes] = useState(0)
  const [again, setAgain] = useState(false)
  const latest = recorder.takes[0]
  const disk = useQuery({ queryKey: ['disk'], queryFn: () => get<{ free: number }>('/library/disk'), refetchInterval: 20_000 }).data
  useEffect(() => {
    void listenTo()
    return close
  }, [])
  const called = name.trim() || `Recording ${new Date().toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })}`
  const begin = () => {
    setTakes(takes + 1)
    record(takes ? `${called}, take ${takes + 1}` : called, story ? { story } : {})
  }
  // a new take begins as soon as the one before is kept
  useEffect(() => {
    if (!again || state !== 'listening') return
    setAgain(false)
    begin()
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [again, state])
  useCommands({
    'record.toggle': () => (running ? pauseOrGoOn() : begin()),
    'record.stop': stop,
    'edit.mark': markTake,
    'go.up': () => void navigate(story ? `/stories/${story}` : '/tapes'),
  })
  return (
    <Shell
      path={
        story ? (
          <>
            <StoryCrumb id={story} />
            <Crumb>Record</Crumb>
          </>
        ) : (
          <>
            <Crumb to="/tapes">Tapes</Crumb>
            <Crumb>Record</Crumb>
          </>
        )
      }
    >
      <div className="min-h-0 flex-1 overflow-y-auto">
        <div className="mx-auto flex max-w-2xl flex-col gap-7 px-8 py-10">
          {recorder.error ? (
            <Empty title="No input.">
              <p className="mb-4">{recorder.error}</p>
              <Button onClick={() => void listenTo('')}>Try again</Button>
            </Empty>
          ) : (
            <>
              <div className="flex items-end gap-6">
                <span data-testid="take-length" className="font-sans text-[64px] leading-none font-bold tracking-tight">
                  {clock(recorder.frames)}
                </span>
                <span className={`pb-1.5 text-[14px] ${state === 'recording' ? 'text-cut-ink' : 'text-faint'}`} role="status">
                  {recorder.stalled ? 'no input from the microphone' : STATES[state]}
                  {recorder.takes.some((take) => take.state === 'lost') && (
                    <span className="block text-cut-ink">
                      Can’t reach the server. What is recorded is kept in this browser and sent when it is back.
                    </span>
                  )}
                </span>
              </div>
              {recorder.stopped && (
                <p role="alert" className="rounded-md border border-cut px-4 py-3 text-[15px] text-cut-ink">
                  {recorder.stopped}
                </p>
              )}
              <InputMeter />
              <div className="flex flex-wrap items-center gap-2">
                {running ? (
                  <>
                    <CommandButton id="record.toggle">
                      {state === 'recording' ? (
                        <>
                          <Pause size={15} /> Pause
                        </>
                      ) : (
                        <>
                          <Play size={15} /> Resume
                        </>
                      )}
                    </CommandButton>
                    <CommandButton id="record.stop" look="strong">
                      <Square size={14} /> Stop
                    </CommandButton>
                    <CommandButton id="edit.mark">Mark</CommandButton>
                    <Button
                      onClick={() => {
                        setAgain(true)
                        stop()
                      }}
                    >
                      New take
                    </Button>
                  </>
                ) : (
                  <>
                    <Button look="cut" className="h-10 px-5 text-[15px]" disabled={state !== 'listening'} onClick={begin}>
                      <Circle size={13} fill="currentColor" /> {takes ? 'New take' : 'Record'} <CommandKey id="record.toggle" />
                    </Button>
                    <Button disabled={state !== 'listening'} onClick={check}>
                      Play last 5 s
                    </Button>
                  </>
                )}
                <span className="flex-1" />
                {latest?.tape && (
                  <Link to={`/tapes/${latest.tape}`} className="text-[14px] text-tape hover:underline">
                    {running ? 'Edit while recording' : 'To the tape'}
                  </Link>
                )}
              </div>
              <div className="grid grid-cols-2 gap-x-8 gap-y-5 border-t border-rule pt-6">
                <Field
                  label="Name of the take"
                  value={name}
                  disabled={running}
                  maxLength={150}
                  placeholder="Recording, and the time"
                  onChange={(event) => {
                    setName(event.target.value)
                    setTakes(0)
                  }}
                />
                <label className="flex flex-col gap-1">
                  <span className="text-[12px] text-faint">Microphone</span>
                  <select
                    className={`h-9 rounded-md border border-rule bg-paper-lit px-2 text-[14px] text-ink focus:border-tape
                      focus:outline-none`}
                    value={recorder.device}
                    disabled={running}
                    onChange={(event) => void listenTo(event.target.value)}
                  >
                    {recorder.devices.map((device) => (
                      <option key={device.deviceId} value={device.deviceId}>
                        {device.label || 'Microphone'}
                      </option>
                    ))}
                  </select>
                </label>
                <label className="flex flex-col gap-1">
                  <span className="text-[12px] text-faint">Input</span>
                  <select
                    className={`h-9 rounded-md border border-rule bg-paper-lit px-2 text-[14px] text-ink focus:border-tape
                      focus:outline-none`}
                    value={recorder.chosen.join()}
                    disabled={running}
                    onChange={(event) => choose(event.target.value.split(',').map(Number))}
                  >
                    {inputChoices(recorder.inputs).map((inputs) => (
                      <option key={inputs.join()} value={inputs.join()}>
                        {inputs.length === 1 ? `Mono (input ${inputs[0] + 1})` : `Two sides (inputs ${inputs[0] + 1} and ${inputs[1] + 1})`}
                      </option>
                    ))}
                  </select>
                </label>
                <label className="flex items-center gap-2 self-end text-[14px]">
                  <input
                    type="checkbox"
                    className="accent-[var(--tape)]"
                    checked={recorder.monitoring}
                    onChange={(event) => setMonitoring(event.target.checked)}
                  />{' '}
                  Monitor in headphones
                </label>
              </div>
              <p className="text-[13px] text-soft">
                {recorder.processing.length
                  ? `This browser leaves ${recorder.processing.join(' and ')} on.`
                  : 'Echo cancelling, noise suppression and automatic gain are off.'}
                {disk && ` Space left for ${hours(disk.free / BYTES_A_SECOND / recorder.chosen.length / 2)}`}
              </p>
              <Takes takes={recorder.takes} />
            </>
          )}
          <CallChoice />
        </div>
      </div>
    </Shell>
  )
}

/** Each input by itself, then each two that lie side by side. */
function inputChoices(count: number): number[][] {
  const singles = Array.from({ length: count }, (_, input) => [input])
  const pairs = Array.from({ length: Math.floor(count / 2) }, (_, pair) => [2 * pair, 2 * pair + 1])
  return [...singles, ...pairs]
}

const TAKE_STATES = { running: 'recording', sending: 'kept, sending', lost: 'kept in this browser', sent: 'saved' } as const

/** What was recorded here, and how far each take is. */
function Takes({ takes }: { takes: readonly Take[] }) {
  if (!takes.length) return null
  return (
    <ul aria-label="Takes" data-testid="takes" className="border-t border-rule">
      {takes.map(({ key, name, frames, state, tape }) => (
        <li key={key} className="flex items-baseline gap-4 border-b border-rule py-2 text-[14px]">
          {tape ? (
            <Link to={`/tapes/${tape}`} className="min-w-0 flex-1 truncate hover:underline">
              {name}
            </Link>
          ) : (
            <span className="min-w-0 flex-1 truncate">{name}</span>
          )}
          <span className={`text-[12px] ${state === 'lost' ? 'text-cut-ink' : 'text-faint'}`}>{TAKE_STATES[state]}</span>
          <span className="w-16 text-right text-soft">{frames > 0 && clock(frames)}</span>
        </li>
      ))}
    </ul>
  )
}

const hours = (seconds: number): string =>
  seconds > 200 * 3600
    ? 'hundreds of hours'
    : seconds > 7200
      ? `some ${Math.floor(seconds / 3600)} hours`
      : `some ${Math.floor(seconds / 60)} minutes`

function StoryCrumb({ id }: { id: string }) {
  return <Crumb to={`/stories/${id}`}>{useStoryName(id)}</Crumb>
}
