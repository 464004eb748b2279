import { useEffect } from 'react'
import { useNavigate } from 'react-router'
import { patch } from '../api/client'
import { orSay } from '../api/orSay'
import { Crumb, Shell } from '../shell/Shell'
import { Button, Empty } from '../ui/parts'
import { makeBoard, usualBoard } from './boards'
import { useBoards } from './queries'

/** Goes to the board that is in use; where there is none, one is begun, or brought back. */
export function LiveView() {
  const { data } = useBoards()
  const navigate = useNavigate()
  const board = data && usualBoard(data)
  useEffect(() => {
    if (board) void navigate(`/live/${board.id}`, { replace: true })
  }, [board, navigate])
  const goTo = (id: string) => void navigate(`/live/${id}`)
  return (
    <Shell path={<Crumb>Live clips</Crumb>}>
      {data && !board && (
        <Empty title="No board yet.">
          <p>A board holds the pieces of a programme that play at one touch, each on its key.</p>
          <Button look="strong" className="mt-4" onClick={() => orSay(makeBoard('Live clips').then(goTo))}>
            New board
          </Button>
          {data.map(({ id, name }) => (
            <p key={id} className="mt-3">
              <Button onClick={() => orSay(patch(`/documents/${id}`, { aside: false }).then(() => goTo(id)))}>Bring back “{name}”</Button>
            </p>
          ))}
        </Empty>
      )}
    </Shell>
  )
}
