import { useState } from 'react'
import { useQuery } from '@tanstack/react-query'
import type { LineUpInfo, Mutes, Part } from '../../contract/lineups'
import type { TapeInfo } from '../../contract/tapes'
import { post } from '../api/client'
import { useOnce } from '../api/useOnce'
import { useTapes } from '../api/queries'
import { Button, Field } from '../ui/parts'
import { MuteList } from './MuteList'
import { clearer, inWords, proposed } from './parts'

/** Who speaks on a tape: one, or whoever its sides are named after. */
const speakerOf = (tape: TapeInfo | undefined): string => {
  const named = tape?.sides.map((side) => side.name).filter(Boolean) ?? []
  return named.length > 1 ? named.join(', ') : (tape?.speaker ?? '')
}

/** What was found of each recording, and what becomes of it: the reporter has the last word. */
export function Sources({ info, name, onBack }: { info: LineUpInfo; name: string; onBack: () => void }) {
  const tapes = useTapes().data ?? []
  const tapeOf = (id: string) => tapes.find((tape) => tape.id === id)
  const speakers = new Map(info.fits.map(({ tape }) => [tape, speakerOf(tapeOf(tape))]))
  const [parts, setParts] = useState<Part[]>(() => proposed(info.fits, speakers))
  const [title, setTitle] = useState(`${name}, all sides`)
  const [turns, setTurns] = useState(true)
  const set = (tape: string, fields: Partial<Part>) =>
    setParts((now) => now.map((part) => (part.tape === tape ? { ...part, ...fields } : part)))
  const used = parts.filter((part) => part.used)
  const asked = parts.map(({ keep: _, speaker: __, ...part }) => ({ ...part, speaker: '' }))
  const mutes = useQuery({
    queryKey: ['mutes', info.id, turns, asked],
    queryFn: () => post<Mutes[]>(`/lineups/${info.id}/mutes`, { turns, parts: asked }),
    placeholderData: (before) => before,
  }).data
  const make = useOnce(() => post(`/lineups/${info.id}/join`, { name: title.trim(), turns, parts }))
  return (
    <div className="flex flex-col gap-4">
      <ul aria-label="What was found" className="border-t border-rule">
        {info.fits.map((fit, i) => {
          const part = parts[i]
          const better = clearer(fit, info.fits, speakers)
          return (
            <li key={fit.tape} className="grid grid-cols-[24px_1fr_190px_auto] items-start gap-x-3 border-b border-rule py-3">
              <input
                type="checkbox"
                aria-label={`Use ${tapeOf(fit.tape)?.name}`}
                className="mt-1 accent-[var(--tape)]"
                checked={part.used}
                onChange={({ target }) =>
                  set(fit.tape, fit.belongs ? { used: target.checked } : { used: target.checked, byHand: target.checked })
                }
              />
              <div className="min-w-0">
                <p className="truncate font-semibold">{tapeOf(fit.tape)?.name}</p>
                <p className={`text-[13px] ${fit.belongs ? 'text-soft' : 'text-cut-ink'}`}>{inWords(fit, i === 0)}</p>
                {!fit.belongs && (
                  <p className="text-[13px] text-soft">
                    {part.used
                      ? 'Put beside the others as it is, from the same start. Its slip can be set under Sides.'
                      : 'Left out, unless you tick it.'}
                  </p>
                )}
                {fit.mixed && <p className="text-[13px] text-soft">It holds several voices, as a mixed recording of a call does.</p>}
                {better && (
                  <p className="text-[13px] text-soft">
                    “{tapeOf(better.tape)?.name}” caught the same speaker more clearly, by {Math.round(better.clarity - fit.clarity)} dB.
                  </p>
                )}
              </div>
              {part.used || fit.belongs ? (
                <input
                  aria-label={`Who speaks on ${tapeOf(fit.tape)?.name}`}
                  className={`h-8 rounded-md border border-rule bg-paper-lit px-2 text-[13px] focus:border-tape
                    focus:outline-none disabled:opacity-60`}
                  placeholder={part.mixed ? 'the call' : 'whose voice'}
                  value={part.speaker}
                  maxLength={200}
                  onChange={({ target }) => set(fit.tape, { speaker: target.value })}
                />
              ) : (
                <span />
              )}
              {part.used || fit.belongs ? (
                <label className="flex h-8 cursor-pointer items-center gap-1.5 text-[13px]">
                  <input
                    type="checkbox"
                    className="accent-[var(--tape)]"
                    checked={part.mixed}
                    onChange={({ target }) => set(fit.tape, { mixed: target.checked })}
                  />
                  mixed recording of a call
                </label>
              ) : (
                <span />
              )}
              {part.used && (
                <MuteList
                  stretches={mutes?.find((one) => one.tape === fit.tape)?.stretches ?? []}
                  keep={part.keep ?? []}
                  onKeep={(keep) => set(fit.tape, { keep })}
                />
              )}
            </li>
          )
        })}
      </ul>
      <label className="flex cursor-pointer items-start gap-2 text-[14px]">
        <input type="checkbox" className="mt-1 accent-[var(--tape)]" checked={turns} onChange={({ target }) => setTurns(target.checked)} />
        <span>
          Mute the bleed
          <span className="block text-[13px] text-faint">
            A side is muted while nobody speaks on it, and a mixed recording of a call while somebody speaks who has a recording of their
            own. What is muted is listed above, and can be unmuted here or later under Sides.
          </span>
        </span>
      </label>
      <Field label="What the new tape is called" value={title} maxLength={200} onChange={({ target }) => setTitle(target.value)} />
      <div className="flex justify-end gap-2">
        <Button onClick={onBack}>Choose others</Button>
        <Button look="strong" disabled={make.busy || used.length < 1 || !title.trim()} onClick={make.run}>
          Make the tape
        </Button>
      </div>
    </div>
  )
}
