import { useNavigate } from 'react-router'
import { toast } from 'sonner'
import type { Actuality } from '../../../core/edits/actuality'
import { toTape } from '../../../core/edits/editList'
import type { Frames } from '../../../core/time'
import { orSay } from '../../api/orSay'
import { sayPutOnBoard } from '../../live/sayPutOnBoard'
import { putOnPage } from '../../story/putOnPage'

/** From a piece to its page, to its tape, to the record, and to the pieces beside it. `place`: where it stands, in frames of the piece. */
export function useGoing(id: string, piece: Actuality, place: () => Frames) {
  const navigate = useNavigate()
  const toItsTape = (also = '') => {
    const found = toTape(piece.spans, place())
    if (found) void navigate(`/tapes/${found.tape}?at=${found.frame}${piece.story ? `&story=${piece.story}` : ''}${also}`)
  }
  const onPage = async () => {
    if (!piece.story) return void toast('This piece has no story yet.')
    const there = await putOnPage(piece.story, id)
    toast.success(there ? 'It is already on the page.' : 'Added at the end of the page.', {
      action: { label: 'To the page', onClick: () => void navigate(`/stories/${piece.story}`) },
    })
  }

  return {
    onPage,
    commands: {
      'edit.pull': { run: () => void onPage(), title: 'Put on the page', unable: piece.story ? null : 'This piece has no story yet.' },
      'edit.onBoard': () => orSay(sayPutOnBoard(id, navigate)),
      'go.edits': () => void navigate(`/pieces/${id}/record`),
      'go.up': () => void navigate(piece.story ? `/stories/${piece.story}` : '/'),
      'go.across': { title: 'To the tape', run: () => toItsTape() },
      'mend.open': { title: 'Mend the sound', run: () => toItsTape(`&mend=1&piece=${id}`) },
    },
  }
}
