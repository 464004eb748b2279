import { useState } from 'react'
import { anchorAt } from '../../core/page/anchorAt'
import type { StoryStep } from '../../core/page/story'
import { beyond } from '../../core/tape/marks'
import { RATE, toFrames, type Frames } from '../../core/time'
import type { Handlers } from '../commands/commands'
import { reaction } from '../marks/reaction'
import type { Marked } from '../marks/MarkList'
import type { usePage } from './laid/usePage'

interface OnPage {
  page: ReturnType<typeof usePage>
  playing: boolean
  place: () => Frames
  jump: (at: Frames) => void
  act: (steps: StoryStep[], label: string) => void
}

/** Marks on the time of a page, which hold on to the words that they stand at. */
export function usePageMarks({ page, playing, place, jump, act }: OnPage) {
  const { layout, lengthOf, saidOf } = page
  const [fresh, setFresh] = useState<string | null>(null)
  const marks = layout.marks.map(({ mark, at }): Marked => ({ ...mark, at })).sort((a, b) => a.at - b.at)
  /** Where the key was pressed, less the time that a hand takes while it plays. */
  const add = (star?: true) => {
    const id = crypto.randomUUID()
    const at = Math.max(0, Math.round(place() - (playing ? toFrames(reaction()) : 0)))
    const start = anchorAt(layout, at, { lengthOf, saidIn: saidOf }, false)
    act([{ type: 'put', record: { id, kind: 'mark', start, text: '', ...(star ? { star } : {}) } }], star ? 'star' : 'mark')
    if (!star) setFresh(id)
  }
  const step = (by: 1 | -1) => {
    const next = beyond(
      marks.map(({ at }) => at),
      place(),
      by,
      playing ? RATE : 1,
    )
    if (next !== null) jump(next)
  }
  const none = marks.length ? null : 'There are no marks on this page.'
  const commands = {
    'edit.mark': () => add(),
    'edit.star': () => add(true),
    'play.markBack': { run: () => step(-1), unable: none },
    'play.markOn': { run: () => step(1), unable: none },
  } satisfies Handlers
  return {
    commands,
    list: {
      marks,
      fresh,
      onWritten: () => setFresh(null),
      onSet: ({ id }: Marked, key: 'text' | 'colour' | 'star', value: unknown) => act([{ type: 'set', id, key, value }], 'mark'),
      onRemove: ({ id }: Marked) => act([{ type: 'drop', id }], 'mark'),
      onGo: jump,
    },
  }
}
