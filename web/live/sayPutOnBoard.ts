import type { NavigateFunction } from 'react-router'
import { toast } from 'sonner'
import { putOnBoard } from './boards'
import { keyName } from './keyNames'

/** Puts a piece on the board that is in use, and says on which key. */
export async function sayPutOnBoard(piece: string, navigate: NavigateFunction): Promise<void> {
  const { board, name, key, already } = await putOnBoard(piece)
  const action = { label: 'To the board', onClick: () => void navigate(`/live/${board}`) }
  if (key === null) toast.error(`All keys of “${name}” are taken.`, { action })
  else if (already) toast(`It is on “${name}” already, on ${keyName(key)}.`, { action })
  else toast.success(`On “${name}”, on ${keyName(key)}.`, { action })
}
