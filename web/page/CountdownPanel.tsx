import { useRef, useState, type ReactNode } from 'react'
import { countdown, type Ahead, type Countdown } from '../../core/page/countdown'
import { pieceWords } from '../../core/edits/pieceWords'
import { BLOCK_KINDS, type Block } from '../../core/page/story'
import type { Placed } from '../../core/page/timing'
import { inCue, outCue } from '../../core/tape/words'
import { clock, type Frames } from '../../core/time'
import { CommandKey } from '../commands/CommandButton'
import { Heading, Side } from '../shell/Shell'
import { useFrames } from '../sound/usePlayer'
import { BLOCK_NAMES } from '../../core/page/blockNames'
import type { usePage } from './laid/usePage'

interface Props {
  page: ReturnType<typeof usePage>
  playing: boolean
  place: () => Frames
  onClose: () => void
}

/** What the figures of a countdown are, by name. */
const figuresOf = ({ now, line, tape, end }: Countdown) => ({ now: now?.left, line: line?.in, tape: tape?.in, end })
type Figure = keyof ReturnType<typeof figuresOf>

/** Which blocks it speaks of: only when these change is it drawn anew. */
const blocksIn = ({ now, line, tape }: Countdown): string => [now, line, tape].map((one) => one?.row.block.id).join()

/** For whoever reads against tape: how long what runs has left, and how long it is to the next line, the next tape and the end. */
export function CountdownPanel({ page, playing, place, onClose }: Props) {
  const { layout, output, known, facts } = page
  const figures = useRef(new Map<Figure | 'slot', HTMLElement>())
  const [, draw] = useState('')
  const ahead = countdown(layout, place())
  const drawn = blocksIn(ahead)
  const set = (name: Figure | 'slot') => (element: HTMLElement | null) => void (element && figures.current.set(name, element))
  useFrames(() => {
    const now = countdown(layout, place())
    for (const [name, frames] of Object.entries(figuresOf(now))) {
      const element = figures.current.get(name as Figure)
      if (element && frames !== undefined) write(element, clock(frames))
    }
    const slot = figures.current.get('slot')
    if (slot) write(slot, slotLeft(output.slot - place()))
    if (blocksIn(now) !== drawn) draw(blocksIn(now))
  }, playing)

  const said = ({ piece }: Block) => {
    const body = piece ? known.get(piece) : undefined
    return body && facts ? pieceWords(body.spans, facts.wordsOf, body.sides) : []
  }
  const who = ({ block }: Placed): string => {
    if (BLOCK_KINDS[block.kind].written) return [BLOCK_NAMES[block.kind], block.reader].filter(Boolean).join(', ')
    const body = block.piece ? known.get(block.piece) : undefined
    return [BLOCK_NAMES[block.kind], body?.speaker || body?.slug].filter(Boolean).join(', ')
  }
  const first = ({ block }: Placed): string =>
    BLOCK_KINDS[block.kind].written ? block.text.split(/\s+/).slice(0, 6).join(' ') : inCue(said(block))
  const { now, line, tape } = ahead
  const out = now && !BLOCK_KINDS[now.row.block.kind].written ? outCue(said(now.row.block), 4) : ''

  return (
    <Side label="Countdown">
      <div className="flex items-baseline justify-between">
        <Heading>Countdown</Heading>
        <button type="button" className="text-[12px] text-tape hover:underline" onClick={onClose}>
          close <CommandKey id="page.countdown" />
        </button>
      </div>
      <div data-testid="countdown">
        <div className="min-h-[124px] border-b border-rule py-4">
          <p className="text-[13px] text-soft">{now ? who(now.row) : ahead.end ? 'Nothing runs here' : 'The end'}</p>
          {now && (
            <p
              ref={set('now')}
              className="text-[44px] leading-[1.15] font-semibold tracking-tight tabular-nums"
              data-testid="countdown-now"
            >
              {clock(now.left)}
            </p>
          )}
          {now && <p className="text-[13px] text-soft">{out ? <>left; out on “{out}”</> : 'left to read'}</p>}
        </div>
        <Next name="Line in" ahead={line} set={set('line')} who={who} first={first} tone="text-ink" />
        <Next name="Tape in" ahead={tape} set={set('tape')} who={who} first={first} tone="text-tape" />
        <Clock name="End in">
          <span ref={set('end')}>{clock(ahead.end)}</span>
        </Clock>
        {output.slot > 0 && (
          <Clock name="Slot">
            <span ref={set('slot')} className={place() > output.slot ? 'text-cut-ink' : ''}>
              {slotLeft(output.slot - place())}
            </span>
          </Clock>
        )}
      </div>
    </Side>
  )
}

const write = (element: HTMLElement, text: string): void => {
  if (element.textContent !== text) element.textContent = text
}

const slotLeft = (left: Frames): string => (left >= 0 ? `${clock(left)} left` : `over by ${clock(-left)}`)

function Clock({ name, children }: { name: string; children: ReactNode }) {
  return (
    <p className="flex items-baseline justify-between border-b border-rule py-2.5 text-[13px] text-soft">
      {name}
      <span className="text-[20px] font-semibold text-ink tabular-nums">{children}</span>
    </p>
  )
}

function Next({
  name,
  ahead,
  set,
  who,
  first,
  tone,
}: {
  name: string
  ahead: Ahead | null
  set: (element: HTMLElement | null) => void
  who: (row: Placed) => string
  first: (row: Placed) => string
  tone: string
}) {
  if (!ahead) return null
  return (
    <div className="border-b border-rule py-2.5">
      <p className="flex items-baseline justify-between text-[13px] text-soft">
        {name}
        <span ref={set} className="text-[20px] font-semibold text-ink tabular-nums">
          {clock(ahead.in)}
        </span>
      </p>
      <p className="text-[13px] text-soft">{who(ahead.row)}</p>
      <p className={`font-serif text-[15px] ${tone}`}>{first(ahead.row)}</p>
    </div>
  )
}
