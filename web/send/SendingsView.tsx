import { useState } from 'react'
import { Pencil, Plus } from 'lucide-react'
import { Link } from 'react-router'
import type { DestinationInfo } from '../../contract/destinations'
import type { Programme } from '../../contract/programmes'
import type { Receipt } from '../../contract/sends'
import { Crumb, Heading, Shell, Side } from '../shell/Shell'
import { Button, Empty } from '../ui/parts'
import { DestinationDialog } from './DestinationDialog'
import { KINDS } from './destinationKinds'
import { wantsPerson } from './deliveryInWords'
import { ProgrammeDialog } from './ProgrammeDialog'
import { useDestinations, useNewestSends, useOpenSends, useProgrammes } from './queries'
import { ReceiptRow } from './Receipts'
import { formatInWords } from './settings'

type Editing = { destination: DestinationInfo | null } | { programme: Programme | null }

/** All that is sent: what is on its way, what wants a person, what arrived; and where to, in which form. */
export function SendingsView() {
  const newest = useNewestSends().data
  const open = useOpenSends().data
  const [editing, setEditing] = useState<Editing | null>(null)
  const underWay = new Set(open?.map(({ id }) => id))
  const ended = newest?.filter(({ id }) => !underWay.has(id)) ?? []
  const wanting = (open ?? []).filter(({ deliveries }) => deliveries.some(wantsPerson))
  const going = (open ?? []).filter((one) => !wanting.includes(one))
  return (
    <Shell path={<Crumb>Sendings</Crumb>} aside={<Setup onEdit={setEditing} />}>
      <div className="min-h-0 flex-1 overflow-y-auto px-10 py-8 max-[1180px]:px-6">
        <h1 className="mb-5 font-serif text-[28px] font-semibold">Sendings</h1>
        {newest && open && newest.length + open.length === 0 && (
          <Empty title="Nothing sent yet.">
            What is sent from a page, a piece or a tape is listed here until it has arrived, and after.
          </Empty>
        )}
        <Group title="For you to decide" rows={wanting} />
        <Group title="On its way" rows={going} />
        <Group title="Sent" rows={ended} />
      </div>
      {editing && 'destination' in editing && <DestinationDialog of={editing.destination} onClose={() => setEditing(null)} />}
      {editing && 'programme' in editing && <ProgrammeDialog of={editing.programme} onClose={() => setEditing(null)} />}
    </Shell>
  )
}

function Group({ title, rows }: { title: string; rows: readonly Receipt[] }) {
  if (!rows.length) return null
  return (
    <section aria-label={title} className="mb-8">
      <Heading>{title}</Heading>
      <ul>
        {rows.map((receipt) => (
          <ReceiptRow key={receipt.id} receipt={receipt} way={<WayTo receipt={receipt} />} />
        ))}
      </ul>
    </section>
  )
}

const PLACE = { story: 'stories', actuality: 'pieces', tape: 'tapes' }
const OPEN = { story: 'Open the story', actuality: 'Open the piece', tape: 'Open the tape' }

function WayTo({ receipt: { order } }: { receipt: Receipt }) {
  const { kind, id } = order.what
  return (
    <Link to={`/${PLACE[kind]}/${id}`} className="text-tape hover:underline">
      {OPEN[kind]}
    </Link>
  )
}

function Setup({ onEdit }: { onEdit: (what: Editing) => void }) {
  const destinations = useDestinations().data
  const programmes = useProgrammes().data
  return (
    <Side label="Where files go, and in which form">
      <Heading>Destinations</Heading>
      {destinations?.length === 0 && <p className="py-2 text-soft">A folder, or a server that takes files. None is set up yet.</p>}
      <ul>
        {destinations?.map((one) => (
          <Line
            key={one.id}
            name={one.name}
            about={`${KINDS[one.kind].name}, ${one.address}`}
            onEdit={() => onEdit({ destination: one })}
          />
        ))}
      </ul>
      <Button className="mt-3 mb-8" onClick={() => onEdit({ destination: null })}>
        <Plus size={14} /> Add a destination
      </Button>
      <Heading>House formats</Heading>
      {programmes?.length === 0 && (
        <p className="py-2 text-soft">In which form a programme wants its files, set once for all its stories.</p>
      )}
      <ul>
        {programmes?.map((one) => (
          <Line key={one.name} name={one.name} about={formatInWords(one.format)} onEdit={() => onEdit({ programme: one })} />
        ))}
      </ul>
      <Button className="mt-3" onClick={() => onEdit({ programme: null })}>
        <Plus size={14} /> Add a house format
      </Button>
    </Side>
  )
}

function Line({ name, about, onEdit }: { name: string; about: string; onEdit: () => void }) {
  return (
    <li className="flex items-start gap-2 border-b border-rule py-2">
      <span className="min-w-0 flex-1">
        <span className="block truncate font-medium">{name}</span>
        <span className="block text-[13px] break-words text-faint">{about}</span>
      </span>
      <Button look="bare" className="px-2" aria-label={`Change ${name}`} onClick={onEdit}>
        <Pencil size={14} />
      </Button>
    </li>
  )
}
