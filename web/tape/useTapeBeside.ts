import { useNavigate } from 'react-router'
import { toast } from 'sonner'
import { orSay } from '../api/orSay'
import { tapeBeside } from '../library/tapeBeside'

/** To the recording before or after this one, in the order of the list that it stands in. */
export function useTapeBeside(id: string, story: string | null) {
  const navigate = useNavigate()
  const go = async (by: 1 | -1) => {
    const next = await tapeBeside(id, by, story)
    if (next) void navigate(`/tapes/${next}${story ? `?story=${story}` : ''}`)
    else toast(by < 0 ? 'This is the first recording of the list.' : 'This is the last recording of the list.', { duration: 1500 })
  }
  return { 'go.previousTape': () => orSay(go(-1)), 'go.nextTape': () => orSay(go(1)) }
}
