import type { ReactNode } from 'react'
import { Link } from 'react-router'
import type { TapeInfo } from '../../../contract/tapes'
import { clipLength, wordsLength, type Actuality, type Offcut } from '../../../core/edits/actuality'
import type { Prediction } from '../../../core/cuts/predict'
import type { Nick } from '../../../core/edits/gone'
import { listLength, type Edit, type Span } from '../../../core/edits/editList'
import { offcutsOf } from '../../../core/edits/offcuts'
import type { PatchPlace } from '../../../core/edits/patch'
import type { PieceWord, WordsOf } from '../../../core/edits/pieceWords'
import { cueLine } from '../../../core/tape/words'
import type { Side as TapeSide } from '../../../core/tape/tape'
import { clock, inSeconds, RATE, tradeLength, type Frames, type Stretch } from '../../../core/time'
import { EditableText } from '../../ui/EditableText'
import { LongList } from '../../ui/LongList'
import { run } from '../../commands/commands'
import { COMMANDS, type CommandId } from '../../commands/table'
import { Tip } from '../../ui/parts'
import { Heading, Side } from '../../shell/Shell'
import { nickKey, saidIn, takenOut, type JoinRow } from '../benchSheet'
import { Judgement } from '../../joins/Judgement'
import { CommandKey } from '../../commands/CommandButton'

interface Props {
  piece: Actuality
  kept: readonly PieceWord[]
  joins: readonly JoinRow[]
  gone: readonly Nick[]
  /** The place of the join that is worked on, and the nicks that are open. */
  chosen: Frames | null
  opened: ReadonlySet<string>
  judged: (cut: Edit) => Prediction | undefined
  wordsOf: WordsOf
  tape: TapeInfo | undefined
  /** The frame of the tape at the playhead. */
  tapeFrame: Frames
  onSet: (key: 'speaker' | 'role', value: string) => void
  onJoin: (cut: Edit) => void
  onNick: (nick: Nick) => void
  onBringBack: (nick: Nick) => void
  laid: readonly PatchPlace[]
  /** The list of versions. */
  versions: ReactNode
  /** The list of marks. */
  marks: ReactNode
  onTakeOff: (patch: PatchPlace) => void
  muted: readonly (Stretch & { span: Span })[]
  onUnmute: (stretch: Stretch) => void
  onTakeBack: (offcut: Offcut) => void
  onDrop: (offcut: Offcut) => void
  /** The sides of its first tape, and which of them is heard alone. */
  sides: readonly TapeSide[]
  alone: number | null
  onAlone: (side: number | null) => void
  /** The side that levels and mutes address; null for all. */
  addressed: number | null
  onAddress: (side: number | null) => void
}

/** What stands beside an actuality: its lengths, its cues, who speaks, its joins and what was taken out. */
export function BenchSide({
  piece,
  kept,
  joins,
  gone,
  chosen,
  opened,
  judged,
  wordsOf,
  tape,
  tapeFrame,
  onSet,
  onJoin,
  onNick,
  onBringBack,
  laid,
  onTakeOff,
  versions,
  marks,
  muted,
  onUnmute,
  onTakeBack,
  onDrop,
  sides,
  alone,
  onAlone,
  addressed,
  onAddress,
}: Props) {
  const heard = joins.filter((join) => join.cut.played).length
  const goneTime = gone.reduce((sum, nick) => sum + lengthOf(nick), 0)
  return (
    <Side label="About this actuality">
      <div className="mb-2 flex gap-6">
        <Lengthy frames={clipLength(piece)} name="total" />
        <Lengthy frames={wordsLength(piece)} name="speech" />
      </div>
      <div className="mb-4 flex flex-wrap gap-x-4 text-[13px] text-faint" data-testid="handles">
        <Handle name="head" frames={piece.head} less="handle.headLess" more="handle.headMore" />
        <Handle name="tail" frames={piece.tail} less="handle.tailLess" more="handle.tailMore" />
      </div>
      <p className="font-serif text-[16px] leading-snug italic" data-testid="cues">
        {kept.length ? `“${cueLine(kept)}”` : 'No transcript yet.'}
      </p>
      <div className="mt-2 mb-5 flex flex-wrap items-center gap-x-1 text-[13px] text-soft">
        <EditableText label="Speaker" value={piece.speaker} placeholder="speaker" onKeep={(value) => onSet('speaker', value)} />
        <EditableText
          label="Role"
          value={piece.role}
          placeholder="role"
          className="ml-2 text-faint"
          onKeep={(value) => onSet('role', value)}
        />
        {tape && (
          <span className="w-full pt-1">
            from{' '}
            <Link className="underline" to={`/tapes/${tape.id}?at=${tapeFrame}`}>
              {tape.name}
            </Link>{' '}
            <CommandKey id="go.across" />
          </span>
        )}
      </div>
      {sides.length > 1 && (
        <div className="mb-5 text-[13px]">
          <SideChoice title="Heard" label="Which side is heard" sides={sides} chosen={alone} onChoose={onAlone} />
          <SideChoice
            title="Level, mute"
            label="Which side levels and mutes address"
            sides={sides}
            chosen={addressed}
            onChoose={onAddress}
          />
          {alone !== null && <p className="text-[12px] text-tape">Solo, for listening only. The file has all sides.</p>}
        </div>
      )}
      <Heading>{joins.length ? `Joins, ${heard} of ${joins.length} played` : 'Joins'}</Heading>
      {joins.length === 0 && (
        <p className="py-3 text-faint">
          Nothing is taken out yet. Select, then <CommandKey id="edit.takeOut" />
        </p>
      )}
      <LongList
        items={joins}
        rowHeight={38}
        testId="joins"
        row={({ cut, before: left, after }) => (
          <button
            type="button"
            aria-pressed={cut.at === chosen}
            className={`flex w-full items-center gap-2 py-2 text-left hover:bg-paper-low
              ${cut.at === chosen ? 'font-semibold text-cut-ink' : ''}`}
            onClick={() => onJoin(cut)}
          >
            <span className={`size-2 shrink-0 rounded-full ${cut.played ? 'bg-ink' : 'border-[1.5px] border-cut'}`} />
            <span className="min-w-0 flex-1 truncate">
              {left} <span className="text-cut">/</span> {after}
            </span>
            <Judgement judged={judged(cut)} brief />
            <span className="shrink-0 text-[12px] font-normal text-faint">{cut.played ? 'played' : 'not played'}</span>
          </button>
        )}
      />
      {tape?.tone.made && gone.some((nick) => nick.held > 0) && (
        <p className="pt-3 text-[13px] text-soft">
          This tape has no stretch quiet enough, so its room tone is made from the spectrum of its noise floor.
        </p>
      )}
      {gone.length > 0 && (
        <>
          <div className="h-5" />
          <Heading>Taken out, {inSeconds(goneTime)} s</Heading>
          <LongList
            items={gone}
            rowHeight={34}
            row={(nick) => (
              <div className="flex items-center gap-2 py-1.5">
                <button
                  type="button"
                  aria-expanded={opened.has(nickKey(nick))}
                  className="min-w-0 flex-1 truncate text-left font-serif text-[13.5px] text-soft italic hover:text-ink"
                  title={takenOut(nick, wordsOf)}
                  onClick={() => onNick(nick)}
                >
                  {takenOut(nick, wordsOf)}
                  {nick.held ? ', time held' : ''}
                </button>
                <span className="text-[13px] text-faint">{inSeconds(lengthOf(nick))}</span>
                <button type="button" className="text-[12px] text-tape hover:underline" onClick={() => onBringBack(nick)}>
                  bring back
                </button>
              </div>
            )}
          />
        </>
      )}
      {laid.length > 0 && (
        <>
          <div className="h-5" />
          <Heading>Patched</Heading>
          <LongList
            items={laid}
            rowHeight={34}
            testId="patches"
            row={(patch) => (
              <div className="flex items-center gap-2 py-1.5">
                <span className="min-w-0 flex-1 truncate font-serif text-[13.5px] italic">
                  {under(patch, kept) || 'sound without words'}
                </span>
                <span className="shrink-0 text-[12px] text-faint">from {clock(patch.span.from)}</span>
                <button type="button" className="shrink-0 text-[12px] text-tape hover:underline" onClick={() => onTakeOff(patch)}>
                  remove
                </button>
              </div>
            )}
          />
        </>
      )}
      {muted.length > 0 && (
        <>
          <div className="h-5" />
          <Heading>Muted, not in the file</Heading>
          <ul data-testid="muted">
            {muted.map((stretch) => (
              <li key={stretch.from} className="flex items-center gap-2 border-b border-rule py-1.5">
                <span className="min-w-0 flex-1 truncate font-serif text-[13.5px] text-soft italic">{saidIn([stretch.span], wordsOf)}</span>
                <span className="text-[13px] text-faint">{inSeconds(stretch.to - stretch.from)}</span>
                <button type="button" className="text-[12px] text-tape hover:underline" onClick={() => onUnmute(stretch)}>
                  unmute
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
      {offcutsOf(piece).length > 0 && (
        <>
          <div className="h-5" />
          <Heading>Offcuts</Heading>
          <ul data-testid="offcuts">
            {offcutsOf(piece).map((offcut) => (
              <li key={offcut.id} className="flex items-center gap-2 border-b border-rule py-1.5">
                <span className="min-w-0 flex-1 truncate font-serif text-[13.5px] text-soft italic">{saidIn(offcut.spans, wordsOf)}</span>
                <span className="text-[13px] text-faint">{inSeconds(listLength(offcut.spans))}</span>
                <button type="button" className="text-[12px] text-tape hover:underline" onClick={() => onTakeBack(offcut)}>
                  put back
                </button>
                <button type="button" className="text-[12px] text-faint hover:text-ink hover:underline" onClick={() => onDrop(offcut)}>
                  remove
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
      {marks}
      {versions}
    </Side>
  )
}

function lookOf(side: number | null, chosen: boolean): string {
  if (!chosen) return 'border-rule bg-paper-lit hover:border-grain'
  return side === null ? 'border-ink bg-ink text-paper' : 'border-tape bg-tape text-paper'
}

/** All sides, or one of them. */
function SideChoice({
  title,
  label,
  sides,
  chosen,
  onChoose,
}: {
  title: string
  label: string
  sides: readonly TapeSide[]
  chosen: number | null
  onChoose: (side: number | null) => void
}) {
  return (
    <div className="mb-1.5 flex flex-wrap items-center gap-1" role="group" aria-label={label}>
      <span className="w-[70px] text-[12px] text-faint">{title}</span>
      {[null, ...sides.keys()].map((side) => (
        <button
          key={String(side)}
          type="button"
          aria-pressed={chosen === side}
          className={`min-w-9 truncate rounded-md border px-1.5 py-1 text-[12px] ${lookOf(side, chosen === side)}`}
          onClick={() => onChoose(side)}
        >
          {side === null ? 'all' : sides[side].name || `side ${side + 1}`}
        </button>
      ))}
    </div>
  )
}

/** How much went at a nick, in frames. */
const lengthOf = ({ parts }: Nick): Frames => parts.reduce((sum, { from, to }) => sum + to - from, 0)

/** The words that a patch is laid over, by a good part of them or of it. */
const under = ({ from, to }: PatchPlace, kept: readonly PieceWord[]): string =>
  kept
    .filter(({ at, end }) => 3 * (Math.min(end, to) - Math.max(at, from)) > Math.min(end - at, to - from))
    .map(({ text }) => text)
    .join(' ')

/** The room before or after the words, with the keys that change it. */
function Handle({ name, frames, less, more }: { name: string; frames: Frames; less: CommandId; more: CommandId }) {
  const button = (id: CommandId, sign: string) => (
    <Tip
      text={
        <>
          {COMMANDS[id].title} <CommandKey id={id} />
        </>
      }
    >
      <button
        type="button"
        aria-label={COMMANDS[id].title}
        className="size-6 rounded text-[14px] leading-none hover:bg-paper-low hover:text-ink"
        onClick={() => run(id)}
      >
        {sign}
      </button>
    </Tip>
  )
  return (
    <span className="flex items-center">
      {name} <span className="mx-1 text-ink tabular-nums">{(frames / RATE).toFixed(2)}</span>
      {button(less, '−')}
      {button(more, '+')}
    </span>
  )
}

function Lengthy({ frames, name }: { frames: Frames; name: string }) {
  const tenth = Math.round(frames / (RATE / 10)) % 10
  const whole = tradeLength(Math.floor(Math.round(frames / (RATE / 10)) / 10) * RATE)
  return (
    <div data-testid={`length-${name}`}>
      <span className="text-[30px] leading-none font-bold tracking-tight">{whole}</span>
      <span className="text-[16px] font-semibold text-faint">.{tenth}</span>
      <div className="text-[13px] text-faint">{name}</div>
    </div>
  )
}
