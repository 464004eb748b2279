import { useCallback, useState } from 'react'
import { Link } from 'react-router'
import { FINDER_NAMES, type FinderName } from '../../core/tidy/finder'
import { clock } from '../../core/time'
import { useOnce } from '../api/useOnce'
import { counted } from '../ui/counted'
import { Button, Dialog } from '../ui/parts'
import type { Applied } from './applyKinds'
import { FINDER_KINDS } from './kinds'
import { TidyPiece, TidyTape, type Found } from './TidyLine'

const KINDS = {
  tape: { Line: TidyTape, path: '/tapes', at: 'on' },
  piece: { Line: TidyPiece, path: '/pieces', at: 'in' },
} as const

interface Props {
  kind: keyof typeof KINDS
  all: readonly { id: string; name: string }[]
  onClose: () => void
}

const USUAL: readonly FinderName[] = ['pauses', 'fillers', 'stumbles']

/** Tidies several tapes or pieces at once: what was found in all of them, kind by kind, applied as one and taken back as one. */
export function TidySeveral({ kind, all, onClose }: Props) {
  const { Line, path, at } = KINDS[kind]
  const [found, setFound] = useState<ReadonlyMap<string, Found>>(new Map())
  const [chosen, setChosen] = useState<ReadonlySet<FinderName>>(new Set(USUAL))
  const [results, setResults] = useState<ReadonlyMap<string, Applied>>(new Map())
  const tell = useCallback((id: string, what: Found) => setFound((now) => new Map([...now, [id, what]])), [])
  const names = FINDER_NAMES.filter((name) => chosen.has(name))
  const sum = (name: FinderName, of: 'open' | 'saves') =>
    [...found.values()].reduce((total, { kinds }) => total + (kinds.get(name)?.[of] ?? 0), 0)
  const some = FINDER_NAMES.filter((name) => sum(name, 'open') > 0)
  const open = names.reduce((total, name) => total + sum(name, 'open'), 0)
  const toggle = (name: FinderName) => {
    const next = new Set(chosen)
    if (!next.delete(name)) next.add(name)
    setChosen(next)
  }

  const tidied = [...results.values()].filter((one) => one.done > 0)
  const done = tidied.reduce((total, one) => total + one.done, 0)
  const bringBack = () => {
    for (const one of results.values()) one.undo()
    setResults(new Map())
  }
  const applying = useOnce(async () => {
    const made = new Map<string, Applied>()
    for (const { id } of all) {
      const one = await found.get(id)?.apply(names)
      if (one) setResults(new Map(made.set(id, one)))
    }
  })

  return (
    <Dialog title={`Tidy ${counted(all.length, kind)}`} open onClose={onClose}>
      <p className="pb-2 text-[13px] text-soft">
        By each speaker’s own pauses and the usual figures. What may be the story, and what would be heard, is left open {at} its {kind}.
      </p>
      <ul aria-label="What is found" className="pb-3">
        {some.map((name) => (
          <li key={name}>
            <label className="flex items-baseline gap-3 border-b border-rule py-1.5 text-[14px]">
              <input type="checkbox" className="accent-[var(--color-ink)]" checked={chosen.has(name)} onChange={() => toggle(name)} />
              <span className="flex-1">{FINDER_KINDS[name].title}</span>
              <span>{sum(name, 'open')}</span>
              <span className="w-14 text-right text-soft">{sum(name, 'saves') ? clock(sum(name, 'saves')) : ''}</span>
            </label>
          </li>
        ))}
      </ul>
      <ul aria-label={`The ${kind}s`} className="-mx-1.5 max-h-[34vh] overflow-y-auto px-1.5 text-[13px]">
        {all.map(({ id, name }) => (
          <li key={id} className="border-b border-rule py-1.5">
            <p className="flex items-baseline gap-3">
              <span className="min-w-0 flex-1 truncate font-semibold">{name}</span>
              <Link to={`${path}/${id}`} className="text-tape hover:underline">
                open
              </Link>
            </p>
            <p className="text-soft" data-testid="tidy-line">
              <Line id={id} names={names} onFound={tell} result={results.get(id)} />
            </p>
          </li>
        ))}
      </ul>
      <div className="flex items-center gap-2 pt-4 text-[13px]">
        {results.size > 0 && !applying.busy ? (
          <>
            <span role="status" className="flex-1 font-semibold">
              {done ? `${counted(done, 'place')} applied ${at} ${counted(tidied.length, kind)}.` : 'Nothing was applied.'}
            </span>
            <Button onClick={bringBack}>Bring all back</Button>
            <Button look="strong" onClick={onClose}>
              Done
            </Button>
          </>
        ) : (
          <>
            <span className="flex-1" />
            <Button look="strong" disabled={!open || applying.busy || found.size < all.length} onClick={() => applying.run()}>
              {applying.busy ? 'Applying …' : `Apply all ${open}`}
            </Button>
          </>
        )}
      </div>
    </Dialog>
  )
}
