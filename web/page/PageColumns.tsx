import { useMemo, type CSSProperties } from 'react'
import { onlyLane, type LaneOf } from '../../core/page/onlyLane'
import { pagePlan } from '../../core/page/plan'
import type { Plan } from '../../core/render/plan'
import type { Frames } from '../../core/time'
import { run, titleOf } from '../commands/commands'
import { LaneMeter } from './lanes/LaneMeter'
import { LaneHead } from './lanes/LaneHead'
import type { Hangers } from './lanes/useHangers'
import type { usePage } from './laid/usePage'

interface Props {
  page: ReturnType<typeof usePage>
  hangers: Hangers
  /** The first column says when blocks must begin. */
  backtimes: boolean
  /** In pixels. */
  laneWidth: number
  style: CSSProperties
  playing: boolean
  place: () => Frames
}

/** What the columns of a page are. */
export function PageColumns({ page, hangers, backtimes, laneWidth, style, playing, place }: Props) {
  const { layout, known, facts } = page
  /** The meter of one lane, while the page plays. */
  const meters = useMemo(() => {
    if (!playing || !facts) return null
    return (lane: LaneOf): Plan => pagePlan(onlyLane(layout, lane), (piece) => known.get(piece), facts.factsOf)
  }, [playing, layout, known, facts])
  const meter = (lane: LaneOf, name: string) => meters && <LaneMeter planOf={meters} lane={lane} place={place} name={name} />
  return (
    <div
      style={style}
      className={`grid shrink-0 grid-cols-[78px_140px_1fr_64px_var(--bars)] max-[860px]:grid-cols-[56px_1fr_56px_76px] border-b
        border-rule text-[12px] font-semibold text-faint`}
    >
      <button
        type="button"
        title={titleOf('page.backtimes')}
        aria-pressed={backtimes}
        className="py-2 text-right hover:text-ink hover:underline"
        onClick={() => run('page.backtimes')}
      >
        {backtimes ? 'Backtime' : 'From'}
      </button>
      <span className="py-2 pl-5 max-[860px]:hidden">Block</span>
      <span className="py-2 pl-1 max-[860px]:pl-5">Script</span>
      <span className="py-2 pr-3 text-right">Length</span>
      <span className="flex border-l border-rule text-center">
        <span className="relative flex-1 border-r border-rule py-2">
          Voice
          {meter('voice', 'Voice')}
        </span>
        <span className="relative flex-1 py-2">
          Tape
          {meter('tape', 'Tape')}
        </span>
        {hangers.lanes.map((lane) => (
          <span key={lane.id} className="relative shrink-0 max-[860px]:hidden" style={{ width: laneWidth }}>
            <LaneHead lane={lane} width={laneWidth} hangers={hangers} solo={page.solo} onSolo={page.setSolo} />
            {meter(lane.id, lane.name)}
          </span>
        ))}
      </span>
    </div>
  )
}
