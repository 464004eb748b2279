import { toast } from 'sonner'
import type { Actuality, ActualityStep } from '../../../core/edits/actuality'
import { beyondEnd, endAt, endIn, endOut, type Beyond, type End } from '../../../core/edits/ends'
import { changeHandle } from '../../../core/edits/handles'
import { milliseconds, type Frames } from '../../../core/time'
import type { Bench } from '../bench'

/** By how much a key changes a handle. */
const HANDLE = milliseconds(50)

/** More or less room before the first word and after the last, and either end taken in or out by a word. */
export function useHandleActs({ live, factsOf, wordsOf, offOf, act }: Bench) {
  const now = () => live.body
  const beyond = (end: End): Beyond => beyondEnd(end, { factsOf, wordsOf, offOf })
  const handle = (end: End, by: Frames) => {
    const steps = changeHandle(now(), end, by, beyond(end).free(now()))
    if (!steps.length) return void toast('The handle can’t get any shorter.', { duration: 1500 })
    act(steps, by > 0 ? 'longer handle' : 'shorter handle')
  }
  const byWord = (
    end: End,
    make: (piece: Actuality, end: End, words: typeof wordsOf, beyond: Beyond) => ActualityStep[],
    label: string,
    none: string,
  ) => {
    const steps = make(now(), end, wordsOf, beyond(end))
    if (!steps.length) return void toast(none, { duration: 1500 })
    act(steps, label)
  }
  const takeIn = (end: End) => byWord(end, endIn, end === 'head' ? 'start one word later' : 'end one word earlier', 'One word is left.')
  const takeOut = (end: End) =>
    byWord(
      end,
      endOut,
      end === 'head' ? 'start one word earlier' : 'end one word later',
      'The tape has no more words there that may be used.',
    )
  /** An end is drawn to a place of the piece, or out past it. */
  const drawTo = (end: End, place: Frames) => {
    const steps = endAt(now(), end, place, wordsOf, beyond(end))
    if (steps.length) act(steps, end === 'head' ? 'move the start' : 'move the end')
  }
  const commands = {
    'handle.headLess': () => handle('head', -HANDLE),
    'handle.headMore': () => handle('head', HANDLE),
    'handle.tailLess': () => handle('tail', -HANDLE),
    'handle.tailMore': () => handle('tail', HANDLE),
    'end.startLater': () => takeIn('head'),
    'end.startEarlier': () => takeOut('head'),
    'end.endEarlier': () => takeIn('tail'),
    'end.endLater': () => takeOut('tail'),
  }
  return { commands, drawTo }
}
