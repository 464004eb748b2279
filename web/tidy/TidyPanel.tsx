import { useEffect, useRef, type MouseEvent } from 'react'
import type { Word } from '../../core/tape/words'
import { firstWordAfter } from '../../core/tape/words'
import { clock, RATE } from '../../core/time'
import { CommandButton, CommandKey } from '../commands/CommandButton'
import { Heading, Side } from '../shell/Shell'
import { Button } from '../ui/parts'
import { FINDER_KINDS } from './kinds'
import type { Place, useTidy } from './useTidy'

/** What was clicked leaves the focus where it was, so that ↵ means the place and not the button. */
const keepFocus = (event: MouseEvent) => event.preventDefault()

/** Words shown on either side of a place. */
const AROUND = 4

/** What finders found on a tape, by kind and place, beside the wave. */
export function TidyPanel({ tidy, words }: { tidy: ReturnType<typeof useTidy>; words: readonly Word[] }) {
  const { kinds, kind, place, setting } = tidy
  const all = kinds.reduce((sum, { open }) => sum + open, 0)
  const decided = kind?.places.filter((one) => one.decided) ?? []
  const applied = decided.filter((one) => one.decided!.decision!.is !== 'dismissed').length
  return (
    <Side label="Tidy">
      <div className="flex items-baseline justify-between">
        <Heading>Tidy</Heading>
        <button type="button" className="text-[12px] text-tape hover:underline" onClick={tidy.close}>
          close <CommandKey id="tidy.open" />
        </button>
      </div>
      <p className="py-2 text-[13px] text-soft" data-testid="tidy-sum">
        {all ? `${all} ${all === 1 ? 'place' : 'places'}, saves ${clock(tidy.savesInAll)}` : 'Nothing is open.'}
      </p>
      <ul className="mb-4" data-testid="tidy-kinds">
        {kinds.map((one) => (
          <li key={one.name}>
            <button
              type="button"
              aria-pressed={one === kind}
              onMouseDown={keepFocus}
              onClick={() => tidy.chooseKind(one.name)}
              className={`flex w-full items-baseline gap-3 border-b border-rule px-2 py-2 text-left hover:bg-paper-low ${
                one === kind ? 'border-l-2 border-l-cut bg-wash' : ''
              }`}
            >
              <span className="flex-1 font-semibold">{FINDER_KINDS[one.name].title}</span>
              <span>{one.open}</span>
              <span className="w-14 text-right text-soft">{one.open ? clock(one.saves) : ''}</span>
            </button>
          </li>
        ))}
      </ul>
      {kind && <p className="text-[13px] text-soft">{FINDER_KINDS[kind.name].reason}</p>}
      {setting && kind && (
        <label className="mt-3 block text-[13px]">
          {FINDER_KINDS[kind.name].title} longer than <strong>{setting.value.toFixed(2)} s</strong>
          <input
            type="range"
            min={setting.least}
            max={setting.most}
            step={setting.step}
            value={setting.value}
            className="mt-1 block w-full accent-[var(--color-ink)]"
            onChange={(event) => tidy.turn(Number(event.target.value))}
          />
          <span className="flex justify-between text-[12px] text-faint">
            <span>{setting.least} s</span>
            <span>{setting.most} s</span>
          </span>
        </label>
      )}
      {kind && (
        <div className="my-4 flex items-center gap-3">
          <CommandButton id="tidy.all" look="strong" disabled={!kind.open}>
            Apply all {kind.open || ''}
          </CommandButton>
          {decided.length > 0 && (
            <span className="text-[12px] text-faint" data-testid="tidy-decided">
              {applied} applied, {decided.length - applied} dismissed
            </span>
          )}
        </div>
      )}
      {place && <AtPlace tidy={tidy} place={place} words={words} />}
      {kind && <PlaceList tidy={tidy} places={kind.places} words={words} />}
    </Side>
  )
}

/** The place that is looked at, with what can be done about it. */
function AtPlace({ tidy, place, words }: { tidy: ReturnType<typeof useTidy>; place: Place; words: readonly Word[] }) {
  return (
    <div className="mb-4 rounded-lg bg-paper-low p-3" data-testid="tidy-place" onMouseDown={keepFocus}>
      <p className="font-serif text-[15px] leading-snug">
        <InContext place={place} words={words} />
      </p>
      <p className="mt-1 text-[12px] text-faint">
        {clock(place.from)} · {place.care ?? (place.sure >= 0.9 ? 'sure' : 'likely')}
      </p>
      <div className="mt-3 flex flex-wrap gap-1.5">
        <Button onClick={() => tidy.play('result')}>
          Result <CommandKey id="play.across" />
        </Button>
        <Button onClick={() => tidy.play('original')}>
          Original <CommandKey id="play.before" />
        </Button>
        {place.decided ? (
          <Button onClick={tidy.reopen}>
            Bring back <CommandKey id="edit.bringBack" />
          </Button>
        ) : (
          <>
            <Button look="strong" onClick={tidy.apply}>
              Apply <CommandKey id="edit.takeOut" />
            </Button>
            <Button onClick={tidy.dismiss}>
              Dismiss <CommandKey id="edit.bringBack" />
            </Button>
          </>
        )}
      </div>
    </div>
  )
}

/** The words around a place, and in it what would go. */
function InContext({ place, words, before = AROUND }: { place: Place; words: readonly Word[]; before?: number }) {
  const first = firstWordAfter(words, place.from)
  const last = firstWordAfter(words, place.to - 1)
  const text = (from: number, to: number) =>
    words
      .slice(Math.max(0, from), to)
      .map((word) => word.text)
      .join(' ')
  const within = words.slice(first, last).filter((word) => word.from >= place.from && word.to <= place.to)
  const inside = words[last] && words[last].from >= place.from && words[last].to <= place.to ? [...within, words[last]] : within
  const end = first + inside.length
  const goes = 'goes' in place.proposes ? place.proposes.goes : place
  const seconds = (length: number) => (length / RATE).toFixed(1)
  return (
    <>
      … {text(first - before, first)}{' '}
      <span className="font-semibold text-cut-ink">
        {inside.length
          ? inside.map((word) => word.text).join(' ')
          : `${seconds(place.to - place.from)} → ${seconds(place.to - place.from - (goes.to - goes.from))}`}
      </span>{' '}
      {text(end, end + AROUND)} …
    </>
  )
}

function PlaceList({ tidy, places, words }: { tidy: ReturnType<typeof useTidy>; places: readonly Place[]; words: readonly Word[] }) {
  const list = useRef<HTMLUListElement>(null)
  const at = tidy.place?.from
  useEffect(() => {
    list.current?.querySelector('[aria-current=true]')?.scrollIntoView({ block: 'nearest' })
  }, [at])
  if (!places.length) return <p className="text-faint">None on this tape.</p>
  return (
    <ul ref={list} data-testid="tidy-places">
      {places.map((place) => (
        <li key={place.from}>
          <button
            type="button"
            aria-current={place.from === at}
            onMouseDown={keepFocus}
            onClick={() => tidy.choose(place)}
            className={`flex w-full items-baseline gap-3 border-b border-rule py-1.5 text-left text-[13px] hover:bg-paper-low ${
              place.from === at ? 'bg-wash' : ''
            } ${place.decided ? 'text-faint' : ''}`}
          >
            <span className="w-12 shrink-0 text-faint">{clock(place.from)}</span>
            <span className={`min-w-0 flex-1 truncate font-serif ${isApplied(place) ? 'line-through' : ''}`}>
              <InContext place={place} words={words} before={1} />
            </span>
            <span className="shrink-0 text-[12px]">{stateOf(place)}</span>
          </button>
        </li>
      ))}
    </ul>
  )
}

const isApplied = ({ decided }: Place): boolean => Boolean(decided && decided.decision!.is !== 'dismissed')
const stateOf = (place: Place): string => (isApplied(place) ? 'applied' : place.decided ? 'dismissed' : (place.care ?? ''))
