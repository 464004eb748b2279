import { useState } from 'react'
import { toast } from 'sonner'
import type { Actuality, ActualityStep } from '../../../core/edits/actuality'
import { beyondEnd, endAt, endIn, endOut, type Beyond, type End } from '../../../core/edits/ends'
import { changeHandle } from '../../../core/edits/handles'
import type { WordsOf } from '../../../core/edits/pieceWords'
import type { Block } from '../../../core/page/story'
import { milliseconds, type Frames } from '../../../core/time'
import { orSay } from '../../api/orSay'
import type { Doing, Handlers } from '../../commands/commands'
import { liveDocument } from '../../documents/useDocument'
import type { LiveDocument } from '../../documents/liveDocument'
import type { Facts } from '../laid/usePage'

/** By how much a key changes a handle. */
const HANDLE = milliseconds(50)
const NO_PIECE = 'Choose a block with sound first.'

type Make = (piece: Actuality, beyond: Beyond, wordsOf: WordsOf) => ActualityStep[]

/**
 * The ends of what sounds in a block, taken further in, or out again into the tape, where it stands on the page. It is the piece itself
 * that changes, wherever it is used. `lives`: the pieces that were changed from here, so that undo reaches them.
 */
export function useEnds(chosen: Block | null, facts: Facts | null) {
  const [lives, setLives] = useState<readonly LiveDocument<'actuality'>[]>([])

  const change = async (block: Block, end: End, make: Make, label: string, none: string) => {
    if (!block.piece || !facts) return
    const live = await liveDocument(block.piece, 'actuality')
    const offOf = (tape: string) => facts.tapes.find(({ id }) => id === tape)?.off ?? []
    const steps = make(live.body, beyondEnd(end, { ...facts, offOf }), facts.wordsOf)
    if (!steps.length) return void (none && toast(none, { duration: 1500 }))
    live.act(steps, { label })
    setLives((all) => (all.includes(live) ? all : [...all, live]))
  }
  const doing = (end: End, make: Make, title: string, none: string): Doing => ({
    run: () => (chosen?.piece ? orSay(change(chosen, end, make, title.toLowerCase(), none)) : toast(NO_PIECE, { duration: 1500 })),
    title,
    unable: chosen?.piece ? null : NO_PIECE,
  })
  const inward =
    (end: End): Make =>
    (piece, beyond, wordsOf) =>
      endIn(piece, end, wordsOf, beyond)
  const outward =
    (end: End): Make =>
    (piece, beyond, wordsOf) =>
      endOut(piece, end, wordsOf, beyond)
  const handle =
    (end: End, by: Frames): Make =>
    (piece, { free }) =>
      changeHandle(piece, end, by, free(piece))
  const [LAST, NO_MORE] = ['One word is left.', 'The tape has no more words there that may be used.']
  const SHORTEST = 'The handle can’t get any shorter.'
  const commands = {
    'end.startEarlier': doing('head', outward('head'), 'Start the block one word earlier', NO_MORE),
    'end.startLater': doing('head', inward('head'), 'Start the block one word later', LAST),
    'end.endEarlier': doing('tail', inward('tail'), 'End the block one word earlier', LAST),
    'end.endLater': doing('tail', outward('tail'), 'End the block one word later', NO_MORE),
    'handle.headLess': doing('head', handle('head', -HANDLE), 'Shorter head handle', SHORTEST),
    'handle.headMore': doing('head', handle('head', HANDLE), 'Longer head handle', ''),
    'handle.tailLess': doing('tail', handle('tail', -HANDLE), 'Shorter tail handle', SHORTEST),
    'handle.tailMore': doing('tail', handle('tail', HANDLE), 'Longer tail handle', ''),
  } satisfies Handlers
  /** An end is drawn to a place of the piece, or out past it. */
  const drawTo = (block: Block, end: End, place: Frames) =>
    orSay(
      change(
        block,
        end,
        (piece, beyond, wordsOf) => endAt(piece, end, place, wordsOf, beyond),
        end === 'head' ? 'move the start' : 'move the end',
        '',
      ),
    )
  return { commands, drawTo, lives }
}
