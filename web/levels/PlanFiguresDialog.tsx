import { inWords } from '../../core/hearing/findings'
import type { Plan } from '../../core/render/plan'
import { clock, type Stretch } from '../../core/time'
import { Dialog } from '../ui/parts'
import { FiguresTable } from './FiguresTable'
import { useMeasured } from './useMeasured'

/** Levels and loudness as it would be sent: of a stretch of what plays, or of all of it. `noun`: what all of it is called. */
export function PlanFiguresDialog({
  plan,
  selected,
  noun,
  onClose,
}: {
  plan: Plan
  selected: Stretch | null
  noun: string
  onClose: () => void
}) {
  const { from, to } = selected ?? { from: 0, to: plan.length }
  const figures = useMeasured(plan, from, to)
  return (
    <Dialog wide open onClose={onClose} title={selected ? `Levels, ${clock(from)} to ${clock(to)}` : `Levels of ${noun}`}>
      {!figures || figures === 'failed' ? (
        <p className="py-8 text-center text-soft">{figures ? 'The loudness could not be measured.' : 'Measuring …'}</p>
      ) : (
        <>
          <p className="mb-4 font-serif text-[18px]">{inWords(figures)}</p>
          <FiguresTable figures={figures} />
        </>
      )}
    </Dialog>
  )
}
