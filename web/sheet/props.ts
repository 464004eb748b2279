import type { ReactNode, Ref } from 'react'
import type { LevelPoint } from '../../core/sound/level'
import type { Frames, Stretch } from '../../core/time'
import type { SheetLook, SheetModel } from './paint/model'
import type { SheetSurface } from './surface'

/** What a Sheet is given, and what can be asked of it. */

export interface SheetHandle {
  readonly surface: SheetSurface
  reveal(frame: Frames, centre?: boolean): void
  follow(): void
}

export interface SheetProps {
  ref?: Ref<SheetHandle>
  /** By what it is known which view is come back to. */
  owner: string
  label: string
  /** What is spoken there, as a language tag. */
  language: string
  model: SheetModel
  look: SheetLook
  onLook: (look: SheetLook) => void
  onSelect: (selection: Stretch | null) => void
  /** A new selection begins: beside what is chosen (`more`), or in its place. */
  onBegin: (more: boolean) => void
  /** A passage that is chosen was clicked to be chosen no more; false where none is there. */
  onUnchoose: (at: Frames) => boolean
  /** Where one clicked. */
  onPlace: (frame: Frames) => void
  /** A word twice, a phrase three times. */
  onNick?: (at: Frames) => void
  /** The playhead is drawn along; null where it is let go. */
  onScrub: (frame: Frames | null) => void
  /** A mark was dragged to another place. */
  onMoveMark?: (id: string, at: Frames) => void
  /** A point of a level line was dragged. */
  onMovePoint?: (at: Frames, to: LevelPoint) => void
  /** What is selected was drawn to another place. */
  onMovePassage?: (to: Frames) => void
  /** An end was drawn to another place; before 0, or past the length, where it was drawn out. */
  onMoveEnd?: (end: 'head' | 'tail', to: Frames) => void
  place: () => Frames
  playing: boolean
  /** What lies on the Sheet; its places are those of the surface. */
  children?: ReactNode
}
