import { CircleAlert, Send } from 'lucide-react'
import { useEffect, useRef } from 'react'
import { Link } from 'react-router'
import { toast } from 'sonner'
import type { DeliveryInfo } from '../../contract/deliveries'
import type { Receipt } from '../../contract/sends'
import { get } from '../api/client'
import { Progress } from '../ui/parts'
import { useNow } from '../ui/useNow'
import { deliveryInWords, isLate, wantsPerson } from './deliveryInWords'
import { useOpenSends } from './queries'

/** What is on its way to a destination, below every view, until it is there; what goes wrong is said where one cannot miss it. */
export function NotThereYet() {
  const open = useOpenSends().data
  const going = (open ?? []).flatMap(({ deliveries }) => deliveries).filter(isUnderWay)
  useArrivals(open)
  const now = useNow(1000)
  if (!going.length) return null
  const wrong = going.filter((one) => wantsPerson(one) || isLate(one))
  const [first] = wrong.length ? wrong : going
  return (
    <section
      aria-label="Being sent"
      className={`flex shrink-0 items-center gap-3 border-t px-6 py-1.5 text-[13px] max-[860px]:px-3 print:hidden
        ${wrong.length ? 'border-cut bg-paper-lit' : 'border-rule bg-paper-lit'}`}
    >
      {wrong.length ? (
        <CircleAlert size={15} className="shrink-0 text-cut-ink" aria-hidden />
      ) : (
        <Send size={14} className="shrink-0 text-faint" aria-hidden />
      )}
      <p role={wrong.length ? 'alert' : 'status'} className={`min-w-0 flex-1 truncate ${wrong.length ? 'text-cut-ink' : ''}`}>
        <span className="font-semibold">{wrong.length ? `Not at ${first.to}: ` : `To ${first.to}: `}</span>
        <span className="font-medium">{first.fileName}</span>. {deliveryInWords(first, now.getTime())}
      </p>
      {!wrong.length && (
        <span className="w-40 shrink-0">
          <Progress value={first.progress} label={`Sending ${first.fileName}`} />
        </span>
      )}
      <Link to="/sendings" className="shrink-0 font-medium text-tape hover:underline">
        {going.length > 1 ? `All ${going.length} sendings` : wrong.some(wantsPerson) ? 'Decide' : 'Sendings'}
      </Link>
    </section>
  )
}

const isUnderWay = (one: DeliveryInfo): boolean => one.state !== 'arrived' && one.state !== 'stopped'

/** Says once of each that was seen on its way that it has arrived. */
function useArrivals(open: readonly Receipt[] | undefined): void {
  const before = useRef(new Map<string, { send: string; to: string; fileName: string }>())
  useEffect(() => {
    if (!open) return
    const now = new Map(open.flatMap(({ deliveries }) => deliveries.filter(isUnderWay).map((one) => [one.id, one])))
    const ended = [...before.current].filter(([id]) => !now.has(id))
    before.current = now
    for (const [id, { send, to, fileName }] of ended)
      void get<Receipt>(`/sends/${send}`)
        .then(({ deliveries }) => {
          if (deliveries.find((one) => one.id === id)?.state === 'arrived') toast.success(`“${fileName}” has arrived at ${to}.`)
        })
        .catch(() => undefined)
  }, [open])
}
