import { Fragment, useEffect, useState } from 'react'
import { Button, Key } from '../ui/parts'
import { titleOf, useAvailable } from './commands'
import { commandsFor, keyCap, keyOf, keysOf, reassign, useKeys } from './keys'
import { COMMAND_IDS, COMMANDS, commandOf, type CommandId } from './table'

/** All commands with their keys, those of this screen first; a key can be clicked, and another one pressed for it. */
export function KeyTable({ text = '', fixed = false }: { text?: string; /** To read alone. */ fixed?: boolean }) {
  const available = useAvailable()
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
      setNote(
        others.length
          ? `${keyCap(key)} also does “${COMMANDS[others[0]].title}”. ` + 'Give that one another key, or both will want it.'
          : '',
      )
    }
    window.addEventListener('keydown', onKey, true)
    return () => window.removeEventListener('keydown', onKey, true)
  }, [asking])
  const wanted = text.trim().toLowerCase()
  const found = COMMAND_IDS.filter(
    (id) =>
      !wanted ||
      [
        titleOf(id),
        commandOf(id).title,
        commandOf(id).group,
        commandOf(id).also ?? '',
        ...keysOf(id).flatMap((key) => [key, keyCap(key)]),
      ].some((one) => one.toLowerCase().includes(wanted)),
  )
  const [here, elsewhere] = [found.filter(available), found.filter((id) => !available(id))]
  const row = (id: CommandId) => (
    <li key={id} className="flex items-center gap-2 py-0.5 text-[13px] print:py-0 print:text-[8px] print:leading-[1.28]">
      <span className="min-w-0 flex-1">{titleOf(id)}</span>
      {!fixed && reassigned[id] && (
        <Button look="bare" className="h-6 px-1.5 text-[12px]" onClick={() => reassign(id, null)}>
          reset
        </Button>
      )}
      {fixed ? (
        <span className="whitespace-nowrap">{keysOf(id).map(keyCap).join(', ')}</span>
      ) : (
        <button
          type="button"
          aria-label={`Another key for: ${COMMANDS[id].title}, now ${keysOf(id).map(keyCap).join(' ')}`}
          className="flex gap-1 rounded"
          onClick={() => setAsking(id)}
        >
          {asking === id ? (
            <span className="text-cut-ink">press a key …</span>
          ) : (
            keysOf(id).map((key, i) => (
              <Fragment key={key}>
                {i > 0 && ' '}
                <Key>{keyCap(key)}</Key>
              </Fragment>
            ))
          )}
        </button>
      )}
    </li>
  )
  const groupsOf = (ids: readonly CommandId[]) =>
    [...new Set(ids.map((id) => COMMANDS[id].group))].map((group) => (
      <section key={group} className="mb-5 break-inside-avoid print:mb-1.5">
        <h4 className="mb-1 border-b border-rule pb-1 text-[12px] font-semibold text-faint print:text-[9px]">{group}</h4>
        <ul>{ids.filter((id) => COMMANDS[id].group === group).map(row)}</ul>
      </section>
    ))
  const part = (name: string, ids: readonly CommandId[]) =>
    ids.length > 0 && (
      <section aria-label={name}>
        <h3 className="mb-2 font-serif text-[17px] font-semibold print:text-[12px]">{name}</h3>
        <div className="columns-2 gap-10 max-[700px]:columns-1 print:columns-3 print:gap-5">{groupsOf(ids)}</div>
      </section>
    )
  return (
    <>
      {note && (
        <p role="status" className="mb-3 text-cut-ink">
          {note}
        </p>
      )}
      {!found.length && <p className="py-4 text-faint">No shortcuts match.</p>}
      {fixed ? (
        part('All of them', found)
      ) : (
        <>
          {part('On this screen', here)}
          {part('On other screens', elsewhere)}
        </>
      )}
    </>
  )
}
