import { Users } from 'lucide-react'
import { Popover } from 'radix-ui'
import { EditableText } from '../ui/EditableText'
import { setMyName, useMyName, useOthers } from './present'

/** Who else is in what is open, and what one is called oneself. */
export function Others({ document }: { document: string }) {
  const others = useOthers(document)
  const { name } = useMyName()
  return (
    <Popover.Root>
      <Popover.Trigger
        className={`flex h-8 shrink-0 items-center gap-1.5 rounded-md px-2 text-[13px] hover:bg-paper-low
          ${others.length ? 'font-semibold text-tape' : 'text-faint'}`}
        aria-label={others.length ? `Also here: ${others.map((one) => one.name).join(', ')}` : 'Nobody else is here'}
      >
        <Users size={15} aria-hidden />
        {others.length > 0 && <span className="max-w-40 truncate">{others.length === 1 ? others[0].name : `${others.length} others`}</span>}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          collisionPadding={8}
          className="z-40 w-64 rounded-lg border border-rule bg-paper p-4 text-[13px] shadow-xl"
        >
          <p className="mb-1 text-[12px] text-faint">Also here</p>
          {others.length ? (
            <ul className="mb-3">
              {others.map((one) => (
                <li key={one.who} className="border-b border-rule py-1 font-medium">
                  {one.name}
                </li>
              ))}
            </ul>
          ) : (
            <p className="mb-3 text-soft">Nobody else has this open.</p>
          )}
          <p className="text-[12px] text-faint">Others see you as</p>
          <EditableText
            label="Your name, as others see it"
            value={name}
            placeholder="Your name"
            className="font-medium"
            onKeep={(now) => setMyName(now.slice(0, 60))}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
