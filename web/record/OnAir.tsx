import { Link, useLocation } from 'react-router'
import { clock } from '../../core/time'
import { Button } from '../ui/parts'
import { pauseOrGoOn, stop, useRecorder } from './recorder'

/** Says on every other screen that a take is running, and ends it. */
export function OnAir() {
  const { pathname } = useLocation()
  const { state, frames } = useRecorder()
  if ((state !== 'recording' && state !== 'paused') || pathname === '/record') return null
  return (
    <div role="status" className="fixed top-[62px] left-1/2 z-30 flex -translate-x-1/2 items-center gap-3 rounded-full border border-rule bg-paper-lit py-1 pr-1.5 pl-4 shadow-lg">
      <span className={`size-2.5 rounded-full ${state === 'recording' ? 'bg-cut' : 'bg-grain'}`} aria-hidden />
      <Link to="/record" className="font-semibold hover:underline">{state === 'recording' ? 'Recording' : 'Paused'} {clock(frames)}</Link>
      <Button look="bare" className="h-7" onClick={pauseOrGoOn}>{state === 'recording' ? 'Pause' : 'Resume'}</Button>
      <Button look="strong" className="h-7 rounded-full" onClick={stop}>Stop</Button>
    </div>
  )
}
