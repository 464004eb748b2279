import { useNavigate } from 'react-router'
import { toast } from 'sonner'
import { useBeside } from '../shell/useBeside'
import { pieceBeside } from './pieceBeside'

/** To the piece of the story before or after this one. `story`: null where it has none; undefined before that is known. */
export function usePieceBeside(id: string, story: string | null | undefined) {
  const navigate = useNavigate()
  const go = useBeside(id, async (from, by) => {
    const next = story ? await pieceBeside(story, from, by) : null
    if (next) void navigate(`/pieces/${next}`)
    else if (story !== undefined) toast(story ? 'This story has no other piece.' : 'This piece has no story.')
    return next ?? from
  })
  return { 'go.previousPiece': () => go(-1), 'go.nextPiece': () => go(1) }
}
