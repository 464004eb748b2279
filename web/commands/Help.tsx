import { lazy, Suspense, useState } from 'react'
import { useNavigate } from 'react-router'
import { switchTheme } from '../ui/theme'
import { useCommands } from './commands'

const dialogs = () => import('./HelpDialogs')
const CommandList = lazy(async () => ({ default: (await dialogs()).CommandList }))
const KeyList = lazy(async () => ({ default: (await dialogs()).KeyList }))
requestIdleCallback(() => void dialogs()) // so that they are there when they are asked for

/** The command list and the key list, and the commands that work everywhere. */
export function Help() {
  const navigate = useNavigate()
  const [shown, setShown] = useState<'commands' | 'keys' | null>(null)
  useCommands({
    'help.commands': () => setShown((now) => (now === 'commands' ? null : 'commands')),
    'help.keys': () => setShown('keys'),
    'view.night': switchTheme,
    'go.desk': () => void navigate('/'),
    'go.tapes': () => void navigate('/tapes'),
  })
  const close = () => setShown(null)
  return (
    <Suspense fallback={null}>
      {shown === 'commands' && <CommandList onClose={close} />}
      {shown === 'keys' && <KeyList onClose={close} />}
    </Suspense>
  )
}
