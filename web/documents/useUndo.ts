import { toast } from 'sonner'
import { useCommands } from '../commands/commands'
import type { LiveDocument } from './liveDocument'

/** What can be undone of a document, of whatever kind. */
export type Undoable = Pick<LiveDocument, 'nextAt' | 'takeBack'>

/** Undo and redo for the documents that a view shows: what was done last, in whichever of them it was. */
export function useFollowedUndo(...lives: Undoable[]): void {
  const take = (which: 'undo' | 'redo') => {
    const [latest] = lives.map((live) => ({ live, at: live.nextAt(which) })).sort((a, b) => (b.at ?? '').localeCompare(a.at ?? ''))
    const done = latest.live.takeBack(which)
    const word = which === 'undo' ? 'Undone' : 'Redone'
    if (done === null) toast(which === 'undo' ? 'Nothing to undo.' : 'Nothing to redo.', { duration: 1500 })
    else if (done.refused)
      toast.warning(
        `Can’t ${which} “${done.label}”: somebody has changed that place since. ` +
          `${which === 'undo' ? 'Undo' : 'Redo'} again for what was done before it.`,
        { duration: 6000 },
      )
    else toast(`${word}: ${done.label}`, { duration: 1500 })
  }
  const none = (which: 'undo' | 'redo') => (lives.some((live) => live.nextAt(which)) ? null : `Nothing to ${which}.`)
  useCommands({
    'edit.undo': { run: () => take('undo'), unable: none('undo') },
    'edit.redo': { run: () => take('redo'), unable: none('redo') },
  })
}
