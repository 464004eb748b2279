import { useState, type FormEvent } from 'react'
import type { Lane } from '../../../core/page/story'
import { MARK_COLOURS } from '../../../core/tape/tape'
import { Button, Dialog, Field, Menu, MenuItem } from '../../ui/parts'
import type { Hangers } from './useHangers'

const COLOURS = { tape: 'Green', voice: 'Brown', cut: 'Vermilion', ink: 'Ink' } as const

/** A lane that is narrower than this has no room for its name, in pixels. */
const NAMED = 48

/** What stands for a name where there is little room: `QA` for “Quay ambience”, `L12` for “Lane 12”. */
const initials = (name: string): string =>
  (name.match(/\d+|\p{L}+/gu) ?? [name])
    .map((part) => (/\d/.test(part) ? part : part[0].toUpperCase()))
    .join('')
    .slice(0, 3)

interface Props {
  lane: Lane
  /** In pixels. */
  width: number
  hangers: Hangers
  /** The lane that is listened to by itself. */
  solo: string | null
  onSolo: (lane: string | null) => void
}

/** What a lane is called, and what can be done with it. */
export function LaneHead({ lane, width, hangers, solo, onSolo }: Props) {
  const louder = (by: number) => setLane(lane, 'gain', Math.max(-60, Math.min(24, lane.gain + by)), 'level of a lane')
  const { setLane, placed } = hangers
  const empty = !placed.some((one) => one.lane.id === lane.id)
  const [naming, setNaming] = useState(false)
  const rename = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault()
    const name = String(new FormData(event.currentTarget).get('name')).trim().slice(0, 200)
    if (name) setLane(lane, 'name', name, 'name of the lane')
    setNaming(false)
  }
  return (
    <>
      <Menu
        label={`Lane ${lane.name}`}
        trigger={
          <button
            type="button"
            className="w-full truncate border-l border-rule px-0.5 py-2 text-center hover:bg-paper-low"
            title={lane.name}
          >
            <span className={lane.muted ? 'line-through' : solo === lane.id ? 'text-cut-ink' : ''}>
              {width < NAMED ? initials(lane.name) : lane.name}
            </span>
          </button>
        }
      >
        <MenuItem onSelect={() => setLane(lane, 'muted', !lane.muted, lane.muted ? 'unmute a lane' : 'mute a lane')}>
          {lane.muted ? 'Unmute' : 'Mute'}
        </MenuItem>
        <MenuItem onSelect={() => setLane(lane, 'locked', !lane.locked, lane.locked ? 'unlock a lane' : 'lock a lane')}>
          {lane.locked ? 'Unlock' : 'Lock'}
        </MenuItem>
        <MenuItem onSelect={() => onSolo(solo === lane.id ? null : lane.id)}>
          {solo === lane.id ? 'End solo' : 'Solo, for listening'}
        </MenuItem>
        <MenuItem onSelect={() => louder(1.5)}>Louder by 1.5 dB, now {lane.gain} dB</MenuItem>
        <MenuItem onSelect={() => louder(-1.5)}>Softer by 1.5 dB</MenuItem>
        <MenuItem onSelect={() => hangers.turnLanes(1.5)}>All lanes louder by 1.5 dB</MenuItem>
        <MenuItem onSelect={() => hangers.turnLanes(-1.5)}>All lanes softer by 1.5 dB</MenuItem>
        <MenuItem onSelect={() => setNaming(true)}>Rename …</MenuItem>
        {MARK_COLOURS.filter((one) => one !== lane.colour).map((one) => (
          <MenuItem key={one} onSelect={() => setLane(lane, 'colour', one, 'colour of the lane')}>
            <span className="inline-block size-3 rounded-full" style={{ background: `var(--${one})` }} /> {COLOURS[one]}
          </MenuItem>
        ))}
        {empty && <MenuItem onSelect={() => hangers.act([{ type: 'drop', id: lane.id }], 'remove a lane')}>Remove the lane</MenuItem>}
      </Menu>
      {naming && (
        <Dialog open title="Rename the lane" onClose={() => setNaming(false)}>
          <form className="flex flex-col gap-4" onSubmit={rename}>
            <Field label="Name" name="name" defaultValue={lane.name} autoFocus />
            <div className="flex justify-end">
              <Button look="strong" type="submit">
                Save
              </Button>
            </div>
          </form>
        </Dialog>
      )}
    </>
  )
}
