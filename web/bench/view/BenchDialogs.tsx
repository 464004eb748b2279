import type { Actuality } from '../../../core/edits/actuality'
import type { Plan } from '../../../core/render/plan'
import type { Stretch } from '../../../core/time'
import { PlanFiguresDialog } from '../../levels/PlanFiguresDialog'
import { SendDialog } from '../../send/SendDialog'
import { WriteOutDialog } from '../../transcript/WriteOutDialog'
import { JoinOnDialog } from '../order/JoinOnDialog'

export type BenchDialog = 'sending' | 'measuring' | 'writing' | 'joiningOn'

interface Props {
  open: BenchDialog | null
  id: string
  piece: Actuality
  plan: Plan
  /** In frames of the piece. */
  selected: Stretch | null
  onClose: () => void
}

/** The dialogs of a Bench, of which one is open at most. */
export function BenchDialogs({ open, id, piece, plan, selected, onClose }: Props) {
  switch (open) {
    case 'joiningOn':
      return <JoinOnDialog id={id} piece={piece} onClose={onClose} />
    case 'writing':
      return <WriteOutDialog id={id} name={piece.slug} onClose={onClose} />
    case 'measuring':
      return <PlanFiguresDialog plan={plan} selected={selected} noun="the piece" onClose={onClose} />
    case 'sending':
      return <SendDialog target={{ kind: 'actuality', id, ...selected }} title={piece.slug} onClose={onClose} />
    case null:
      return null
  }
}
