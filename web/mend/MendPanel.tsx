import { useState } from 'react'
import { useSearchParams } from 'react-router'
import { toast } from 'sonner'
import type { TapeInfo } from '../../contract/tapes'
import { madeFor } from '../../core/tape/renditions'
import type { Rendition, Side, TapeStep } from '../../core/tape/tape'
import type { Stretch } from '../../core/time'
import { useDocument, type OpenDocument } from '../documents/useDocument'
import { Choice } from '../ui/parts'
import { MendSide, type Mending } from './MendSide'
import type { Tried } from './useTrying'

interface Props {
  tape: TapeInfo
  /** Who speaks on it, as it is called by now. */
  speaker: string
  sides: readonly Side[]
  /** What was made of its sides, in the order in which it was made. */
  renditions: readonly Rendition[]
  /** What is selected: noise is learnt from it, tone too, and loudness is told by it. */
  selected: Stretch | null
  act: (steps: TapeStep[], label: string) => void
  /** What is set here is heard at once, before it is applied. */
  onTry: (tried: Tried | null) => void
}

/** Mends a tape, one side at a time; from a piece one comes here with that piece, which can be mended alone. */
export function MendPanel(props: Props) {
  const [params] = useSearchParams()
  const piece = params.get('piece')
  return piece ? <WithPiece key={piece} id={piece} {...props} /> : <ForTape {...props} />
}

function WithPiece({ id, ...props }: Props & { id: string }) {
  const piece = useDocument(id, 'actuality')
  return piece && 'live' in piece ? <ForPiece piece={piece} {...props} /> : <ForTape {...props} />
}

const stepsFor = ({ made, dropped, sides }: Mending): TapeStep[] => [
  ...(made ? [{ type: 'put' as const, record: made }] : []),
  { type: 'set', id: 'tape', key: 'sides', value: [...sides] },
  ...(dropped ? [{ type: 'drop' as const, id: dropped }] : []),
]

function ForTape({ act, ...rest }: Props) {
  const { renditions } = rest
  return <Sides {...rest} renditions={madeFor(renditions)} piece={null} onMend={(mending, label) => act(stepsFor(mending), label)} />
}

/** The tape, and with it what is pulled from now on, or the piece alone: then its sides are heard from what was made for it. */
function ForPiece({ piece: { live, body }, act, ...rest }: Props & { piece: OpenDocument<'actuality'> }) {
  const [alone, setAlone] = useState(false)
  const { tape, renditions } = rest
  const mendAlone = ({ made, dropped, sides }: Mending, label: string) => {
    if (made) act([{ type: 'put', record: { ...made, piece: live.id } }], label)
    live.act([{ type: 'set', key: 'sides', value: { ...body.sides, [tape.id]: [...sides] } }], { label })
    if (dropped) act([{ type: 'drop', id: dropped }], label)
    toast.success(`Done in “${body.slug || 'Untitled'}” alone.`)
  }
  return (
    <>
      <Choice
        label="For"
        value={alone ? 'piece' : 'tape'}
        onChange={(value) => setAlone(value === 'piece')}
        options={[
          ['tape', 'the tape, and new pieces of it'],
          ['piece', `“${body.slug || 'Untitled'}” alone`],
        ]}
      />
      {alone ? (
        <Sides
          {...rest}
          sides={body.sides?.[tape.id] ?? rest.sides}
          renditions={madeFor(renditions, live.id)}
          piece={live.id}
          onMend={mendAlone}
        />
      ) : (
        <ForTape act={act} {...rest} />
      )}
    </>
  )
}

const sideName = ({ name }: Side, index: number): string => name || `Side ${index + 1}`

interface SidesProps extends Omit<Props, 'act'> {
  /** The piece that is mended alone. */
  piece: string | null
  onMend: (mending: Mending, label: string) => void
}

function Sides({ sides, ...rest }: SidesProps) {
  const [at, setAt] = useState(0)
  const index = Math.min(at, sides.length - 1)
  return (
    <>
      {sides.length > 1 && (
        <Choice label="Side" value={index} onChange={setAt} options={sides.map((one, i) => [i, sideName(one, i)] as const)} />
      )}
      <MendSide key={`${rest.piece} ${index}`} sides={sides} index={index} {...rest} />
    </>
  )
}
