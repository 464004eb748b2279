import { nicksIn, type BenchLayout } from '../../../core/edits/benchLayout'
import type { Version } from '../../../core/edits/versions'
import { clock, type Frames } from '../../../core/time'
import { ViewMenu } from '../../commands/CommandMenu'
import type { useSheet } from '../../sheet/useSheet'
import { Button, MenuItem } from '../../ui/parts'
import { SelectionFigures, Transport } from '../../shell/Transport'
import { CommandButton, CommandKey } from '../../commands/CommandButton'

interface BenchFootProps {
  sheet: ReturnType<typeof useSheet>
  layout: BenchLayout
  /** What is heard is what the piece is compared with: a version, or the tape as it was. */
  before: boolean
  against: Version | null
  patching: boolean
  tidying: boolean
  onPage: () => void
  /** Absent where nothing is said in it. */
  onWriteOut?: () => void
  onDuplicate: () => void
}

/** What plays, what is selected, and what can be done with it. */
export function BenchFoot({ sheet, layout, before, against, patching, tidying, onPage, onWriteOut, onDuplicate }: BenchFootProps) {
  const { selected, passages, select, place, playing } = sheet
  const any = passages.length > 0
  return (
    <>
      <Transport playing={playing} place={place}>
        {!any && <Whole length={layout.length} />}
      </Transport>
      {any ? (
        <SelectionFigures selection={selected} passages={passages} length={layout.length} words={0} onSelect={select} />
      ) : (
        <>
          <CommandButton id="play.across" look="bare">
            <CommandKey id="play.across" /> across the join
          </CommandButton>
          <CommandButton id="play.before" look="bare" pressed={before}>
            <CommandKey id="play.before" /> {before ? (against?.name ?? 'as it was') : against ? `now / ${against.name}` : 'before / after'}
          </CommandButton>
        </>
      )}
      <span className="flex-1" />
      {selected && passages.length === 1 && nicksIn(layout, selected.from, selected.to).length > 0 && <CommandButton id="edit.bringBack" />}
      {any && !patching && (
        <>
          {passages.length === 1 && <CommandButton id="patch.find">Patch</CommandButton>}
          <CommandButton id="edit.holdTime">Hold time</CommandButton>
          <CommandButton id="edit.takeOut">Take out</CommandButton>
        </>
      )}
      {!any && !tidying && <CommandButton id="tidy.open">Tidy</CommandButton>}
      <ViewMenu>
        {onWriteOut && <MenuItem onSelect={onWriteOut}>Export transcript …</MenuItem>}
        <MenuItem onSelect={onDuplicate}>Duplicate</MenuItem>
      </ViewMenu>
      <Button look="strong" onClick={onPage}>
        Put on the page
      </Button>
    </>
  )
}

const Whole = ({ length }: { length: Frames }) => <span className="shrink-0 text-faint">of {clock(length)}</span>
