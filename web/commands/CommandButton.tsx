import type { ReactNode } from 'react'
import { Button, Key, Tip, type Look } from '../ui/parts'
import { run, titleOf } from './commands'
import { keyCap, keysOf, useKeys } from './keys'
import type { CommandId } from './table'

/** The first key of a command, as a key cap. */
export function CommandKey({ id }: { id: CommandId }) {
  useKeys((state) => state.reassigned[id])
  const key = keysOf(id)[0]
  return key ? <Key>{keyCap(key)}</Key> : null
}

/** A button that does a command; its name and key come from the table. One that shows no words needs a label. */
export function CommandButton({
  id,
  children,
  look = 'plain',
  disabled,
  pressed,
  label,
}: {
  id: CommandId
  children?: ReactNode
  look?: Look
  disabled?: boolean
  pressed?: boolean
  label?: string
}) {
  const title = titleOf(id)
  useKeys((state) => state.reassigned[id])
  const key = keysOf(id)[0]
  return (
    <Tip
      text={
        <>
          {title}
          {key && <span className="opacity-70">{keyCap(key)}</span>}
        </>
      }
    >
      <Button
        look={look}
        disabled={disabled}
        aria-label={label}
        aria-pressed={pressed}
        onClick={() => run(id)}
        className={pressed ? 'border-tape! text-tape' : ''}
      >
        {children ?? title}
      </Button>
    </Tip>
  )
}
