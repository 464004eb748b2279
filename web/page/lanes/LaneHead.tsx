import type { Lane } from '../../../core/page/story'
import { MARK_COLOURS } from '../../../core/tape/tape'
import { Menu, MenuItem } from '../../ui/parts'
import type { Hangers } from './useHangers'

const COLOURS = { tape: 'Green', voice: 'Brown', cut: 'Vermilion', ink: 'Ink' } as const

/** What a lane is called, and what can be done with it. */
export function LaneHead({ lane, hangers }: { lane: Lane; hangers: Hangers }) {
  const { setLane, placed } = hangers
  const empty = !placed.some((one) => one.lane.id === lane.id)
  const rename = () => {
    const name = globalThis.prompt('Name of the lane', lane.name)?.trim().slice(0, 200)
    if (name) setLane(lane, 'name', name, 'name of the lane')
  }
  return (
    <Menu
      label={`Lane ${lane.name}`}
      trigger={
        <button type="button" className="w-full truncate border-l border-rule px-0.5 py-2 text-center hover:bg-paper-low" title={lane.name}>
          <span className={lane.muted ? 'line-through' : ''}>{lane.name}</span>
        </button>
      }
    >
      <MenuItem onSelect={() => setLane(lane, 'muted', !lane.muted, lane.muted ? 'unmute a lane' : 'mute a lane')}>
        {lane.muted ? 'Unmute' : 'Mute'}
      </MenuItem>
      <MenuItem onSelect={() => setLane(lane, 'locked', !lane.locked, lane.locked ? 'unlock a lane' : 'lock a lane')}>
        {lane.locked ? 'Unlock' : 'Lock'}
      </MenuItem>
      <MenuItem onSelect={rename}>Rename …</MenuItem>
      {MARK_COLOURS.filter((one) => one !== lane.colour).map((one) => (
        <MenuItem key={one} onSelect={() => setLane(lane, 'colour', one, 'colour of the lane')}>
          <span className="inline-block size-3 rounded-full" style={{ background: `var(--${one})` }} /> {COLOURS[one]}
        </MenuItem>
      ))}
      {empty && <MenuItem onSelect={() => hangers.act([{ type: 'drop', id: lane.id }], 'remove a lane')}>Remove the lane</MenuItem>}
    </Menu>
  )
}
