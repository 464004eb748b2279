import { Fragment, memo, useDeferredValue, useEffect, useRef, type MouseEvent } from 'react'
import type { Listening } from '../../contract/listenings'
import type { Word } from '../../core/tape/words'
import { firstWordAfter } from '../../core/tape/words'
import { clock } from '../../core/time'
import { CommandButton, CommandKey } from '../commands/CommandButton'
import { audible, Judgement } from '../joins/Judgement'
import { Heading, Side } from '../shell/Shell'
import { LongList } from '../ui/LongList'
import { Button, Choice } from '../ui/parts'
import { BySpeaker } from './BySpeaker'
import { Instead } from './Instead'
import { Margins } from './Margins'
import { KindRules, NeverAgain } from './KindRules'
import { Takes } from './Takes'
import { FINDER_KINDS } from './kinds'
import { becomes } from './onSheet'
import type { Place } from './useKinds'
import { found, type Tidy } from './useTidy'

/** What was clicked leaves the focus where it was, so that ↵ means the place and not the button. */
const keepFocus = (event: MouseEvent) => event.preventDefault()

/** Words shown on either side of a place. */
const AROUND = 4

interface TidyPanelProps {
  tidy: Tidy
  wordsOf: (tape: string) => readonly Word[]
  listening: { now: Listening | null; cancelled: boolean; ask: () => void; cancel: () => void }
  /** Why nothing can be found, where that is so. */
  lacks?: string | null
}

/** What finders found, by kind and place, beside the wave. */
export function TidyPanel({ tidy, wordsOf, listening, lacks }: TidyPanelProps) {
  const { kinds, kind, place } = tidy
  /** What is long follows a moment later, so that the wave and the figures keep up with the hand. */
  const later = useDeferredValue(tidy)
  const all = kinds.reduce((sum, { open }) => sum + open, 0)
  const { some, none } = found(kinds)
  return (
    <Side label="Tidy">
      <div className="flex items-baseline justify-between">
        <Heading>Tidy</Heading>
        <button type="button" className="text-[12px] text-tape hover:underline" onClick={tidy.close}>
          close <CommandKey id="tidy.open" />
        </button>
      </div>
      <p className="py-2 text-[13px] text-soft" data-testid="tidy-sum">
        {all ? `${all} ${all === 1 ? 'place' : 'places'}, saves ${clock(tidy.savesInAll)}` : (lacks ?? 'Nothing is open.')}
      </p>
      <Progress {...listening} />
      <ul className="mb-3" data-testid="tidy-kinds">
        {some.map((one) => (
          <li key={one.name}>
            <button
              type="button"
              aria-pressed={one === kind}
              onMouseDown={keepFocus}
              onClick={() => tidy.chooseKind(one.name)}
              className={`flex w-full items-baseline gap-3 border-b border-rule px-2 py-1.5 text-left hover:bg-paper-low ${
                one === kind ? 'border-l-2 border-l-cut bg-wash' : ''
              }`}
            >
              <span className="flex-1 font-semibold">{FINDER_KINDS[one.name].title}</span>
              <span>{one.open}</span>
              <span className="w-12 text-right text-soft">{one.saves ? clock(one.saves) : ''}</span>
            </button>
          </li>
        ))}
      </ul>
      {(kind.places.length > 0 || tidy.setting) && <OfKind tidy={tidy} />}
      {place && <AtPlace tidy={tidy} place={place} words={wordsOf(place.tape)} />}
      <PlaceList tidy={later} wordsOf={wordsOf} />
      <KindRules tidy={tidy} />
      <BySpeaker kinds={later.kinds} wordsOf={wordsOf} />
      {listening.now?.state === 'done' && none.length > 0 && (
        <p className="mt-4 text-[12px] text-faint" data-testid="tidy-none">
          None:{' '}
          {none.map((name, i) => (
            <Fragment key={name}>
              {i > 0 && ', '}
              <button
                type="button"
                aria-pressed={name === kind.name}
                className={`hover:underline ${name === kind.name ? 'font-semibold text-ink' : ''}`}
                onMouseDown={keepFocus}
                onClick={() => tidy.chooseKind(name)}
              >
                {FINDER_KINDS[name].title.toLowerCase()}
              </button>
            </Fragment>
          ))}
        </p>
      )}
    </Side>
  )
}

function Progress({ now, cancelled, ask, cancel }: TidyPanelProps['listening']) {
  if (!now && cancelled)
    return (
      <p className="pb-3 text-[13px] text-soft">
        The sound was not measured: breaths, clicks and levels are missing.{' '}
        <button type="button" className="text-tape hover:underline" onClick={ask}>
          Measure it
        </button>
      </p>
    )
  if (now?.state === 'failed')
    return (
      <p className="pb-3 text-[13px] text-cut-ink">
        {now.error}{' '}
        <button type="button" className="text-tape hover:underline" onClick={ask}>
          Try again
        </button>
      </p>
    )
  if (now?.state !== 'waiting' && now?.state !== 'working') return null
  const share = Math.round(now.progress * 100)
  return (
    <div className="pb-3 text-[13px]" data-testid="tidy-progress">
      <p className="flex justify-between">
        <span>{now.state === 'waiting' ? 'Queued to measure the sound' : `Measuring the sound: ${share} %`}</span>
        <button type="button" className="text-soft hover:text-ink hover:underline" onClick={cancel}>
          Cancel
        </button>
      </p>
      <div
        className="mt-1 h-1 rounded bg-rule"
        role="progressbar"
        aria-label="Measuring the sound"
        aria-valuenow={share}
        aria-valuemin={0}
        aria-valuemax={100}
      >
        <div className="h-1 rounded bg-tape transition-[width]" style={{ width: `${share}%` }} />
      </div>
    </div>
  )
}

/** What the kind is about, its setting, and what is done with all of it. */
function OfKind({ tidy }: { tidy: Tidy }) {
  const { kind, setting } = tidy
  const { reason, turns } = FINDER_KINDS[kind.name]
  const decided = kind.places.filter((one) => one.decided)
  return (
    <>
      <p className="text-[13px] text-soft">{reason}</p>
      {setting && (
        <label className="mt-2 block text-[13px]">
          {turns} <strong>{figure(setting.value, setting.unit)}</strong>
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
            <span>{figure(setting.least, setting.unit)}</span>
            <span>{figure(setting.most, setting.unit)}</span>
          </span>
        </label>
      )}
      <Margins tidy={tidy} />
      <HoldOrClose tidy={tidy} />
      <div className="my-3 flex flex-wrap items-center gap-x-3 gap-y-1">
        <CommandButton id="tidy.all" look="strong" disabled={!kind.open}>
          Apply all {kind.open || ''}
        </CommandButton>
        {kind.open > 0 && (
          <button type="button" className="text-[12px] text-soft hover:underline" onMouseDown={keepFocus} onClick={tidy.dismissAll}>
            Dismiss all
          </button>
        )}
      </div>
      {decided.length > 0 && (
        <p className="mb-3 flex flex-wrap gap-x-3 text-[12px] text-faint">
          <span data-testid="tidy-decided">
            {tidy.applied.length} applied, {decided.length - tidy.applied.length} dismissed
          </span>
          {tidy.applied.length > 0 && tidy.playApplied && (
            <button type="button" className="text-tape hover:underline" onMouseDown={keepFocus} onClick={tidy.playApplied}>
              Play what was applied
            </button>
          )}
          <button type="button" className="text-tape hover:underline" onMouseDown={keepFocus} onClick={tidy.reopenAll}>
            Bring all back
          </button>
        </p>
      )}
    </>
  )
}

const WAYS = [
  ['close', 'Close the gap'],
  ['hold', 'Hold time'],
] as const

/** Whether what goes closes up or has its time held, in a piece; what was applied the other way can follow. */
function HoldOrClose({ tidy }: { tidy: Tidy }) {
  const { holds, kind, holding } = tidy
  if (!holds || !kind.places.some(({ proposes }) => 'goes' in proposes)) return null
  return (
    <div className="mt-3 text-[12px]">
      <Choice
        label="What happens to the time"
        value={holding.on ? 'hold' : 'close'}
        options={WAYS}
        onChange={(way) => holding.set(way === 'hold')}
      />
      {holding.others > 0 && (
        <button type="button" className="mt-1.5 text-tape hover:underline" onMouseDown={keepFocus} onClick={holding.switchOthers}>
          {holding.on ? 'Hold the time of' : 'Close the gaps of'} the {holding.others} applied, too
        </button>
      )}
    </div>
  )
}

const figure = (value: number, unit: 's' | 'dB'): string =>
  unit === 's' ? `${value.toFixed(2)} s` : `${value < 0 ? '−' : ''}${Math.abs(value)} dB`

/** The place that is looked at, with what can be done about it. */
function AtPlace({ tidy, place, words }: { tidy: Tidy; place: Place; words: readonly Word[] }) {
  const outlook = tidy.outlookFor(place)
  const sure = place.sure >= 0.9 ? 'sure' : place.sure >= 0.6 ? 'likely' : 'perhaps'
  return (
    <div className="mb-4 rounded-lg bg-paper-low p-3" data-testid="tidy-place" onMouseDown={keepFocus}>
      <p className="font-serif text-[15px] leading-snug">
        <InContext place={place} words={words} />
      </p>
      <p className="mt-1 flex flex-wrap gap-x-1.5 text-[12px] text-faint">
        <span>
          {clock(place.from)} · {becomes(place)} · {place.care ?? sure}
        </span>
        {outlook && (audible(outlook) ? <Judgement judged={outlook} /> : <span>join not audible</span>)}
      </p>
      {!place.decided && <Instead tidy={tidy} place={place} />}
      {tidy.takes.all.length > 0 && <Takes tidy={tidy} words={words} />}
      <div className="mt-2.5 flex flex-wrap gap-1.5">
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
            <Button look="strong" onClick={() => tidy.apply()}>
              Apply <CommandKey id="edit.takeOut" />
            </Button>
            {tidy.holds && !tidy.holding.on && 'goes' in place.proposes && (
              <Button onClick={() => tidy.apply(true)}>
                Hold time <CommandKey id="edit.holdTime" />
              </Button>
            )}
            <Button onClick={tidy.dismiss}>
              Dismiss <CommandKey id="edit.bringBack" />
            </Button>
          </>
        )}
      </div>
      {!place.decided && <NeverAgain tidy={tidy} place={place} words={words} />}
    </div>
  )
}

/** The words around a place, and in it what would go; where no word is in it, what becomes of it. */
function InContext({ place, words, before = AROUND }: { place: Place; words: readonly Word[]; before?: number }) {
  const first = firstWordAfter(words, place.from)
  const last = firstWordAfter(words, place.to - 1)
  const text = (from: number, to: number) =>
    words
      .slice(Math.max(0, from), to)
      .map((word) => word.text)
      .join(' ')
  const within = words.slice(first, last + 1).filter((word) => word.from >= place.from && word.to <= place.to)
  const end = first + within.length
  return (
    <>
      {words.length > 0 && <>… {text(first - before, first)} </>}
      <span className="font-semibold text-cut-ink">{within.length ? within.map((word) => word.text).join(' ') : becomes(place)}</span>
      {words.length > 0 && <> {text(end, end + AROUND)} …</>}
    </>
  )
}

const ROW = 34

const PlaceList = memo(function PlaceList({ tidy, wordsOf }: { tidy: Tidy; wordsOf: TidyPanelProps['wordsOf'] }) {
  const list = useRef<HTMLDivElement>(null)
  const { places, at } = tidy
  const chosen = places[at]
  useEffect(() => {
    list.current?.querySelector('[aria-current=true]')?.scrollIntoView({ block: 'nearest' })
  }, [at])
  return (
    <div ref={list}>
      <LongList
        items={places}
        rowHeight={ROW}
        testId="tidy-places"
        at={at < 0 ? undefined : at}
        row={(place) => (
          <button
            type="button"
            aria-current={place === chosen}
            onMouseDown={keepFocus}
            onClick={() => tidy.choose(place)}
            className={`flex w-full items-baseline gap-3 py-1.5 text-left text-[13px] hover:bg-paper-low ${
              place === chosen ? 'bg-wash' : ''
            } ${place.decided ? 'text-faint' : ''}`}
          >
            <span className="w-12 shrink-0 text-faint">{clock(place.from)}</span>
            <span className={`min-w-0 flex-1 truncate font-serif ${isApplied(place) ? 'line-through' : ''}`}>
              <InContext place={place} words={wordsOf(place.tape)} before={1} />
            </span>
            <span className="shrink-0 text-[12px]">{stateOf(tidy, place)}</span>
          </button>
        )}
      />
    </div>
  )
})

const isApplied = ({ decided }: Place): boolean => Boolean(decided && decided.decision!.is !== 'dismissed')

function stateOf(tidy: Tidy, place: Place): string {
  if (place.decided) return isApplied(place) ? 'applied' : 'dismissed'
  const expected = audible(tidy.outlookFor(place))
  return place.care ? 'by hand' : expected ? `${expected} audible` : ''
}
