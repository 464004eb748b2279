import { Check, CircleAlert, CircleHelp, Clock, CircleSlash, Send } from 'lucide-react'
import type { DeliveryInfo, DeliveryState, Saying } from '../../contract/deliveries'
import { post } from '../api/client'
import { orSay } from '../api/orSay'
import { Button, Progress } from '../ui/parts'
import { useNow } from '../ui/useNow'
import { deliveryInWords, isLate, wantsPerson } from './deliveryInWords'

const ICONS: Record<DeliveryState, typeof Check> = {
  arrived: Check,
  sending: Send,
  waiting: Clock,
  failed: CircleAlert,
  perhaps: CircleHelp,
  exists: CircleAlert,
  stopped: CircleSlash,
}

/** What can be said of one that is not there. */
const SAYINGS: Record<DeliveryState, readonly [Saying, string][]> = {
  arrived: [],
  sending: [['stop', 'Stop']],
  waiting: [
    ['again', 'Try now'],
    ['stop', 'Stop'],
  ],
  failed: [
    ['again', 'Try again'],
    ['stop', 'Leave it'],
  ],
  perhaps: [
    ['arrived', 'It arrived'],
    ['again', 'Send it again'],
  ],
  exists: [
    ['replace', 'Replace that file'],
    ['beside', 'Send under another name'],
    ['stop', 'Leave it'],
  ],
  stopped: [['again', 'Try again']],
}

/** The way of a file to each destination, and what is to be decided. */
export function Deliveries({ of }: { of: readonly DeliveryInfo[] }) {
  if (!of.length) return null
  return (
    <ul className="mt-1 flex flex-col gap-1" data-testid="deliveries">
      {of.map((one) => (
        <DeliveryRow key={one.id} one={one} />
      ))}
    </ul>
  )
}

function DeliveryRow({ one }: { one: DeliveryInfo }) {
  const now = useNow(1000)
  const Icon = ICONS[one.state]
  const wrong = wantsPerson(one) || isLate(one)
  return (
    <li className="flex flex-wrap items-center gap-x-2 gap-y-1">
      <Icon size={14} className={`shrink-0 ${wrong ? 'text-cut-ink' : one.state === 'arrived' ? 'text-tape' : 'text-faint'}`} aria-hidden />
      <span className="font-medium">
        {one.to}
        {one.isScript && ', the script'}
      </span>
      <span className={`min-w-0 flex-1 basis-64 ${wrong ? 'text-cut-ink' : 'text-faint'}`}>{deliveryInWords(one, now.getTime())}</span>
      {one.state === 'sending' && (
        <span className="w-32">
          <Progress value={one.progress} label={`Sending to ${one.to}`} />
        </span>
      )}
      {SAYINGS[one.state]
        // a file that is not made yet has nothing to try
        .filter(([say]) => say !== 'again' || one.state !== 'waiting' || isLate(one))
        .map(([say, text]) => (
          <Button key={say} className="h-7 px-2" look="plain" onClick={() => orSay(post(`/deliveries/${one.id}/say`, { say }))}>
            {text}
          </Button>
        ))}
    </li>
  )
}
