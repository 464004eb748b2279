import { MoreHorizontal } from 'lucide-react'
import type { Side } from '../../core/tape/tape'
import { clock, milliseconds, RATE, type Stretch } from '../../core/time'
import { EditableText } from '../ui/EditableText'
import { Button, Menu, MenuItem } from '../ui/parts'
import { without } from '../../core/stretches'

/** So many muted stretches are listed one by one. */
const FEW = 6

interface Props {
  sides: readonly Side[]
  /** Channels of the tape, some of which may be left out. */
  channels: number
  selected: Stretch | null
  onSet: (sides: Side[], label: string) => void
  onSplit: (side: number) => void
}

/** The sides of a tape: who speaks on each, how loud, how late, and what is muted. */
export function SidesPanel({ sides, channels, selected, onSet, onSplit }: Props) {
  const set = (index: number, fields: Partial<Side>, label: string) =>
    onSet(
      sides.map((side, i) => (i === index ? pruned({ ...side, ...fields }) : side)),
      label,
    )
  const used = new Set(sides.flatMap((side) => side.channels as number[]))
  const picture = sides.length === 1 && sides[0].channels.length === 2
  const apart = Array.from(
    { length: channels },
    (_, channel): Side =>
      sides.find((side) => side.channels.length === 1 && side.channels[0] === channel) ?? { name: '', channels: [channel] },
  )
  return (
    <div className="py-1.5 text-[13px]">
      <ul>
        {sides.map((side, i) => (
          <li key={side.channels.join()} className="border-b border-rule py-1.5">
            <div className="flex items-center gap-2">
              <span className={`size-2 shrink-0 rounded-full ${i ? 'bg-voice' : 'bg-ink'}`} aria-hidden />
              <EditableText
                label={`Who speaks on side ${i + 1}`}
                value={side.name}
                placeholder={picture ? 'left and right' : `side ${i + 1}`}
                className="min-w-0 flex-1 font-medium"
                onKeep={(name) => set(i, { name }, 'name a side')}
              />
              <Menu
                label={`More for side ${i + 1}`}
                trigger={
                  <Button look="bare" className="h-6 px-1.5">
                    <MoreHorizontal size={14} />
                  </Button>
                }
              >
                <MenuItem onSelect={() => set(i, { flip: !side.flip }, 'invert polarity')}>{side.flip && '✓ '}Invert polarity</MenuItem>
                <MenuItem disabled={!selected} onSelect={() => selected && set(i, { hush: [...(side.hush ?? []), selected] }, 'mute')}>
                  Mute it over the selection
                </MenuItem>
                {side.hush && selected && (
                  <MenuItem onSelect={() => set(i, { hush: side.hush!.flatMap((one) => without(one, [selected])) }, 'unmute')}>
                    Unmute it over the selection
                  </MenuItem>
                )}
                {side.hush &&
                  side.hush.length <= FEW &&
                  side.hush.map((one) => (
                    <MenuItem key={one.from} onSelect={() => set(i, { hush: side.hush!.filter((other) => other !== one) }, 'unmute')}>
                      Unmute {clock(one.from)} to {clock(one.to)}
                    </MenuItem>
                  ))}
                {side.hush && side.hush.length > 1 && <MenuItem onSelect={() => set(i, { hush: [] }, 'unmute')}>Unmute all of it</MenuItem>}
                {sides.length > 1 && <MenuItem onSelect={() => onSet([side], 'one side')}>Keep this side alone</MenuItem>}
                {sides.length > 1 && <MenuItem onSelect={() => onSplit(i)}>Make a tape of this side</MenuItem>}
              </Menu>
            </div>
            <div className="flex items-center gap-1.5 pl-4 text-faint">
              <Figure
                label={`Level of side ${i + 1}`}
                value={side.level ?? 0}
                unit="dB"
                step={1}
                onKeep={(level) => set(i, { level: Math.max(-60, Math.min(40, level)) }, 'level')}
              />
              {sides.length > 1 && (
                <Figure
                  label={`Slip of side ${i + 1}`}
                  value={((side.slip ?? 0) / RATE) * 1000}
                  unit="ms delay"
                  step={1}
                  onKeep={(ms) => set(i, { slip: Math.max(-480_000, Math.min(480_000, milliseconds(ms))) }, 'slip')}
                />
              )}
            </div>
            {(side.flip || side.hush) && (
              <p className="pl-4 text-[12px] text-faint">
                {[
                  side.flip && 'polarity inverted',
                  side.hush && `muted in ${side.hush.length} ${side.hush.length === 1 ? 'place' : 'places'}`,
                ]
                  .filter(Boolean)
                  .join(', ')}
              </p>
            )}
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap gap-x-3 gap-y-1 pt-2 text-tape">
        {sides.length === 2 && (
          <button type="button" className="hover:underline" onClick={() => onSet([sides[1], sides[0]], 'swap sides')}>
            Swap them
          </button>
        )}
        {(used.size < channels || picture) && (
          <button type="button" className="hover:underline" onClick={() => onSet(apart, 'a side a channel')}>
            One side per channel
          </button>
        )}
        {channels === 2 && !picture && (
          <button type="button" className="hover:underline" onClick={() => onSet([{ name: '', channels: [0, 1] }], 'one picture')}>
            Stereo pair
          </button>
        )}
      </div>
      <p className="pt-2 text-[12px] text-faint">Applies to new pieces only.</p>
    </div>
  )
}

/** A side without what is not set on it. */
function pruned({ level, flip, slip, hush, ...side }: Side): Side {
  return { ...side, ...(level ? { level } : {}), ...(flip ? { flip } : {}), ...(slip ? { slip } : {}), ...(hush?.length ? { hush } : {}) }
}

function Figure({
  label,
  value,
  unit,
  step,
  onKeep,
}: {
  label: string
  value: number
  unit: string
  step: number
  onKeep: (value: number) => void
}) {
  const keep = (text: string) => {
    const next = Number(text.replace('−', '-').replace(',', '.'))
    if (Number.isFinite(next) && next !== value) onKeep(next)
  }
  return (
    <label className="flex items-center gap-1">
      <span className="sr-only">{label}</span>
      <input
        key={value}
        type="number"
        step={step}
        defaultValue={Math.round(value * 10) / 10}
        className={`h-6 w-14 rounded border border-transparent bg-transparent px-1 text-right text-ink hover:border-rule
          focus:border-tape focus:outline-none`}
        onBlur={(event) => keep(event.target.value)}
        onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
      />
      <span className="text-[12px]">{unit}</span>
    </label>
  )
}
