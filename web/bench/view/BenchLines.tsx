import type { ComponentProps } from 'react'
import { SPOKEN } from '../../../core/tape/tape'
import { ContextMenu } from '../../commands/CommandMenu'
import { Sheet } from '../../sheet/Sheet'
import type { useSheet } from '../../sheet/useSheet'

/** What can be done where one clicks, with nothing selected. */
const HERE = [
  'play.toggle',
  'play.across',
  'join.open',
  'join.hold',
  'join.shape',
  'join.fades',
  'edit.split',
  'edit.paste',
  'edit.bringBack',
  'edit.mute',
  'edit.mark',
  'edit.undo',
  'edit.redo',
] as const

type OfSheet = Pick<ComponentProps<typeof Sheet>, 'model' | 'onSelect' | 'onMovePassage' | 'onMovePoint' | 'onNick' | 'onMoveEnd'>

/** The lines of a piece, with what can be done where one clicks. */
export function BenchLines({
  slug,
  language = SPOKEN,
  sheet,
  ...ofSheet
}: OfSheet & { slug: string; language: string | undefined; sheet: ReturnType<typeof useSheet> }) {
  return (
    <ContextMenu ids={HERE}>
      <div className="flex min-h-44 min-w-0 flex-1">
        <Sheet
          ref={sheet.handle}
          owner={sheet.owner}
          language={language}
          label={`Bench: ${slug}`}
          look={sheet.look}
          onLook={sheet.setLook}
          onBegin={sheet.begin}
          onUnchoose={sheet.unchoose}
          onPlace={(frame) => sheet.goTo(frame, false)}
          onScrub={sheet.scrub}
          place={sheet.place}
          playing={sheet.playing}
          {...ofSheet}
        />
      </div>
    </ContextMenu>
  )
}
