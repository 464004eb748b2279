import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useDeferredValue, useMemo, useRef, useState, type KeyboardEvent } from 'react'
import { matchPath, useLocation, useNavigate } from 'react-router'
import { Pause, Play, Search } from 'lucide-react'
import type { Found, FoundMark } from '../../contract/find'
import { planOf, type Plan } from '../../core/render/plan'
import { clock } from '../../core/time'
import { get } from '../api/client'
import { useFacts } from '../api/queries'
import { player } from '../sound/player'
import { usePlaying } from '../sound/usePlayer'
import { Dialog } from '../ui/parts'
import { MarkHit } from './MarkHit'
import { WaveStrip } from './WaveStrip'

type Scope = 'tape' | 'story' | 'all'

const keyOf = ({ tape, at }: Found): string => `${tape}/${at}`

/** Finds what was said, on this tape, in this story, or anywhere; each place is heard where it stands. */
export function FinderDialog({ onClose }: { onClose: () => void }) {
  const { pathname, search } = useLocation()
  const navigate = useNavigate()
  const tape = matchPath('/tapes/:id', pathname)?.params.id
  const story = matchPath('/stories/:id', pathname)?.params.id ?? new URLSearchParams(search).get('story') ?? undefined
  const scopes = (
    [
      ['tape', 'This tape', tape],
      ['story', 'This story', story],
      ['all', 'Everything', 'all'],
    ] as const
  ).filter(([, , there]) => there)
  const [scope, setScope] = useState<Scope>(scopes[0][0])
  const [text, setText] = useState('')
  const asked = useDeferredValue(text.trim())
  const query = new URLSearchParams({ text: asked, ...(scope === 'tape' ? { tape: tape! } : scope === 'story' ? { story: story! } : {}) })
  const { data: found } = useQuery({
    queryKey: ['find', query.toString()],
    queryFn: () => get<Found[]>(`/find?${query}`),
    enabled: asked.length > 1,
    placeholderData: keepPreviousData,
  })
  const { data: foundMarks } = useQuery({
    queryKey: ['find', 'marks', query.toString()],
    queryFn: () => get<FoundMark[]>(`/find/marks?${query}`),
    enabled: asked.length > 1,
    placeholderData: keepPreviousData,
  })
  const results = asked.length > 1 ? (found ?? []) : []
  const marks = asked.length > 1 ? (foundMarks ?? []) : []
  const list = useRef<HTMLUListElement>(null)

  const close = () => {
    if (player.owner === 'find') player.stop()
    onClose()
  }
  const go = (hit: Found) => {
    close()
    void navigate(`/tapes/${hit.tape}?at=${hit.at}`)
  }
  const goToMark = ({ kind, on, at, block }: FoundMark) => {
    close()
    void navigate(kind === 'tape' ? `/tapes/${on}?at=${at}` : `/stories/${on}?block=${block}`)
  }
  const goToFirst = () => {
    if (marks.length) goToMark(marks[0])
    else if (results.length) go(results[0])
  }
  const move = (event: KeyboardEvent, by: 1 | -1) => {
    const rows = [...(list.current?.querySelectorAll<HTMLElement>('[data-hit]') ?? [])]
    const now = rows.indexOf(document.activeElement as HTMLElement)
    event.preventDefault()
    if (now + by < 0) document.querySelector<HTMLElement>('[data-finder]')?.focus()
    else rows[Math.min(rows.length - 1, now + by)]?.focus()
  }

  return (
    <Dialog wide open title="Search transcripts and marks" onClose={close}>
      <div
        onKeyDown={(event) => {
          if (event.key === 'ArrowDown') move(event, 1)
          else if (event.key === 'ArrowUp') move(event, -1)
        }}
      >
        <div className="flex items-center gap-4">
          <label className="relative min-w-0 flex-1">
            <Search size={16} className="absolute top-2.5 left-3 text-faint" aria-hidden />
            <input
              data-finder
              autoFocus
              type="search"
              aria-label="Words that were said, or of a mark"
              value={text}
              onChange={(event) => setText(event.target.value)}
              onKeyDown={(event) => event.key === 'Enter' && goToFirst()}
              placeholder="words, in the order in which they were said, or those of a mark"
              className="h-9 w-full rounded-md border border-rule bg-paper-lit pr-3 pl-9 text-[15px] focus:border-tape focus:outline-none"
            />
          </label>
          <div className="flex gap-1 text-[13px]" role="group" aria-label="Where">
            {scopes.map(([name, title]) => (
              <button
                key={name}
                type="button"
                aria-pressed={scope === name}
                onClick={() => setScope(name)}
                className={`rounded-md px-2.5 py-1.5 ${scope === name ? 'bg-ink text-paper' : 'text-soft hover:bg-paper-low'}`}
              >
                {title}
              </button>
            ))}
          </div>
        </div>
        <ul ref={list} className="mt-4 min-h-40" data-testid="found">
          {marks.map((mark) => (
            <MarkHit key={mark.id} mark={mark} onGo={() => goToMark(mark)} />
          ))}
          {results.map((hit) => (
            <Hit key={keyOf(hit)} hit={hit} onGo={() => go(hit)} />
          ))}
          {asked.length > 1 && found && foundMarks && !results.length && !marks.length && <li className="py-6 text-faint">No matches.</li>}
          {asked.length <= 1 && (
            <li className="py-6 text-faint">
              Also finds near spellings and similar sounds. ↓ enters the list; Space plays, Enter opens the place.
            </li>
          )}
        </ul>
      </div>
    </Dialog>
  )
}

function Hit({ hit, onGo }: { hit: Found; onGo: () => void }) {
  const facts = useFacts(...useMemo(() => [[hit.tape], { tape: hit.tape, words: [] }] as const, [hit.tape]))
  const plan = useMemo(
    (): Plan | null =>
      facts && hit.to > hit.from ? planOf([{ tape: hit.tape, from: hit.from, to: hit.to, sound: 'tape' }], facts.factsOf) : null,
    [facts, hit.tape, hit.from, hit.to],
  )
  const owner = 'find'
  const sounding = usePlaying(owner)
  const [mine, setMine] = useState(false)
  const playing = sounding && mine
  const play = () => {
    if (!plan) return
    if (playing) return player.stop()
    player.load(owner, plan)
    setMine(true)
    void player.play(0)
  }
  return (
    <li className="border-b border-rule">
      <div
        data-hit
        role="button"
        tabIndex={0}
        aria-label={`${hit.text.filter(Boolean).join(' ')}, ${hit.name}, ${clock(hit.at)}`}
        onClick={onGo}
        onBlur={() => setMine(false)}
        onKeyDown={(event) => {
          if (event.key === ' ') play()
          else if (event.key === 'Enter') onGo()
          else return
          event.preventDefault()
        }}
        className="-mx-2 flex cursor-pointer items-center gap-3 rounded px-2 py-2.5 outline-offset-[-2px] hover:bg-paper-low"
      >
        <button
          type="button"
          tabIndex={-1}
          aria-label={playing ? 'Stop' : 'Play it here'}
          onClick={(event) => {
            event.stopPropagation()
            play()
          }}
          className="flex size-7 shrink-0 items-center justify-center rounded-full border border-grain hover:border-ink"
        >
          {playing ? <Pause size={12} fill="currentColor" /> : <Play size={12} fill="currentColor" className="ml-0.5" />}
        </button>
        {plan && <WaveStrip plan={plan} from={hit.at - hit.from} to={hit.end - hit.from} />}
        <span className="min-w-0 flex-1">
          <span className={`block truncate font-serif text-[16px] ${hit.checked ? 'text-ink' : 'text-soft'}`}>
            {hit.text[0] && `${hit.text[0]} `}
            <strong className="font-semibold text-tape">{hit.text[1]}</strong>
            {hit.text[2] && ` ${hit.text[2]}`}
          </span>
          <span className="block truncate text-[12px] text-faint">
            {[hit.speaker, hit.name, hit.day, hit.exact ? '' : 'close match'].filter(Boolean).join(' · ')}
          </span>
        </span>
        <span className="shrink-0 text-[13px] text-soft">{clock(hit.at)}</span>
      </div>
    </li>
  )
}
