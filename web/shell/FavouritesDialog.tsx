import { useState } from 'react'
import { Star } from 'lucide-react'
import { Button, Dialog, Key } from '../ui/parts'
import { titleOf } from '../commands/commands'
import { FAVOURITE_SPEEDS, toggleCommand, toggleSpeed, useFavourites } from '../commands/favourites'
import { keyCap, keysOf } from '../commands/keys'
import { COMMAND_IDS, commandOf, type CommandId } from '../commands/table'

/** Chooses which commands and speeds stand in the strip of favourites. */
export function FavouritesDialog({ onClose }: { onClose: () => void }) {
  const { commands, speeds } = useFavourites()
  const [text, setText] = useState('')
  const wanted = text.trim().toLowerCase()
  const others = COMMAND_IDS.filter(
    (id) =>
      !commands.includes(id) &&
      (!wanted ||
        [titleOf(id), commandOf(id).title, commandOf(id).group, commandOf(id).also ?? ''].some((one) =>
          one.toLowerCase().includes(wanted),
        )),
  )
  return (
    <Dialog
      open
      title="Favourites"
      describe="What has a star stands in a strip above the foot of each screen that has it."
      onClose={onClose}
    >
      <h3 className="mb-1 text-[12px] font-semibold text-faint">Speeds</h3>
      <div className="mb-5 flex flex-wrap gap-1">
        {FAVOURITE_SPEEDS.map((speed) => (
          <Button
            key={speed}
            look={speeds.includes(speed) ? 'strong' : 'plain'}
            aria-pressed={speeds.includes(speed)}
            className="tabular-nums"
            onClick={() => toggleSpeed(speed)}
          >
            {speed}×
          </Button>
        ))}
      </div>
      <h3 className="mb-1 text-[12px] font-semibold text-faint">Commands</h3>
      <input
        type="search"
        aria-label="Search commands"
        value={text}
        placeholder="Search commands"
        onChange={(event) => setText(event.target.value)}
        className="mb-2 h-9 w-full rounded-md border border-rule bg-paper-lit px-3 focus:border-tape focus:outline-none"
      />
      <ul>
        {commands.map((id) => (
          <Row key={id} id={id} starred />
        ))}
        {others.map((id) => (
          <Row key={id} id={id} />
        ))}
      </ul>
    </Dialog>
  )
}

function Row({ id, starred = false }: { id: CommandId; starred?: boolean }) {
  const [key] = keysOf(id)
  return (
    <li>
      <button
        type="button"
        aria-pressed={starred}
        className="flex w-full items-center gap-3 border-b border-rule py-1.5 text-left text-[13px] hover:bg-paper-low"
        onClick={() => toggleCommand(id)}
      >
        <Star size={14} className={starred ? 'text-tape' : 'text-grain'} fill={starred ? 'currentColor' : 'none'} />
        <span className="min-w-0 flex-1">
          {titleOf(id)} <span className="ml-2 text-[12px] text-faint">{commandOf(id).group}</span>
        </span>
        {key && <Key>{keyCap(key)}</Key>}
      </button>
    </li>
  )
}
