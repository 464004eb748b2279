import { lazy, Suspense, useState } from 'react'
import { useNavigate } from 'react-router'
import { switchTheme } from '../ui/theme'
import { useCommands } from '../commands/commands'

const dialogs = () => import('./HelpDialogs')
const CommandList = lazy(async () => ({ default: (await dialogs()).CommandList }))
const FinderDialog = lazy(async () => ({ default: (await import('../find/FinderDialog')).FinderDialog }))
const FavouritesDialog = lazy(async () => ({ default: (await import('./FavouritesDialog')).FavouritesDialog }))
const KeyList = lazy(async () => ({ default: (await dialogs()).KeyList }))
requestIdleCallback(() => void dialogs()) // so that they are there when they are asked for

/** The command list, the key list and the finder, and the commands that work everywhere. */
export function Help() {
  const navigate = useNavigate()
  const [shown, setShown] = useState<'commands' | 'keys' | 'favourites' | 'find' | null>(null)
  useCommands({
    'help.commands': () => setShown((now) => (now === 'commands' ? null : 'commands')),
    'help.keys': () => setShown('keys'),
    'help.favourites': () => setShown('favourites'),
    'find.words': () => setShown('find'),
    'view.night': switchTheme,
    'go.desk': () => void navigate('/'),
    'go.tapes': () => void navigate('/tapes'),
    'go.record': () => void navigate('/record'),
    'go.live': () => void navigate('/live'),
    'go.sendings': () => void navigate('/sendings'),
  })
  const close = () => setShown(null)
  return (
    <Suspense fallback={null}>
      {shown === 'commands' && <CommandList onClose={close} />}
      {shown === 'favourites' && <FavouritesDialog onClose={close} />}
      {shown === 'keys' && <KeyList onClose={close} />}
      {shown === 'find' && <FinderDialog onClose={close} />}
    </Suspense>
  )
}
