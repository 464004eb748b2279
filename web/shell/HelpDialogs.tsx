import { Command } from 'cmdk'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { Button, Dialog, Key } from '../ui/parts'
import { run, titleOf, unableTo, useActedOn, useAvailable } from '../commands/commands'
import { KeyTable } from '../commands/KeyTable'
import { keyCap, keysOf } from '../commands/keys'
import { COMMAND_IDS, commandOf, type CommandId } from '../commands/table'

/** All commands to be found by name, and all keys to be given away. */

/**
 * How well a command fits what is typed, 0 to 1: each word of it begins a word of its name, or of what others call it, or
 * is in the midst of one.
 */
function fitness(value: string, typed: string, keywords: string[] = []): number {
  const name = value.toLowerCase()
  const begins = (text: string, word: string) => text.startsWith(word) || text.includes(` ${word}`)
  const scores = typed
    .toLowerCase()
    .split(/\s+/)
    .filter(Boolean)
    .map((word) =>
      name.startsWith(word)
        ? 1
        : begins(name, word)
          ? 0.8
          : keywords.some((one) => one.toLowerCase().startsWith(word))
            ? 0.6
            : name.includes(word)
              ? 0.3
              : 0,
    )
  return scores.length ? Math.min(...scores) : 1
}

export function CommandList({ onClose }: { onClose: () => void }) {
  const available = useAvailable()
  const actedOn = useActedOn()
  const ids = COMMAND_IDS.filter(available)
  // what fits what is selected stands first
  const fits = (id: CommandId) => {
    const { needs } = commandOf(id)
    return needs !== undefined && actedOn[needs] && unableTo(id) === null && !id.startsWith('select.')
  }
  const first = actedOn.selection ? ids.filter((id) => fits(id) && commandOf(id).needs === 'selection') : ids.filter(fits)
  return (
    <Dialog open title="Find a command" onClose={onClose}>
      <Command label="Commands" filter={fitness} className="flex flex-col">
        <Command.Input
          autoFocus
          placeholder="Type to search commands …"
          className="mb-2 h-9 rounded-md border border-rule bg-paper-lit px-3 focus:border-tape focus:outline-none"
        />
        <Command.List className="max-h-[52vh] overflow-y-auto">
          <Command.Empty className="py-4 text-faint">No commands match.</Command.Empty>
          {[...first, ...ids.filter((id) => !first.includes(id))].map((id) => (
            <Found key={id} id={id} onClose={onClose} />
          ))}
        </Command.List>
      </Command>
    </Dialog>
  )
}

function Found({ id, onClose }: { id: CommandId; onClose: () => void }) {
  const { title, group, also } = commandOf(id)
  const unable = unableTo(id)
  return (
    <Command.Item
      value={`${titleOf(id)} ${title} ${group} ${id}`}
      keywords={also?.split(' ')}
      disabled={unable !== null}
      onSelect={() => {
        onClose()
        // the focus is back where it was before it runs
        setTimeout(() => run(id))
      }}
      className={`flex cursor-pointer items-center justify-between gap-3 rounded px-2 py-1.5
        data-[disabled=true]:cursor-default data-[disabled=true]:text-faint data-[selected=true]:bg-paper-low`}
    >
      <span className="min-w-0">
        {titleOf(id)} <span className="ml-2 text-[12px] text-faint">{unable ?? group}</span>
      </span>
      {keysOf(id)[0] && <Key>{keyCap(keysOf(id)[0])}</Key>}
    </Command.Item>
  )
}

export function KeyList({ onClose }: { onClose: () => void }) {
  const navigate = useNavigate()
  const [text, setText] = useState('')
  return (
    <Dialog open wide title="Keyboard shortcuts" describe="Click a key to assign another one." onClose={onClose}>
      <div className="mb-4 flex flex-wrap items-center gap-2">
        <input
          type="search"
          aria-label="Search shortcuts"
          autoFocus
          value={text}
          placeholder="Search by name or key"
          onChange={(event) => setText(event.target.value)}
          className="h-9 min-w-52 flex-1 rounded-md border border-rule bg-paper-lit px-3 focus:border-tape focus:outline-none"
        />
        <Button
          onClick={() => {
            onClose()
            void navigate('/keys')
          }}
        >
          Print …
        </Button>
      </div>
      <KeyTable text={text} />
    </Dialog>
  )
}
