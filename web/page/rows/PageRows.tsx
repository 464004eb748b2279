import { closestCenter, DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core'
import { SortableContext, sortableKeyboardCoordinates, verticalListSortingStrategy } from '@dnd-kit/sortable'
import { useMemo } from 'react'
import { backtimeOf } from '../../../core/page/countdown'
import { shareOf } from '../../../core/page/following'
import type { Block } from '../../../core/page/story'
import { clock, RATE, type Frames } from '../../../core/time'
import { useSame } from '../../api/useSame'
import type { LiveDocument } from '../../documents/liveDocument'
import { textIn, writeIn } from '../../documents/writing'
import type { Presence } from '../../../contract/presence'
import { timeOfDayAfter } from '../../story/airTime'
import type { useChosen } from '../../ui/useChosen'
import { useLasting } from '../../ui/useLasting'
import type { usePage } from '../laid/usePage'
import { useTurned } from '../mix/turned'
import type { useVoiceLevels } from '../mix/useVoiceLevels'
import { BlockRow, type OnBlock } from './BlockRow'
import { TimesContext, type Times } from './BlockTime'
import { NearRow } from './NearRow'
import { MarksContext, rowMarks } from './RowMarks'

interface Props {
  story: string
  live: LiveDocument<'story'>
  page: ReturnType<typeof usePage>
  chosen: ReturnType<typeof useChosen<Block>>
  voices: ReturnType<typeof useVoiceLevels>
  others: readonly Pick<Presence, 'line' | 'name'>[]
  /** The block that was made just now, and is to be written. */
  writing: string | null
  /** The page plays with what is read live. */
  rehearsing: boolean
  place: () => Frames
  /** When each block must begin is shown, in place of when it does. */
  backtimes: boolean
  /** Takes a block from one place of the order to another. */
  move: (from: number, to: number) => void
  on: Pick<
    OnBlock,
    | 'set'
    | 'aside'
    | 'play'
    | 'playWithin'
    | 'pickTrack'
    | 'breakAt'
    | 'joinUp'
    | 'pasteOver'
    | 'asOnPage'
    | 'ownLine'
    | 'nudge'
    | 'levelLikeThis'
    | 'drawEnd'
  >
}

/** As a time of day where the air time is known, else from where the slot begins. */
const beginsBy = (after: Frames, airs: string): string => timeOfDayAfter(airs, (after * 1000) / RATE) ?? clock(after)

/** The blocks of a page, one under the other, to be dragged into another order. */
export function PageRows({ story, live, page, chosen, voices, others, writing, rehearsing, place, backtimes, move, on }: Props) {
  const { spine, known, plans, air, file, layout, facts, output } = page
  const { slot, airs } = output
  const rows = useMemo(() => new Map(air.placed.map((row) => [row.block.id, row])), [air])
  const times = useMemo(
    (): Times => ({ rows, slot, backtime: backtimes && slot ? (row) => beginsBy(backtimeOf(row, air, slot), airs) : null }),
    [rows, air, slot, airs, backtimes],
  )
  const turned = useTurned((state) => state.turned)
  const marks = useMemo(() => rowMarks(layout, layout.marks, file, turned), [layout, file, turned])
  const inFile = useMemo(() => new Set(file.placed.map(({ block }) => block.id)), [file])
  const taken = useMemo(() => new Set(page.rows.flatMap(({ body }) => body.line ?? [])), [page.rows])
  const ids = useSame(spine.map(({ id }) => id))

  /** The record that a block's words are in: its own in this output, or the page's. */
  const textOf = ({ id }: Block): string => {
    const other = page.others.get(id)
    return other?.text === undefined ? id : other.id
  }

  const onBlock = useLasting<OnBlock>({
    set: on.set,
    aside: on.aside,
    play: on.play,
    playWithin: on.playWithin,
    pickTrack: on.pickTrack,
    breakAt: on.breakAt,
    joinUp: on.joinUp,
    pasteOver: on.pasteOver,
    asOnPage: on.asOnPage,
    nudge: on.nudge,
    levelLikeThis: on.levelLikeThis,
    ownLine: on.ownLine,
    drawEnd: on.drawEnd,
    move: (block, by) => move(spine.indexOf(block), spine.indexOf(block) + by),
    press: ({ id }, event) => chosen.pressed(id, event),
    choose: ({ id }) => chosen.is(id) || chosen.choose(id),
    textNow: (block) => textIn(live, textOf(block), 'text'),
    write: (block, change) => writeIn(live, textOf(block), 'text', change),
    share: ({ id }) => shareOf(layout, id, place()),
  })

  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  )
  const drop = ({ active, over: target }: DragEndEvent) => {
    if (target && active.id !== target.id) move(ids.indexOf(String(active.id)), ids.indexOf(String(target.id)))
  }
  return (
    <TimesContext value={times}>
      <MarksContext value={marks}>
        <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop}>
          <SortableContext items={ids as string[]} strategy={verticalListSortingStrategy}>
            {spine.map((block, i) => {
              const row = rows.get(block.id)
              const here = others.filter((one) => one.line === block.id).map((one) => one.name)
              const isWriting = writing === block.id
              return (
                <NearRow
                  key={block.id}
                  block={block}
                  words={row?.words ?? 0}
                  count={spine.length}
                  always={chosen.is(block.id) || isWriting}
                >
                  {() => (
                    <BlockRow
                      story={story}
                      block={block}
                      piece={block.piece ? known.get(block.piece) : undefined}
                      plan={block.piece ? plans.get(block.piece) : undefined}
                      facts={facts}
                      chosen={chosen.is(block.id)}
                      first={i === 0}
                      last={i === spine.length - 1}
                      isFirstOutput={page.isFirst}
                      otherwise={page.others.get(block.id)}
                      words={row?.words ?? 0}
                      silent={row?.sound !== 'piece'}
                      inTheFile={inFile.has(block.id)}
                      own={page.paces({ ...block, pace: undefined })}
                      hasTakes={taken.has(block.id)}
                      loudness={voices.of(block)}
                      jump={voices.jump(block)}
                      writing={isWriting}
                      rehearsing={rehearsing}
                      here={here.length ? `${here.join(', ')} ${here.length === 1 ? 'is' : 'are'} here` : ''}
                      on={onBlock}
                    />
                  )}
                </NearRow>
              )
            })}
          </SortableContext>
        </DndContext>
      </MarksContext>
    </TimesContext>
  )
}
