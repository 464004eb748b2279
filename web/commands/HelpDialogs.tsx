import { Command } from 'cmdk'
import { Fragment, useEffect, useState } from 'react'
import { Button, Dialog, Key } from '../ui/parts'
import { run, useAvailable } from './commands'
import { keyCap, keyOf, keysOf, reassign, commandsFor, useKeys } from './keys'
import { COMMAND_IDS, COMMANDS, type CommandId } from './table'

/** All commands to be found by name, and all keys to be given away. */

export function CommandList({ onClose }: { onClose: () => void }) {
  const available = useAvailable()
  return (
    <Dialog open title="Find a command" onClose={onClose}>
      <Command label="Commands" className="flex flex-col">
        <Command.Input autoFocus placeholder="Type to search commands …" className="mb-2 h-9 rounded-md border border-rule bg-paper-lit px-3 focus:border-tape focus:outline-none" />
        <Command.List className="max-h-[52vh] overflow-y-auto">
          <Command.Empty className="py-4 text-faint">No commands match.</Command.Empty>
          {COMMAND_IDS.filter(available).map((id) => (
            <Command.Item
              key={id}
              value={`${COMMANDS[id].title} ${COMMANDS[id].group}`}
              onSelect={() => {
                onClose()
                setTimeout(() => run(id))
              }}
              className="flex cursor-pointer items-center justify-between rounded px-2 py-1.5 data-[selected=true]:bg-paper-low"
            >
              <span>{COMMANDS[id].title} <span className="ml-2 text-[12px] text-faint">{COMMANDS[id].group}</span></span>
              {keysOf(id)[0] && <Key>{keyCap(keysOf(id)[0])}</Key>}
            </Command.Item>
          ))}
        </Command.List>
      </Command>
    </Dialog>
  )
}

export function KeyList({ onClose }: { onClose: () => void }) {
  const { reassigned } = useKeys()
  const [asking, setAsking] = useState<CommandId | null>(null)
  const [note, setNote] = useState('')
  useEffect(() => {
    if (!asking) return
    const onKey = (event: KeyboardEvent) => {
      const key = keyOf(event)
      if (!key) return
      event.preventDefault()
      event.stopImmediatePropagation()
      setAsking(null)
      if (key === 'Escape') return
      const others = commandsFor(key).filter((id) => id !== asking)
      reassign(asking, key)
      setNote(others.length ? `${keyCap(key)} also does “${COMMANDS[others[0]].title}”. Give that one another key, or both will want it.` : '')
    }
    window.addEventListener('keydown', onKey, true)
    return () => window.removeEventListener('keydown', onKey, true)
  }, [asking])
  const groups = [...new Set(COMMAND_IDS.map((id) => COMMANDS[id].group))]
  return (
    <Dialog open wide title="Keyboard shortcuts" describe="Click a key to assign another one." onClose={onClose}>
      {note && <p role="status" className="mb-3 text-cut-ink">{note}</p>}
      <div className="columns-2 gap-10">
        {groups.map((group) => (
          <section key={group} className="mb-6 break-inside-avoid">
            <h3 className="mb-1 border-b border-rule pb-1 text-[12px] font-semibold text-faint">{group}</h3>
            <ul>
              {COMMAND_IDS.filter((id) => COMMANDS[id].group === group).map((id) => (
                <li key={id} className="flex items-center gap-2 py-0.5 text-[13px]">
                  <span className="min-w-0 flex-1">{COMMANDS[id].title}</span>
                  {reassigned[id] && <Button look="bare" className="h-6 px-1.5 text-[12px]" onClick={() => reassign(id, null)}>reset</Button>}
                  <button type="button" aria-label={`Another key for: ${COMMANDS[id].title}, now ${keysOf(id).map(keyCap).join(' ')}`} className="flex gap-1 rounded" onClick={() => setAsking(id)}>
                    {asking === id ? <span className="text-cut-ink">press a key …</span> : keysOf(id).map((key, i) => <Fragment key={key}>{i > 0 && ' '}<Key>{keyCap(key)}</Key></Fragment>)}
                  </button>
                </li>
              ))}
            </ul>
          </section>
        ))}
      </div>
    </Dialog>
  )
}
