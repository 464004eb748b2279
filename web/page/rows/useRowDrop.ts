import type { DragEvent } from 'react'
import type { Block } from '../../../core/page/story'
import { carriedIn, isCarried } from '../lanes/carried'

interface Drop {
  spine: readonly Block[]
  /** Puts a piece on the page below a block; at its end where there is none. */
  addBelow: (piece: string, block: Block | undefined) => void
  /** Lays a tape beside the page from a block on. */
  layFrom: (tape: string, block: Block | undefined) => void
}

/** Takes pieces and tapes that are let go over the rows of a page. Files go to the story as everywhere. */
export function useRowDrop({ spine, addBelow, layFrom }: Drop) {
  const blockAt = ({ target }: DragEvent): Block | undefined => {
    const row = target instanceof Element ? target.closest('[data-block]') : null
    return row ? spine.find(({ id }) => row.id === `block-${id}`) : undefined
  }
  return {
    onDragOver: (event: DragEvent) => {
      if (isCarried(event, false)) event.preventDefault()
    },
    onDrop: (event: DragEvent) => {
      const carried = event.defaultPrevented ? null : carriedIn(event)
      if (!carried || 'files' in carried) return
      event.preventDefault()
      if ('piece' in carried) addBelow(carried.piece, blockAt(event) ?? spine.at(-1))
      else layFrom(carried.tape, blockAt(event))
    },
  }
}
