import { useEffect, useRef } from 'react'
import { useNavigate } from 'react-router'
import { toast } from 'sonner'
import { orSay } from '../api/orSay'
import { tapeBeside } from '../library/tapeBeside'

/**
 * To the recording before or after this one, in the order of the list that it stands in. Who presses again before it is there goes on
 * from the one that is on its way.
 */
export function useTapeBeside(id: string, story: string | null) {
  const navigate = useNavigate()
  const last = useRef(Promise.resolve(id))
  const waiting = useRef(0)
  useEffect(() => {
    if (!waiting.current) last.current = Promise.resolve(id)
  }, [id])
  const goFrom = async (from: string, by: 1 | -1): Promise<string> => {
    const next = await tapeBeside(from, by, story)
    if (next) void navigate(`/tapes/${next}${story ? `?story=${story}` : ''}`)
    else toast(by < 0 ? 'This is the first recording of the list.' : 'This is the last recording of the list.', { duration: 1500 })
    return next ?? from
  }
  const go = (by: 1 | -1): Promise<string> => {
    waiting.current++
    const there = last.current.then((from) => goFrom(from, by)).finally(() => waiting.current--)
    last.current = there.catch(() => id)
    return there
  }
  return { 'go.previousTape': () => orSay(go(-1)), 'go.nextTape': () => orSay(go(1)) }
}
