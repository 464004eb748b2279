import type { CSSProperties, HTMLAttributes, ReactNode, RefObject } from 'react'
import type { Frames } from '../../core/time'
import { ContextMenu } from '../commands/CommandMenu'
import { useCommands } from '../commands/commands'
import { useAcross } from './useAcross'
import { useZoom } from './useZoom'

/** What can be done with the block that is clicked. */
const HERE = [
  'page.rehearse',
  'page.write',
  'page.seam',
  'edit.split',
  'page.up',
  'page.down',
  'join.gapShorter',
  'join.gapLonger',
  'join.gapUsual',
  'play.loop',
  'page.panLeft',
  'page.panRight',
  'page.duplicate',
  'edit.copy',
  'edit.paste',
  'page.aside',
  'edit.mark',
  'page.addCopy',
  'page.addActuality',
  'page.byEar',
  'tidy.open',
  'edit.undo',
  'edit.redo',
] as const

interface Props {
  owner: string
  content: RefObject<HTMLDivElement | null>
  /** How long the page is. */
  length: Frames
  /** How wide its bars are. */
  bars: CSSProperties
  drop: HTMLAttributes<HTMLDivElement>
  onScroll: () => void
  /** What lies beside the rows, where a second is so many pixels tall. */
  beside: (second: number) => ReactNode
  /** The rows. */
  children: ReactNode
}

/** The part of a page that scrolls. While it is zoomed it alone is drawn anew, and what lies beside the rows; these stay as they are. */
export function PageScroll({ owner, content, length, bars, drop, onScroll, beside, children }: Props) {
  const zoom = useZoom({ owner, content, length })
  useCommands(zoom.commands)
  useAcross(content, zoom.near)
  return (
    <ContextMenu ids={HERE}>
      <div
        ref={content}
        {...drop}
        style={{ ...bars, ...zoom.style }}
        data-far={zoom.far || undefined}
        className="relative min-h-0 flex-1 overflow-y-auto"
        data-testid="page"
        onScroll={onScroll}
      >
        {children}
        {beside(zoom.second)}
      </div>
    </ContextMenu>
  )
}
