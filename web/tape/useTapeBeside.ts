import { useNavigate } from 'react-router'
import { toast } from 'sonner'
import { tapeBeside } from '../library/tapeBeside'
import { useBeside } from '../shell/useBeside'

/** To the recording before or after this one, in the order of the list that it stands in. */
export function useTapeBeside(id: string, story: string | null) {
  const navigate = useNavigate()
  const go = useBeside(id, async (from, by) => {
    const next = await tapeBeside(from, by, story)
    if (next) void navigate(`/tapes/${next}${story ? `?story=${story}` : ''}`)
    else toast(by < 0 ? 'This is the first recording of the list.' : 'This is the last recording of the list.', { duration: 1500 })
    return next ?? from
  })
  return { 'go.previousTape': () => go(-1), 'go.nextTape': () => go(1) }
}
