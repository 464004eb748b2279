import { Plus } from 'lucide-react'
import { useEffect, useState } from 'react'
import { useNavigate, useParams } from 'react-router'
import { ROWS, type BoardDocument } from '../../core/live/board'
import { useCommands } from '../commands/commands'
import { useDocument } from '../documents/useDocument'
import type { LiveDocument } from '../documents/liveDocument'
import { useFollowedUndo } from '../documents/useUndo'
import { Crumb, Shell } from '../shell/Shell'
import { Button, Empty } from '../ui/parts'
import { EditableText } from '../ui/EditableText'
import { useNight } from '../ui/theme'
import { AddClipDialog } from './AddClipDialog'
import { BoardLevel } from './BoardLevel'
import { BoardMenu } from './BoardMenu'
import { ClipCell } from './ClipCell'
import { CuedPanel } from './CuedPanel'
import { useKeyNames } from './keyNames'
import { OnAirPanel } from './OnAirPanel'
import { PlayedDialog } from './PlayedDialog'
import { SoundOutputs } from './SoundOutputs'
import { useBoard } from './useBoard'
import { useClipKeys } from './useClipKeys'

/** The board of live clips: pieces that are ready to play at one touch. It is dark, as a studio is. */
export function BoardView() {
  const { id = '' } = useParams()
  const opened = useDocument(id, 'board')
  if (opened && 'error' in opened)
    return (
      <Shell path={<Crumb>Live clips</Crumb>}>
        <Empty title="That board can’t be opened.">{opened.error.message}</Empty>
      </Shell>
    )
  return opened ? <OpenBoard key={id} id={id} live={opened.live} body={opened.body} /> : null
}

function OpenBoard({ id, live, body }: { id: string; live: LiveDocument<'board'>; body: BoardDocument }) {
  const board = useBoard(id, live, body)
  const nameOf = useKeyNames()
  const navigate = useNavigate()
  const [adding, setAdding] = useState<string | null>(null)
  const [showsPlayed, setShowsPlayed] = useState(false)
  useFollowedUndo(live)
  useClipKeys(board)
  useNight()
  const { cued } = board
  useCommands({
    'live.stopAll': board.stopAll,
    'live.play': board.playCued,
    'live.listen': () => cued && board.listen(cued),
    'live.left': () => board.cueTo('left'),
    'live.right': () => board.cueTo('right'),
    'live.up': () => board.cueTo('up'),
    'live.down': () => board.cueTo('down'),
    'live.played': () => setShowsPlayed(true),
  })
  const onAir = board.runs.length > 0
  useEffect(() => {
    if (!onAir) return
    const hold = (event: BeforeUnloadEvent) => event.preventDefault()
    window.addEventListener('beforeunload', hold)
    return () => window.removeEventListener('beforeunload', hold)
  }, [onAir])
  return (
    <>
      <Shell
        path={
          <>
            <Crumb>Live clips</Crumb>
            <EditableText
              label="Name of the board"
              value={board.name}
              className="max-w-56 min-w-0 truncate max-[860px]:max-w-32"
              onKeep={board.rename}
            />
            <BoardMenu id={id} />
          </>
        }
      >
        <div className="flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto px-6 py-4 max-[860px]:px-3">
          <div className="flex shrink-0 gap-3 max-[860px]:flex-col">
            <OnAirPanel board={board} />
            <CuedPanel board={board} nameOf={nameOf} />
          </div>
          {board.moving && (
            <p role="status" className="shrink-0 rounded-md bg-ink px-4 py-2 text-[15px] font-semibold text-paper">
              Press the key, or touch the place, that it goes to. Esc leaves it where it is.
            </p>
          )}
          <div className="flex min-h-[380px] flex-1 flex-col gap-2 max-[860px]:flex-none" data-testid="board">
            {ROWS.map((row) => (
              <div
                key={row[0]}
                className="grid min-h-[92px] flex-1 grid-cols-10 gap-2 max-[860px]:grid-cols-5 max-[860px]:auto-rows-[112px]"
              >
                {row.map((place) => {
                  const clip = board.places.get(place)
                  if (!clip)
                    return (
                      <FreePlace key={place} name={nameOf(place)} onAdd={() => (board.moving ? board.press(place) : setAdding(place))} />
                    )
                  return (
                    <ClipCell
                      key={clip.id}
                      board={board}
                      place={place}
                      name={nameOf(place)}
                      clip={clip}
                      prepared={board.prepared.get(clip.piece)}
                      run={board.runs.findLast((run) => run.clip === clip.id)}
                      onOpen={(piece) => void navigate(`/pieces/${piece}`)}
                    />
                  )
                })}
              </div>
            ))}
          </div>
          <div className="flex shrink-0 flex-wrap items-center gap-4">
            <SoundOutputs />
            <BoardLevel board={board} />
            <span className="flex-1" />
            <Button onClick={() => setShowsPlayed(true)}>Played</Button>
          </div>
        </div>
      </Shell>
      {adding && (
        <AddClipDialog
          keyName={nameOf(adding)}
          taken={new Set(board.clips.map(({ piece }) => piece))}
          onClose={() => setAdding(null)}
          onPick={(piece) => {
            board.put(piece, adding)
            setAdding(null)
          }}
        />
      )}
      {showsPlayed && <PlayedDialog board={id} onClose={() => setShowsPlayed(false)} />}
    </>
  )
}

function FreePlace({ name, onAdd }: { name: string; onAdd: () => void }) {
  return (
    <button
      type="button"
      tabIndex={-1}
      aria-label={`Put a piece on ${name}`}
      className={`group flex items-start justify-between rounded-lg border border-dashed border-rule px-2 py-1.5 text-faint
        hover:border-grain hover:text-ink`}
      onClick={onAdd}
    >
      <span className="text-[18px] leading-none font-semibold">{name}</span>
      <Plus size={16} className="opacity-0 group-hover:opacity-100" aria-hidden />
    </button>
  )
}
