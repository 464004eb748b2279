import { MoreHorizontal } from 'lucide-react'
import type { PointerEvent, ReactNode } from 'react'
import { BLOCK_KINDS, type Block } from '../../../core/page/story'
import { tradeLength, type Frames } from '../../../core/time'
import { Menu } from '../../ui/parts'
import { BLOCK_NAMES } from '../../../core/page/blockNames'
import { BlockTime, SlotEnd } from './BlockTime'
import { GapGrip } from './GapGrip'
import { RowMarks } from './RowMarks'
import { Grip, Sortable } from './Sortable'
import { tall } from './tall'

interface Props {
  block: Block
  /** How long its words are, in frames. */
  words: Frames
  inTheFile: boolean
  chosen: boolean
  onPress: (event: PointerEvent) => void
  onChoose: () => void
  /** Plays from a place within its words, as a share of them. */
  onPlay: (share: number) => void
  /** Begins it so much later, or sooner. */
  onNudge: (by: Frames) => void
  menu: ReactNode
  /** Who else is in it. */
  here: string
  /** What it has otherwise in this output, in words. */
  differs: string
  who: ReactNode
  bar: ReactNode
  /** How loud it is. */
  level: ReactNode
  children: ReactNode
}

/** A block as a row of the page: when it begins, what it is, its script, its length, and its sound as a bar. */
export function Row(props: Props) {
  const { block, words, chosen, inTheFile, onPress, onChoose, onPlay, onNudge, menu, here, differs, who, bar, level, children } = props
  const { written } = BLOCK_KINDS[block.kind]
  return (
    <Sortable
      block={block.id}
      id={`block-${block.id}`}
      data-block={block.kind}
      aria-label={`${BLOCK_NAMES[block.kind]}, ${tradeLength(words)}`}
      aria-current={chosen || undefined}
      onPointerDown={onPress}
      onFocus={onChoose}
      style={tall(words, block.gap)}
      className={`tall group relative grid grid-cols-[78px_140px_1fr_64px_var(--bars)] max-[860px]:grid-cols-[56px_1fr_56px_76px]
        border-b border-rule ${chosen ? 'bg-paper-lit' : 'bg-paper'}`}
    >
      {chosen && <span className="absolute top-0 bottom-0 left-0 w-[3px] bg-tape" />}
      <div
        className={`stay flex justify-end py-2.5 text-right text-soft max-[860px]:flex-col-reverse max-[860px]:items-end
        max-[860px]:justify-end max-[860px]:gap-1`}
      >
        <Grip label={`Move ${BLOCK_NAMES[block.kind]}`} />
        <BlockTime block={block.id} gap={block.gap ?? 0} />
      </div>
      <div className="stay min-w-0 py-2.5 pr-2 pl-5 text-[12.5px] text-soft max-[860px]:pb-0">
        <div className="mb-0.5 font-semibold text-ink">{BLOCK_NAMES[block.kind]}</div>
        {who}
        {differs && (
          <span className="mt-1 block text-tape" data-testid="differs">
            {differs}
          </span>
        )}
        {here && (
          <span className="mt-1 block font-semibold text-tape" data-testid="here">
            {here}
          </span>
        )}
      </div>
      <div className="stay min-w-0 py-2 pr-3 max-[860px]:col-start-2 max-[860px]:row-start-2 max-[860px]:pl-4">{children}</div>
      <div className="stay flex flex-col items-end gap-1 py-2.5 pr-3 max-[860px]:col-start-3 max-[860px]:row-start-1">
        <span className="font-semibold" data-testid="block-length">
          {tradeLength(words)}
        </span>
        {level}
        <Menu
          label={`More for ${BLOCK_NAMES[block.kind]}`}
          trigger={
            <button
              type="button"
              className="rounded p-1 text-faint opacity-60 group-hover:opacity-100 hover:bg-paper-low focus:opacity-100"
            >
              <MoreHorizontal size={16} />
            </button>
          }
        >
          {menu}
        </Menu>
      </div>
      <div
        title="Play from here"
        onClick={(event) => {
          const { top, height } = event.currentTarget.getBoundingClientRect()
          if (!event.shiftKey && !event.ctrlKey && !event.metaKey) onPlay((event.clientY - top) / height)
        }}
        className={`relative grid cursor-pointer grid-cols-[68px_68px] border-l border-rule max-[860px]:col-start-4 max-[860px]:row-span-2
          max-[860px]:row-start-1 max-[860px]:grid-cols-2`}
      >
        <GapGrip label="Drag it: when the block begins" onMove={onNudge} />
        <RowMarks block={block.id} onPlay={onPlay} />
        <div className="relative border-r border-rule">
          {written && bar}
          {written && !bar && (
            <div className={`absolute inset-x-5 inset-y-1.5 border border-dashed border-grain ${inTheFile ? 'bg-paper-low' : ''}`} />
          )}
        </div>
        <div className="relative border-r border-rule">{!written && bar}</div>
      </div>
      <SlotEnd block={block.id} />
    </Sortable>
  )
}
