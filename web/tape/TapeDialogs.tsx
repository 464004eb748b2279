import { useSearchParams } from 'react-router'
import type { TapeInfo } from '../../contract/tapes'
import type { Plan } from '../../core/render/plan'
import type { Frames, Stretch } from '../../core/time'
import { TapeFiguresDialog } from '../levels/TapeFiguresDialog'
import { LineUpDialog } from '../lineup/LineUpDialog'
import { SendDialog } from '../send/SendDialog'
import { WriteOutDialog } from '../transcript/WriteOutDialog'
import { BringInDialog } from '../words/BringInDialog'

export type TapeDialog = 'sending' | 'measuring' | 'liningUp' | 'writing' | 'bringing'

interface Props {
  open: TapeDialog | null
  tape: TapeInfo
  name: string
  plan: Plan
  selected: Stretch | null
  onGo: (frame: Frames) => void
  onClose: () => void
}

/** The dialogs of a tape, of which one is open at most. */
export function TapeDialogs({ open, tape, name, plan, selected, onGo, onClose }: Props) {
  const [params, setParams] = useSearchParams()
  const { id } = tape
  const setLineUp = (made: string | null) =>
    setParams(
      (now) => {
        if (made) now.set('lineUp', made)
        else now.delete('lineUp')
        return now
      },
      { replace: true },
    )
  switch (open) {
    case 'measuring':
      return <TapeFiguresDialog tape={tape} plan={plan} selected={selected} onGo={onGo} onClose={onClose} />
    case 'bringing':
      return <BringInDialog tape={id} name={name} onGo={onGo} onClose={onClose} />
    case 'writing':
      return <WriteOutDialog id={id} name={name} selected={selected} onClose={onClose} />
    case 'liningUp':
      return <LineUpDialog tape={tape} lineUp={params.get('lineUp')} onLineUp={setLineUp} onClose={onClose} />
    case 'sending':
      return <SendDialog target={{ kind: 'tape', id, ...selected }} title={name} onClose={onClose} />
    case null:
      return null
  }
}
