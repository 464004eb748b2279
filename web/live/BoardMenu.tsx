import { ChevronDown } from 'lucide-react'
import { useNavigate } from 'react-router'
import { patch } from '../api/client'
import { orSay } from '../api/orSay'
import { Menu, MenuItem } from '../ui/parts'
import { makeBoard } from './boards'
import { useBoards } from './queries'

/** From one board to another: each programme has its own. */
export function BoardMenu({ id }: { id: string }) {
  const boards = useBoards().data ?? []
  const navigate = useNavigate()
  const goTo = (board: string) => void navigate(`/live/${board}`)
  return (
    <Menu
      label="Boards"
      trigger={
        <button type="button" className="flex items-center gap-1 rounded px-1 py-0.5 text-[13px] text-soft hover:bg-paper-low">
          <span className="max-[860px]:hidden">Boards</span> <ChevronDown size={14} />
        </button>
      }
    >
      {boards
        .filter(({ aside }) => !aside)
        .map((board) => (
          <MenuItem key={board.id} onSelect={() => goTo(board.id)}>
            <span className="flex-1">
              {board.id === id ? '✓ ' : ''}
              {board.name || 'Untitled'}
            </span>
            <span className="text-faint">{board.clips}</span>
          </MenuItem>
        ))}
      <MenuItem onSelect={() => orSay(makeBoard('New board').then(goTo))}>New board</MenuItem>
      <MenuItem onSelect={() => orSay(patch(`/documents/${id}`, { aside: true }).then(() => void navigate('/live')))}>
        Archive this board
      </MenuItem>
    </Menu>
  )
}
