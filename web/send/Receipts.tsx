import type { ReactNode } from 'react'
import { AudioLines, Download, FileText, RotateCw } from 'lucide-react'
import { toast } from 'sonner'
import type { DestinationInfo } from '../../contract/destinations'
import type { Receipt, SendTarget } from '../../contract/sends'
import { clock, RATE } from '../../core/time'
import { get, post, remove } from '../api/client'
import { orSay } from '../api/orSay'
import { useReceipts } from '../api/queries'
import { useMyName } from '../present/present'
import { TimeLeft } from '../ui/TimeLeft'
import { Button, Progress } from '../ui/parts'
import { Changed } from './Changed'
import { Deliveries } from './Deliveries'
import { figuresInWords } from './figuresInWords'

/** What was sent of something, the newest first: its figures, the file itself, and a tape made of it. */
export function Receipts({ of }: { of: SendTarget }) {
  const receipts = useReceipts(of.id).data ?? []
  return (
    <>
      <h3 className="mt-6 border-b border-rule pb-1.5 text-[12px] font-semibold text-faint">Previous sends</h3>
      {receipts.length === 0 && <p className="py-3 text-faint">Not sent yet.</p>}
      <ul data-testid="receipts">
        {receipts.map((receipt) => (
          <ReceiptRow key={receipt.id} receipt={receipt} />
        ))}
      </ul>
    </>
  )
}

/** The file becomes a tape, of the story where it was one. */
async function makeTape({ id, fileName }: Receipt): Promise<void> {
  await post(`/sends/${id}/tape`, {})
  toast.success(`“${fileName}” is being imported as a tape.`)
}

/** What was sent, sent again in the same form, as it is by now; to the destinations that are still there. */
async function sendAgain({ order, deliveries }: Receipt): Promise<void> {
  const there = new Set((await get<DestinationInfo[]>('/destinations')).map(({ id }) => id))
  const { to = [] } = order
  await post('/sends', { ...order, to: to.filter((id) => there.has(id)), by: useMyName.getState().name || undefined })
  for (const id of to.filter((one) => !there.has(one))) {
    const name = deliveries.find(({ destination }) => destination === id)?.to ?? 'One destination'
    toast.warning(`“${name}” is not set up any more: it was not sent there.`)
  }
}

/** `way`: to what was sent, where that is not in sight. */
export function ReceiptRow({ receipt, way }: { receipt: Receipt; way?: ReactNode }) {
  const { order, state } = receipt
  const under = state === 'waiting' || state === 'working'
  return (
    <li className="flex flex-wrap items-start gap-x-4 border-b border-rule py-2.5 text-[13px]">
      <div className="min-w-0 flex-1 basis-80">
        <p className="truncate font-semibold">
          {receipt.fileName} {way && <span className="ml-2 font-normal">{way}</span>}
        </p>
        {state === 'done' && (
          <p className="text-faint">
            {receipt.loudness !== null && receipt.truePeak !== null && (
              <>{figuresInWords({ loudness: receipt.loudness, truePeak: receipt.truePeak })}, </>
            )}
            {clock(receipt.frames * (RATE / order.rate))}, {receipt.frames.toLocaleString('en')} samples,
            {` ${(receipt.bytes / 1e6).toFixed(1)} `}
            MB, SHA-256 <span title={receipt.sha256}>{receipt.sha256.slice(0, 12)}…</span>
          </p>
        )}
        {(order.by || receipt.look.length > 0) && (
          <p className="text-faint">
            {order.by && `Sent by ${order.by}. `}
            {receipt.look.length > 0 && (
              <details className="inline">
                <summary className="inline cursor-pointer hover:underline">Last look: {receipt.look.length} seen</summary>
                <ul className="list-inside list-disc">
                  {receipt.look.map(({ text }, i) => (
                    <li key={i}>{text}</li>
                  ))}
                </ul>
              </details>
            )}
          </p>
        )}
        {state === 'failed' && <p className="text-cut-ink">{receipt.error}</p>}
        {state === 'cancelled' && <p className="text-faint">Cancelled. Nothing was kept.</p>}
        {under && <Working receipt={receipt} />}
        {state === 'done' && <Changed receipt={receipt} />}
      </div>
      <time className="shrink-0 text-faint" dateTime={receipt.at}>
        {new Date(receipt.at).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' })}
      </time>
      {state === 'done' && (
        <a
          className="inline-flex items-center gap-1 font-medium text-tape hover:underline"
          href={`/api/sends/${receipt.id}/file`}
          download={receipt.fileName}
        >
          <Download size={14} /> Save
        </a>
      )}
      {receipt.script && (
        <a
          className="inline-flex items-center gap-1 font-medium text-tape hover:underline"
          href={`/api/sends/${receipt.id}/script`}
          download={receipt.script.fileName}
        >
          <FileText size={14} /> {order.what.kind === 'story' ? 'Script' : 'Cue sheet'}
        </a>
      )}
      {state === 'done' && (
        <Button look="bare" className="-mt-1.5" onClick={() => orSay(makeTape(receipt))}>
          <AudioLines size={14} /> Make a tape
        </Button>
      )}
      {!under && (
        <Button look="bare" className="-mt-1.5" onClick={() => orSay(sendAgain(receipt))}>
          <RotateCw size={14} /> Same again
        </Button>
      )}
      {under && (
        <Button look="bare" className="-mt-1.5" onClick={() => orSay(remove(`/sends/${receipt.id}`))}>
          Cancel
        </Button>
      )}
      <div className="w-full">
        <Deliveries of={receipt.deliveries} />
      </div>
    </li>
  )
}

function Working({ receipt }: { receipt: Receipt }) {
  return (
    <div className="flex items-center gap-3">
      <Progress value={receipt.progress} label="Sending" />
      <span className="shrink-0 text-faint">{receipt.state === 'waiting' ? 'queued' : <TimeLeft progress={receipt.progress} />}</span>
    </div>
  )
}
