import { ContextMenu as RadixContextMenu, DropdownMenu } from 'radix-ui'
import { Menu as MenuIcon } from 'lucide-react'
import type { ReactNode } from 'react'
import { Button } from '../ui/parts'
import { isOn, run, titleOf, unableTo, useActedOn, useAvailable } from './commands'
import { COMMAND_IDS, COMMANDS, type CommandId } from './table'
import { CommandKey } from './CommandButton'

/** Menus that are made from the commands' own table: all that can be done on this screen, by group, and what fits what was clicked. */

const CONTENT =
  'z-40 max-h-[var(--radix-dropdown-menu-content-available-height,70vh)] min-w-52 overflow-y-auto rounded-lg ' +
  'border border-rule bg-paper p-1 shadow-xl'
const ITEM =
  'flex min-h-8 cursor-pointer items-center gap-4 rounded px-3 py-1 text-[13px] outline-none ' +
  'data-[disabled]:cursor-default data-[disabled]:text-faint data-[highlighted]:bg-paper-low ' +
  'data-[state=open]:bg-paper-low'

/** Commands that do something everywhere are found in the bar above. */
const EVERYWHERE = new Set(['Go to', 'Recording'])

const Line = ({ id }: { id: CommandId }) => {
  const unable = unableTo(id)
  return (
    <>
      <span className="min-w-0 flex-1">
        {isOn(id) && '✓ '}
        {titleOf(id)}
        {unable && <span className="block text-[11px]">{unable}</span>}
      </span>
      <CommandKey id={id} />
    </>
  )
}

/** All commands of this screen, in their groups; `children` are what else the menu offers. */
export function ViewMenu({ children }: { children?: ReactNode }) {
  const available = useAvailable()
  useActedOn()
  const here = COMMAND_IDS.filter((id) => available(id) && !EVERYWHERE.has(COMMANDS[id].group))
  const groups = [...new Set(here.map((id) => COMMANDS[id].group))]
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild aria-label="More">
        <Button look="bare">
          <MenuIcon size={16} />
        </Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={4} collisionPadding={8} className={CONTENT}>
          {groups.map((group) => (
            <DropdownMenu.Sub key={group}>
              <DropdownMenu.SubTrigger className={ITEM}>
                <span className="flex-1">{group}</span>
                <span className="text-faint" aria-hidden>
                  ›
                </span>
              </DropdownMenu.SubTrigger>
              <DropdownMenu.Portal>
                <DropdownMenu.SubContent collisionPadding={8} className={CONTENT}>
                  {here
                    .filter((id) => COMMANDS[id].group === group)
                    .map((id) => (
                      <DropdownMenu.Item key={id} disabled={unableTo(id) !== null} className={ITEM} onSelect={() => later(id)}>
                        <Line id={id} />
                      </DropdownMenu.Item>
                    ))}
                </DropdownMenu.SubContent>
              </DropdownMenu.Portal>
            </DropdownMenu.Sub>
          ))}
          {children && <DropdownMenu.Separator className="my-1 h-px bg-rule" />}
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}

/** The focus is back where it was before a command runs. */
const later = (id: CommandId) => void setTimeout(() => run(id))

/** What can be done with what was clicked, by a right click or a long press: with the selection, with the join, or here. */
export function ContextMenu({ ids, children }: { ids: readonly CommandId[]; children: ReactNode }) {
  const available = useAvailable()
  const actedOn = useActedOn()
  const able = (id: CommandId) => available(id) && unableTo(id) === null
  const ofSelection = actedOn.selection
    ? COMMAND_IDS.filter((id) => 'needs' in COMMANDS[id] && COMMANDS[id].needs === 'selection' && !id.startsWith('select.') && able(id))
    : []
  const here = ids.filter((id) => able(id) && !ofSelection.includes(id))
  return (
    <RadixContextMenu.Root>
      <RadixContextMenu.Trigger asChild>{children}</RadixContextMenu.Trigger>
      <RadixContextMenu.Portal>
        <RadixContextMenu.Content collisionPadding={8} className={CONTENT.replace('dropdown', 'context')}>
          {ofSelection.map((id) => (
            <RadixContextMenu.Item key={id} className={ITEM} onSelect={() => later(id)}>
              <Line id={id} />
            </RadixContextMenu.Item>
          ))}
          {ofSelection.length > 0 && here.length > 0 && <RadixContextMenu.Separator className="my-1 h-px bg-rule" />}
          {here.map((id) => (
            <RadixContextMenu.Item key={id} className={ITEM} onSelect={() => later(id)}>
              <Line id={id} />
            </RadixContextMenu.Item>
          ))}
        </RadixContextMenu.Content>
      </RadixContextMenu.Portal>
    </RadixContextMenu.Root>
  )
}
