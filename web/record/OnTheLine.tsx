import { useEffect, useState } from 'react'
import { useQuery } from '@tanstack/react-query'
import { Phone } from 'lucide-react'
import { Link, useNavigate } from 'react-router'
import type { CallInfo } from '../../contract/calls'
import { clock, RATE } from '../../core/time'
import { get, post } from '../api/client'
import { orSay } from '../api/orSay'
import { useCommands } from '../commands/commands'
import { Button } from '../ui/parts'
import { useCallsByThemselves } from './callsByThemselves'
import { CommandKey } from '../commands/CommandButton'

/** The telephone line, on every screen: it rings, is answered and recorded, and is hung up. */
export function OnTheLine() {
  const calls = useQuery({ queryKey: ['calls'], queryFn: () => get<CallInfo[]>('/intake/calls') }).data
  const call = calls?.[0]
  const navigate = useNavigate()
  const [answered, setAnswered] = useState<string | null>(null)
  useEffect(() => {
    // who answers is taken to the tape that records it
    if (!call?.tape || call.id !== answered) return
    setAnswered(null)
    void navigate(`/tapes/${call.tape}`)
  }, [call, answered, navigate])
  const { on: byThemselves } = useCallsByThemselves()
  const ringing = call?.state === 'ringing' ? call.id : null
  useEffect(() => {
    if (!ringing || !byThemselves) return
    // another window may have been first
    post(`/intake/calls/${ringing}/answer`, {}).catch(() => undefined)
  }, [ringing, byThemselves])
  const wish = (what: 'answer' | 'decline' | 'end') => {
    if (!call) return
    if (what === 'answer') setAnswered(call.id)
    orSay(post(`/intake/calls/${call.id}/${what}`, {}))
  }
  useCommands({
    ...(call?.state === 'ringing' ? { 'call.answer': () => wish('answer') } : {}),
    ...(call ? { 'call.end': () => wish(call.state === 'ringing' ? 'decline' : 'end') } : {}),
  })
  if (!call) return null
  return (
    <div
      role="group"
      aria-label="Telephone"
      className={`flex shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-b border-rule bg-paper-lit px-6 py-1
        max-[860px]:px-3 print:hidden`}
    >
      <Phone size={15} className={call.state === 'on' ? 'text-cut' : 'text-tape'} aria-hidden />
      {call.state === 'ringing' ? (
        <>
          <span role="status">
            <span className="font-semibold">{call.caller}</span> is calling
          </span>
          <span className="flex-1" />
          <Button look="bare" className="h-7" onClick={() => wish('decline')}>
            Decline <CommandKey id="call.end" />
          </Button>
          <Button look="strong" className="h-7" onClick={() => wish('answer')}>
            Answer and record <CommandKey id="call.answer" />
          </Button>
        </>
      ) : (
        <>
          <span>
            {call.tape ? (
              <Link to={`/tapes/${call.tape}`} className="font-semibold hover:underline">
                {call.caller}
              </Link>
            ) : (
              <span className="font-semibold">{call.caller}</span>
            )}
            , both sides recorded <Since at={call.at} />
          </span>
          <Reminder key={call.id} />
          <span className="flex-1" />
          <Button look="strong" className="h-7" onClick={() => wish('end')}>
            Hang up <CommandKey id="call.end" />
          </Button>
        </>
      )}
    </div>
  )
}

/** Whoever is recorded must be told: it stands there until somebody says that they were. */
function Reminder() {
  const [told, setTold] = useState(false)
  if (told) return null
  return (
    <span className="flex items-center gap-2 font-semibold text-cut-ink">
      Tell the caller that this is recorded.
      <Button className="h-7" onClick={() => setTold(true)}>
        Told
      </Button>
    </span>
  )
}

function Since({ at }: { at: string }) {
  const [now, setNow] = useState(Date.now)
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 500)
    return () => clearInterval(timer)
  }, [])
  return <span className="text-soft">{clock(Math.max(0, Math.round(((now - Date.parse(at)) / 1000) * RATE))).replace(/\.\d$/, '')}</span>
}
