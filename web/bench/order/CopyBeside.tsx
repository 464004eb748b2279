import { Play, Square } from 'lucide-react'
import type { ReactNode } from 'react'
import { toast } from 'sonner'
import type { Actuality } from '../../../core/edits/actuality'
import type { TextChange } from '../../../core/steps/text'
import { saidAlready } from '../../../core/page/saidAlready'
import { BLOCK_KINDS, spineOf, type Block, type StoryDocument } from '../../../core/page/story'
import { clock, RATE, type Frames, type Stretch } from '../../../core/time'
import { useCommands } from '../../commands/commands'
import type { LiveDocument } from '../../documents/liveDocument'
import { useDocument, type OpenDocument } from '../../documents/useDocument'
import { useFollowedUndo, type Undoable } from '../../documents/useUndo'
import { textIn, writeIn } from '../../documents/writing'
import { CopyText } from '../../story/CopyText'
import { newBlock } from '../../story/putOnPage'
import type { KeptWord } from '../benchSheet'
import { useIntoTape } from './useIntoTape'
import { CommandKey } from '../../commands/CommandButton'

/** So much of the tape beside a line is held against it. */
const HELD_AGAINST: Frames = 15 * RATE

interface Props {
  id: string
  piece: Actuality
  /** The documents of the piece and its tapes: what was done last is undone, be it to one of them or to the line. */
  of: readonly Undoable[]
  story: string
  kept: readonly KeptWord[]
  /** Shows a stretch of the piece, selected. */
  onSelect: (stretch: Stretch) => void
  children: ReactNode
}

/** The lines that stand before and after a piece on its page, at its head and foot: they are written into the tape. */
export function CopyBeside(props: Props) {
  const document = useDocument(props.story, 'story')
  if (!document || !('body' in document)) return props.children
  return <Lines {...props} document={document} />
}

function Lines({ id, piece, of, kept, onSelect, children, document: { live, body } }: Props & { document: OpenDocument<'story'> }) {
  const into = useIntoTape(body, id, piece)
  useFollowedUndo(...of, live)
  useCommands({
    ...(into.playing ? { 'play.toggle': into.stop } : {}),
    'page.rehearse': () => into.before && (into.playing ? into.stop() : into.play(into.before)),
    'line.write': () =>
      into.before
        ? (globalThis.document.querySelector('[data-line=before] textarea') as HTMLTextAreaElement | null)?.focus()
        : addLine(live, body, id),
  })
  const line = (block: Block | null, which: 'before' | 'after') =>
    block && (
      <Line
        key={block.id}
        block={block}
        current={() => textIn(live, block.id, 'text')}
        which={which}
        length={into.lengthOf(block)}
        playing={into.playing}
        share={() => into.share(block)}
        near={
          which === 'before'
            ? kept.filter(({ at }) => at < HELD_AGAINST)
            : kept.filter(({ end }) => end > (kept.at(-1)?.end ?? 0) - HELD_AGAINST)
        }
        onPlay={() => (into.playing ? into.stop() : into.play(block))}
        onWrite={(change) => writeIn(live, block.id, 'text', change)}
        onSelect={onSelect}
      />
    )
  return (
    <>
      {line(into.before, 'before')}
      {children}
      {line(into.after, 'after')}
    </>
  )
}

/** A line before a piece that has none on its page. */
function addLine(live: LiveDocument<'story'>, body: StoryDocument, id: string): void {
  const spine = spineOf(body)
  const index = spine.findIndex((block) => block.piece === id)
  if (index < 0) return void toast('This piece is not on the page yet. Add it there first.')
  live.act(newBlock(body, 'copy', {}, spine[index - 1] ?? null).steps, { label: 'add copy' })
}

function Line({
  block,
  current,
  which,
  length,
  playing,
  share,
  near,
  onPlay,
  onWrite,
  onSelect,
}: {
  block: Block
  current: () => string
  which: 'before' | 'after'
  length: Frames
  playing: boolean
  share: () => number | null
  near: readonly KeptWord[]
  onPlay: () => void
  onWrite: (change: TextChange) => void
  onSelect: (stretch: Stretch) => void
}) {
  const twice = saidAlready(block.text, near)
  const before = which === 'before'
  return (
    <section
      aria-label={before ? 'The line before' : 'The line after'}
      data-line={which}
      className={`group flex shrink-0 flex-wrap items-center gap-x-4 gap-y-1 bg-paper-lit py-1.5 pr-6 focus-within:items-start
        max-[860px]:px-3 ${before ? 'border-b' : 'border-t'} border-rule`}
    >
      <span className="w-[118px] shrink-0 truncate text-right text-[12px] text-faint group-focus-within:pt-1.5 max-[860px]:w-auto">
        {BLOCK_KINDS[block.kind].live ? 'host, live' : block.reader || (before ? 'before it' : 'after it')}
      </span>
      {/* one line of it: where it runs into the tape, or comes out of it; all of it while one writes */}
      <div
        className={`flex max-h-[26px] min-w-52 flex-1 overflow-y-auto [scrollbar-width:none] *:shrink-0
          focus-within:max-h-[112px] ${before ? 'flex-col-reverse' : 'flex-col'}`}
      >
        <CopyText
          value={block.text}
          current={current}
          label={before ? 'The line before this piece' : 'The line after this piece'}
          rehearsing={playing}
          share={share}
          onWrite={onWrite}
        />
      </div>
      {twice.length > 0 && (
        <span className="flex shrink-0 items-center gap-1.5 text-[12px] text-faint group-focus-within:pt-1" data-testid="said-already">
          <span>said in both</span>
          {twice.slice(0, 2).map(({ from, to }) => (
            <button
              key={from}
              type="button"
              className="max-w-40 truncate rounded-sm bg-wash px-1.5 font-serif text-[13px] text-ink italic hover:underline"
              onClick={() => onSelect({ from: near[from].at, to: near[to - 1].end })}
            >
              {near
                .slice(from, to)
                .map(({ text }) => text)
                .join(' ')}
            </button>
          ))}
        </span>
      )}
      <span className="shrink-0 text-[13px] text-soft tabular-nums group-focus-within:pt-1">{clock(length)}</span>
      <button
        type="button"
        className="flex shrink-0 items-center gap-1.5 rounded-md px-2 py-1 text-[13px] text-soft hover:bg-paper-low hover:text-ink"
        title={before ? 'Hear the line run into the tape' : 'Hear the tape run into the line'}
        onClick={onPlay}
      >
        {playing ? <Square size={12} fill="currentColor" /> : <Play size={12} fill="currentColor" />}{' '}
        {before ? 'into the tape' : 'out of it'} {before && <CommandKey id="page.rehearse" />}
      </button>
    </section>
  )
}
