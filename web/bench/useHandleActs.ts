import { toast } from 'sonner'
import type { Actuality } from '../../core/edits/actuality'
import { changeHandle } from '../../core/edits/handles'
import { milliseconds, type Frames } from '../../core/time'
import type { Handlers } from '../commands/commands'
import type { Bench } from './bench'

/** By how much a key changes a handle. */
const HANDLE = milliseconds(50)

/** More or less room before the first word and after the last. */
export function useHandleActs({ live, factsOf, act }: Bench): Handlers {
  const handle = (end: 'head' | 'tail', by: Frames) => {
    const now = live.body as Actuality
    const steps = changeHandle(now, end, by, factsOf((end === 'head' ? now.spans[0] : now.spans[now.spans.length - 1]).tape).frames)
    if (!steps.length) return void toast(by < 0 ? 'There is no room left there.' : 'The tape has no more there.', { duration: 1500 })
    act(steps, by > 0 ? 'more room' : 'less room')
  }
  return {
    'handle.headLess': () => handle('head', -HANDLE),
    'handle.headMore': () => handle('head', HANDLE),
    'handle.tailLess': () => handle('tail', -HANDLE),
    'handle.tailMore': () => handle('tail', HANDLE),
  }
}
