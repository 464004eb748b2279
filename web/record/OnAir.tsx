import { Link, useLocation } from 'react-router'
import { clock } from '../../core/time'
import { Button } from '../ui/parts'
import { SmallInputMeter } from './InputMeter'
import { isRunning, pauseOrGoOn, stop, useRecorder } from './recorder'

const SAYS = { starting: 'Starting', recording: 'Recording', paused: 'Paused', ending: 'Finishing' } as const

/** Says on every other screen that a take is running, how loud it comes in, and ends it. */
export function OnAir() {
  const { pathname } = useLocation()
  const { state, frames, stalled } = useRecorder()
  if (!isRunning(state) || pathname === '/record' || pathname.endsWith('/voice')) return null
  return (
    <div
      role="group"
      aria-label="Recording"
      className={`flex shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-b border-rule bg-paper-lit px-6 py-1
        max-[860px]:px-3 print:hidden`}
    >
      <span className={`size-2.5 rounded-full ${state === 'recording' && !stalled ? 'bg-cut' : 'bg-grain'}`} aria-hidden />
      <Link to="/record" className="font-semibold whitespace-nowrap hover:underline">
        {stalled ? 'No input' : SAYS[state as keyof typeof SAYS]} {clock(frames)}
      </Link>
      <SmallInputMeter />
      <span className="flex-1" />
      <Button look="bare" className="h-7" onClick={pauseOrGoOn}>
        {state === 'paused' ? 'Resume' : 'Pause'}
      </Button>
      <Button look="strong" className="h-7" onClick={stop}>
        Stop
      </Button>
    </div>
  )
}
