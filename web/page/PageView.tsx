import { closestCenter, DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core'
import { SortableContext, sortableKeyboardCoordinates, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import { GripVertical, MoreHorizontal, Plus } from 'lucide-react'
import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState, type PointerEvent, type ReactNode } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { toast } from 'sonner'
import { wordsLength } from '../../core/edits/actuality'
import { pieceWords } from '../../core/edits/pieceWords'
import { moved, shareOf } from '../../core/page/following'
import { piecePlan } from '../../core/page/plan'
import { moveBlocks } from '../../core/page/moveBlocks'
import type { Block, StoryDocument, StoryStep } from '../../core/page/story'
import type { Layout, Placed, Unrecorded } from '../../core/page/timing'
import { inCue, outCue, type Word } from '../../core/tape/words'
import { clock, RATE, tradeLength, type Frames } from '../../core/time'
import { parseLength } from '../../core/typed'
import { ContextMenu, ViewMenu } from '../commands/CommandMenu'
import { useCommands } from '../commands/commands'
import { AirFields } from '../story/AirFields'
import { airClock, airDay, airTime, typedAirTime, untilAir } from '../story/airTime'
import { keep } from '../documents/lastStory'
import type { LiveDocument } from '../documents/liveDocument'
import { useDocument } from '../documents/useDocument'
import { useFollowedUndo } from '../documents/useUndo'
import { textIn, writeIn } from '../documents/writing'
import { PlanFiguresDialog } from '../levels/PlanFiguresDialog'
import { SendDialog } from '../send/SendDialog'
import { player } from '../sound/player'
import { useFrames, usePlaying } from '../sound/usePlayer'
import { EditableText } from '../ui/EditableText'
import { FigureInput } from '../ui/FigureInput'
import { TermsPanel } from './TermsPanel'
import { Button, Dialog, Empty, Menu, MenuItem } from '../ui/parts'
import { Crumb, Heading, Shell, Side } from '../shell/Shell'
import { Transport } from '../shell/Transport'
import { keptNow, useKept } from '../ui/useKept'
import { useNow } from '../ui/useNow'
import { AudibleJoins } from './AudibleJoins'
import { Bar } from './Bar'
import { CopyText } from '../story/CopyText'
import { blocksAfter, newBlock } from '../story/putOnPage'
import { TapeList } from './TapeList'
import { Others } from '../present/Others'
import { useOthers, usePresence } from '../present/present'
import { PieceList } from './PieceList'
import { PiecePicker } from './PiecePicker'
import { useChosen } from '../ui/useChosen'
import { usePage, type Mode } from './usePage'
import { CommandButton, CommandKey } from '../commands/CommandButton'

export function PageView() {
  const { id = '' } = useParams()
  const document = useDocument(id, 'story')
  useEffect(() => {
    if (document && 'body' in document) keep.setStory(id)
  }, [id, document])
  if (document && 'error' in document)
    return (
      <Shell path={<Crumb>No story here</Crumb>}>
        <Empty title="Story not found">
          It may have been deleted, or the address is wrong. All stories are on the{' '}
          <Link className="underline" to="/">
            Desk
          </Link>
          .
        </Empty>
      </Shell>
    )
  if (!document) return <Shell path={<Crumb>Opening …</Crumb>}>{null}</Shell>
  return <OpenPage key={id} id={id} live={document.live} body={document.body} />
}

/** Pixels a second, at which spoken words fill about the height that their time takes. */
const PIXELS = 7
const KINDS: Record<Block['kind'], string> = { intro: 'Host intro', copy: 'Copy', actuality: 'Actuality' }

const CHOOSE = 'Choose a block first.'
/** What can be done with the block that is clicked. */
const HERE = [
  'page.rehearse',
  'page.write',
  'page.up',
  'page.down',
  'page.aside',
  'page.addCopy',
  'page.addActuality',
  'page.addIntro',
  'edit.undo',
  'edit.redo',
] as const

function OpenPage({ id, live, body }: { id: string; live: LiveDocument<'story'>; body: StoryDocument }) {
  const navigate = useNavigate()
  const owner = `page/${id}`
  const [mode, setMode] = useKept<Mode>(`${owner}/mode`, 'rehearse')
  const [unrecorded, setUnrecorded] = useState<Unrecorded>('out')
  const [writing, setWriting] = useState<string | null>(null)
  const [picking, setPicking] = useState<{ kind: 'actuality' } | { kind: 'track'; block: Block } | null>(null)
  const [sending, setSending] = useState(false)
  const [measuring, setMeasuring] = useState(false)
  const page = usePage(id, body, mode, unrecorded)
  const others = useOthers(id)
  const { head, spine, offcuts, known, air, file, layout, plan, facts } = page
  const chosen = useChosen(owner, spine)
  const setChosen = chosen.choose
  usePresence(id, chosen.active?.id ?? null)
  const playing = usePlaying(owner)
  const over = air.length - head.slot

  const act = (steps: StoryStep[], label: string) => live.act(steps, { label })
  useFollowedUndo(live)
  const setHead = (key: string, label: string) => (value: unknown) => act([{ type: 'set', id: 'story', key, value }], label)
  const set = (block: Block, key: keyof Block, value: unknown, label: string) => act([{ type: 'set', id: block.id, key, value }], label)

  // playing
  const resting = useRef<Frames>(keptNow.get(`${owner}/place`, 0))
  const place = useCallback(() => (player.playing && player.owner === owner ? player.position : resting.current), [owner])
  const [, redraw] = useState(0)
  const rest = (frame: Frames) => {
    resting.current = frame
    redraw((count) => count + 1)
  }
  const was = useRef(false)
  useEffect(() => {
    if (was.current && !playing && player.owner === owner) rest(player.position)
    was.current = playing
  })
  useEffect(
    () => () => {
      keptNow.set(`${owner}/place`, place())
      if (player.owner === owner) player.stop()
    },
    [owner, place],
  )
  const before = useRef<Layout>(layout)
  useEffect(() => {
    if (plan && player.owner === owner) player.exchange(owner, plan, moved(before.current, layout))
    before.current = layout
  }, [plan, layout, owner])
  const playFrom = (frame: Frames) => {
    if (!plan) return void toast('The page is still loading.', { duration: 1500 })
    if (plan.length === 0) return void toast(mode === 'sent' ? 'The file would be empty.' : 'The page is empty.')
    player.load(owner, plan)
    void player.play(frame >= plan.length ? 0 : frame)
  }
  /** A block to be rehearsed as soon as the page is laid out for it. */
  const [wanted, setWanted] = useState<string | null>(null)
  useEffect(() => {
    const row = mode === 'rehearse' && plan && layout.placed.find((one) => one.block.id === wanted)
    if (!row) return
    setWanted(null)
    playFrom(Math.max(0, row.from))
    // playFrom is of this very render
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [wanted, mode, plan, layout])
  const playBlock = (block: Block) => {
    setChosen(block.id)
    const row = layout.placed.find((one) => one.block.id === block.id)
    if (row) playFrom(Math.max(0, row.from))
    else
      toast(
        block.kind === 'intro'
          ? 'The host intro is read live and is not in the file.'
          : 'This copy has no voice track and is not in the file.',
      )
  }
  const changeMode = (next: Mode) => {
    const here = layout.placed.filter((row) => row.at <= place()).at(-1)
    player.stop()
    setMode(next)
    resting.current = (here && (next === 'rehearse' ? air : file).placed.find((row) => row.block.id === here.block.id)?.at) ?? 0
  }

  // blocks
  const rows = layout.placed.filter((row) => chosen.is(row.block.id) && row.to > row.from)
  /** Where what is chosen lies in what plays; null where nothing is, or nothing of it plays. */
  const chosenStretch = rows.length ? { from: Math.max(0, rows[0].at), to: rows[rows.length - 1].at + rows[rows.length - 1].words } : null
  const index = chosen.active ? spine.indexOf(chosen.active) : -1
  const many = chosen.all.length > 1 ? `${chosen.all.length} blocks` : 'a block'
  const move = (from: number, to: number) => act(moveBlocks(spine, new Set([spine[from].id]), to), 'move a block')
  /** All that are chosen, together, up or down by one of the others. */
  const moveChosen = (by: 1 | -1) => {
    const first = spine.indexOf(chosen.all[0])
    const last = spine.indexOf(chosen.all[chosen.all.length - 1])
    const before = spine.slice(0, by < 0 ? first : last + 2).filter((block) => !chosen.is(block.id)).length
    act(moveBlocks(spine, new Set(chosen.all.map((block) => block.id)), Math.max(0, by < 0 ? before - 1 : before)), `move ${many}`)
  }
  const asideChosen = () => {
    const [first, last] = [spine.indexOf(chosen.all[0]), spine.indexOf(chosen.all[chosen.all.length - 1])]
    act(
      chosen.all.map((block): StoryStep => ({ type: 'set', id: block.id, key: 'aside', value: true })),
      `set aside ${many}`,
    )
    setChosen(spine[last + 1]?.id ?? spine[first - 1]?.id ?? null)
  }
  const add = (kind: Block['kind'], fields: Partial<Block> = {}) => {
    const after = kind === 'intro' && !spine.some((block) => block.kind === 'intro') ? null : index >= 0 ? spine[index] : undefined
    const reader = kind === 'copy' ? (spine.find((block) => block.kind === 'copy' && block.reader)?.reader ?? '') : ''
    const { block, steps } = newBlock(body, kind, { reader, ...fields }, after)
    act(steps, `add ${KINDS[kind].toLowerCase()}`)
    setChosen(block.id)
    if (kind !== 'actuality') setWriting(block.id)
  }
  /** Puts pieces on the page below what is chosen, in their order, as one act. */
  const addPieces = (added: readonly string[]) => {
    const { blocks, steps } = blocksAfter(
      body,
      added.map((piece) => ({ kind: 'actuality', piece })),
      index >= 0 ? spine[index] : undefined,
    )
    act(steps, added.length > 1 ? `add ${added.length} actualities` : 'add actuality')
    setChosen(blocks[blocks.length - 1].id)
  }
  const aside = (block: Block) => {
    set(block, 'aside', true, 'set aside')
    setChosen(spine[spine.indexOf(block) + 1]?.id ?? spine[spine.indexOf(block) - 1]?.id ?? null)
  }
  const step = (by: 1 | -1) => {
    const next = spine[Math.min(spine.length - 1, Math.max(0, index < 0 ? 0 : index + by))]
    if (!next) return
    setChosen(next.id)
    globalThis.document.getElementById(`block-${next.id}`)?.scrollIntoView({ block: 'nearest' })
  }

  const the = chosen.all.length > 1 ? `${chosen.all.length} blocks` : 'the block'
  const extend = (by: 1 | -1) => {
    const next = spine[index + by]
    if (next) chosen.chooseAsFarAs(next.id)
  }

  const rehearse = () => {
    const block = spine[Math.max(0, index)]
    if (!block) return
    if (mode !== 'rehearse') changeMode('rehearse')
    setWanted(block.id)
  }
  const writeOrOpen = () => {
    const block = chosen.active
    if (block?.kind === 'actuality') void (block.piece && navigate(`/pieces/${block.piece}`))
    else if (block) (globalThis.document.querySelector(`#block-${block.id} textarea`) as HTMLTextAreaElement | null)?.focus()
  }

  useCommands({
    'play.toggle': () => (playing ? player.stop() : playFrom(place())),
    'page.rehearse': { unable: spine.length ? null : 'The page is empty.', run: rehearse },
    'play.back': () => jump(place() - 2 * RATE),
    'play.forward': () => jump(place() + 2 * RATE),
    'play.start': () => jump(0),
    'play.end': () => jump(layout.length),
    'page.previous': () => step(-1),
    'page.next': () => step(1),
    'page.up': {
      run: () => chosen.all.length && moveChosen(-1),
      title: `Move ${the} up`,
      unable: index < 0 ? CHOOSE : chosen.is(spine[0].id) && chosen.all.length === 1 ? 'It is the first block.' : null,
    },
    'page.down': {
      run: () => chosen.all.length && moveChosen(1),
      title: `Move ${the} down`,
      unable: index < 0 ? CHOOSE : chosen.is(spine[spine.length - 1].id) && chosen.all.length === 1 ? 'It is the last block.' : null,
    },
    'page.extendUp': () => extend(-1),
    'page.extendDown': () => extend(1),
    'page.write': { unable: index < 0 ? CHOOSE : null, run: writeOrOpen },
    'page.aside': {
      run: () => chosen.all.length && asideChosen(),
      title: chosen.all.length > 1 ? `Set ${the} aside` : 'Set aside',
      unable: index < 0 ? CHOOSE : null,
    },
    'page.addCopy': () => add('copy'),
    'page.addIntro': () => add('intro'),
    'page.addActuality': () => setPicking({ kind: 'actuality' }),
    'page.send': () => setSending(true),
    'view.figures': { run: () => setMeasuring(true), unable: plan?.length ? null : 'There is nothing to measure.' },
    'select.clear': () => setChosen(null),
    'go.up': () => void navigate('/'),
  })
  const jump = (frame: Frames) => {
    rest(Math.max(0, Math.min(layout.length, frame)))
    if (playing) playFrom(resting.current)
  }

  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  )
  const onDragEnd = ({ active, over: target }: DragEndEvent) => {
    if (!target || active.id === target.id) return
    move(
      spine.findIndex((block) => block.id === active.id),
      spine.findIndex((block) => block.id === target.id),
    )
  }

  const unrecordedCopy = spine.filter((block) => block.kind === 'copy' && !(block.piece && known.has(block.piece))).length
  const content = useRef<HTMLDivElement>(null)
  // where one left it
  useLayoutEffect(() => {
    if (page.ready) content.current!.scrollTop = keptNow.get(`${owner}/top`, 0)
  }, [page.ready, owner])
  const line = useRef<HTMLDivElement>(null)
  useFrames(() => {
    const row = layout.placed.filter((one) => one.at <= place()).at(-1)
    const element = row && globalThis.document.getElementById(`block-${row.block.id}`)
    if (!line.current || !content.current) return
    line.current.style.opacity = element ? '1' : '0'
    if (!element || !row) return
    const share = Math.min(1, (place() - row.at) / Math.max(1, row.words))
    line.current.style.transform = `translateY(${element.offsetTop + share * element.offsetHeight}px)`
  }, playing)

  const plans = useMemo(() => {
    if (!facts) return new Map()
    return new Map(
      [...known]
        .filter(([, piece]) => piece.spans.every((span) => facts.factsOf(span.tape).frames > 0))
        .map(([key, piece]) => [key, piecePlan(piece, facts.factsOf)]),
    )
  }, [known, facts])

  return (
    <Shell
      path={
        <>
          <Crumb to="/">Desk</Crumb>
          <span className="text-grain" aria-hidden>
            /
          </span>
          <EditableText
            label="Slug of the story"
            value={head.slug}
            placeholder="Slug"
            className="min-w-0 font-semibold text-ink"
            onKeep={setHead('slug', 'slug')}
          />
        </>
      }
      right={
        <>
          <AirTime airs={head.airs} onKeep={setHead('airs', 'air time')} />
          <Others document={id} />
        </>
      }
      aside={
        <Side label="Offcuts and pieces">
          <Heading>Add below</Heading>
          <div className="mb-6 flex flex-wrap gap-1.5 pt-2">
            <CommandButton id="page.addCopy">
              <Plus size={14} /> Copy
            </CommandButton>
            <CommandButton id="page.addActuality">
              <Plus size={14} /> Actuality
            </CommandButton>
            <CommandButton id="page.addIntro">
              <Plus size={14} /> Host intro
            </CommandButton>
          </div>
          <Heading>Pieces of this story</Heading>
          <PieceList story={id} rows={page.rows} spine={spine} onAdd={addPieces} />
          <div className="h-6" />
          <Heading>Tapes of this story</Heading>
          <TapeList story={id} />
          <div className="h-6" />
          <Heading>Offcuts</Heading>
          {offcuts.length === 0 && <p className="py-3 text-faint">Blocks that you set aside are kept here.</p>}
          <ul data-testid="offcuts">
            {offcuts.map((block) => (
              <li key={block.id} className="flex items-center gap-2 border-b border-rule py-2">
                <span className="min-w-0 flex-1 truncate font-serif text-[14px] text-soft italic">
                  {block.piece ? known.get(block.piece)?.slug : block.text || KINDS[block.kind]}
                </span>
                <button
                  type="button"
                  className="text-[12px] text-tape hover:underline"
                  onClick={() => {
                    set(block, 'aside', false, 'put back')
                    setChosen(block.id)
                  }}
                >
                  put back
                </button>
              </li>
            ))}
          </ul>
          <div className="h-6" />
          <Heading>Names and terms</Heading>
          <TermsPanel head={head} onSet={(terms) => setHead('terms', 'names and terms')(terms)} />
          <div className="h-6" />
          <Heading>Standard out cue</Heading>
          <div className="pt-2">
            <CopyText
              value={head.soc}
              current={() => textIn(live, 'story', 'soc')}
              label="Standard out cue"
              placeholder="For Brackle Sound, I’m …"
              rehearsing={false}
              share={() => null}
              onWrite={(change) => writeIn(live, 'story', 'soc', change)}
            />
          </div>
        </Side>
      }
      foot={
        <>
          <Transport playing={playing} place={place} />
          <div className="flex shrink-0 rounded-md border border-rule" role="group" aria-label="How it plays">
            {(
              [
                ['rehearse', 'Rehearse'],
                ['sent', 'As sent'],
              ] as const
            ).map(([value, text]) => (
              <button
                key={value}
                type="button"
                aria-pressed={mode === value}
                onClick={() => changeMode(value)}
                className={`h-8 px-3 text-[13px] first:rounded-l-md last:rounded-r-md ${mode === value ? 'bg-ink text-paper' : 'hover:bg-paper-low'}`}
              >
                {text}
              </button>
            ))}
          </div>
          <dl className="flex flex-wrap items-baseline gap-x-4 text-[13px] whitespace-nowrap" data-testid="figures">
            <FootFigure name="TRT">{clock(air.length)}</FootFigure>
            <div className="flex items-baseline gap-1.5">
              <dt className="text-faint">slot</dt>
              <dd>
                <SlotField value={head.slot} onKeep={setHead('slot', 'slot')} />
              </dd>
            </div>
            {head.slot > 0 && (
              <div className={`font-semibold ${over > 0 ? 'text-cut-ink' : 'text-tape'}`}>
                <dt className="sr-only">Over/under</dt>
                <dd>{over === 0 ? 'on time' : `${over > 0 ? 'over' : 'under'} by ${clock(Math.abs(over))}`}</dd>
              </div>
            )}
            <FootFigure name="file" light>
              {clock(file.length)}
            </FootFigure>
          </dl>
          {chosen.all.length > 1 && (
            <span role="status" className="rounded-full bg-wash px-3 py-1 text-[13px] font-semibold" data-testid="chosen">
              {chosen.all.length} blocks chosen
            </span>
          )}
          <span className="flex-1" />
          <ViewMenu />
          <CommandButton id="page.send" look="strong">
            Send
          </CommandButton>
        </>
      }
    >
      <div className="grid shrink-0 grid-cols-[78px_140px_1fr_64px_136px] max-[860px]:grid-cols-[56px_1fr_56px_76px] border-b border-rule text-[12px] font-semibold text-faint">
        <span className="py-2 text-right">From</span>
        <span className="py-2 pl-5 max-[860px]:hidden">Block</span>
        <span className="py-2 pl-1 max-[860px]:pl-5">Script</span>
        <span className="py-2 pr-3 text-right">Length</span>
        <span className="grid grid-cols-2 border-l border-rule text-center">
          <span className="border-r border-rule py-2">Voice</span>
          <span className="py-2">Tape</span>
        </span>
      </div>
      <ContextMenu ids={HERE}>
        <div
          ref={content}
          className="relative min-h-0 flex-1 overflow-y-auto"
          data-testid="page"
          onScroll={(event) => page.ready && keptNow.set(`${owner}/top`, event.currentTarget.scrollTop)}
        >
          {spine.length === 0 && page.ready && (
            <Empty title="An empty page.">
              Begin with what the presenter reads <CommandKey id="page.addIntro" />, a line of copy <CommandKey id="page.addCopy" />, or an
              actuality <CommandKey id="page.addActuality" />.
            </Empty>
          )}
          <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
            <SortableContext items={spine.map((block) => block.id)} strategy={verticalListSortingStrategy}>
              {spine.map((block) => {
                const airRow = air.placed.find((row) => row.block.id === block.id)!
                const piece = block.piece ? known.get(block.piece) : undefined
                return (
                  <Row
                    key={block.id}
                    block={block}
                    row={airRow}
                    slot={head.slot}
                    chosen={chosen.is(block.id)}
                    inTheFile={file.placed.some((row) => row.block.id === block.id)}
                    onChoose={(event) => (event ? chosen.pressed(block.id, event) : chosen.is(block.id) || setChosen(block.id))}
                    menu={
                      <>
                        <MenuItem onSelect={() => playBlock(block)}>Play from here</MenuItem>
                        {block.kind === 'copy' && (
                          <MenuItem onSelect={() => void navigate(`/record?story=${id}&line=${block.id}`)}>Record …</MenuItem>
                        )}
                        {block.kind === 'copy' && (
                          <MenuItem onSelect={() => setPicking({ kind: 'track', block })}>
                            {piece ? 'Another voice track …' : 'Choose voice track …'}
                          </MenuItem>
                        )}
                        {block.kind === 'copy' && piece && (
                          <MenuItem onSelect={() => set(block, 'piece', null, 'take the voice track off')}>Remove the voice track</MenuItem>
                        )}
                        {piece && <MenuItem onSelect={() => void navigate(`/pieces/${block.piece}`)}>To the Bench</MenuItem>}
                        <MenuItem disabled={spine[0] === block} onSelect={() => move(spine.indexOf(block), spine.indexOf(block) - 1)}>
                          Move up <CommandKey id="page.up" />
                        </MenuItem>
                        <MenuItem disabled={spine.at(-1) === block} onSelect={() => move(spine.indexOf(block), spine.indexOf(block) + 1)}>
                          Move down <CommandKey id="page.down" />
                        </MenuItem>
                        <MenuItem onSelect={() => aside(block)}>
                          Set aside <CommandKey id="page.aside" />
                        </MenuItem>
                      </>
                    }
                    here={others.filter((one) => one.line === block.id).map((one) => one.name)}
                    who={
                      block.kind === 'intro' ? (
                        <span>live, not in the file</span>
                      ) : block.kind === 'copy' ? (
                        <>
                          <EditableText
                            label="Reader"
                            value={block.reader}
                            placeholder="reader"
                            onKeep={(value) => set(block, 'reader', value, 'reader')}
                          />
                          <Pace block={block} onKeep={(value) => set(block, 'pace', value, 'reading speed')} />
                          {!piece && <span className="block">no voice track</span>}
                        </>
                      ) : (
                        <>
                          <span>{piece ? [piece.speaker, piece.role].filter(Boolean).join(', ') || 'no speaker named' : 'no piece'}</span>
                          {piece && facts && <AudibleJoins piece={piece} factsOf={facts.factsOf} wordsOf={facts.wordsOf} />}
                        </>
                      )
                    }
                    bar={
                      piece && plans.has(block.piece) ? (
                        <Bar
                          plan={plans.get(block.piece)}
                          from={piece.head}
                          to={piece.head + wordsLength(piece)}
                          scale={2.2}
                          tone={block.kind === 'copy' ? 'ink' : 'tape'}
                        />
                      ) : null
                    }
                  >
                    {block.kind === 'actuality' ? (
                      <ActualityText piece={piece} wordsOf={facts?.wordsOf} id={block.piece} />
                    ) : (
                      <CopyText
                        value={block.text}
                        current={() => textIn(live, block.id, 'text')}
                        label={`${KINDS[block.kind]}, words`}
                        autoFocus={writing === block.id}
                        rehearsing={playing && mode === 'rehearse' && airRow?.sound !== 'piece'}
                        share={() => shareOf(layout, block.id, place())}
                        onWrite={(change) => writeIn(live, block.id, 'text', change)}
                      />
                    )}
                  </Row>
                )
              })}
            </SortableContext>
          </DndContext>
          <div
            ref={line}
            className="pointer-events-none absolute top-0 right-0 z-10 h-[2px] w-[136px] bg-cut opacity-0 max-[860px]:w-[76px]"
            data-testid="page-playhead"
          />
        </div>
      </ContextMenu>
      {picking && (
        <PiecePicker
          line={picking.kind === 'track' ? picking.block : null}
          story={id}
          rows={page.rows}
          onClose={() => setPicking(null)}
          onPick={(piece) => {
            if (picking.kind === 'actuality') add('actuality', { piece })
            else set(picking.block, 'piece', piece, 'choose a voice track')
            setPicking(null)
          }}
        />
      )}
      {measuring && plan && <PlanFiguresDialog plan={plan} selected={chosenStretch} noun="the page" onClose={() => setMeasuring(false)} />}
      {sending && (
        <SendDialog
          target={{ kind: 'story', id }}
          title={head.slug}
          unrecordedCopy={unrecordedCopy}
          onClose={() => {
            setSending(false)
            setUnrecorded((JSON.parse(localStorage.sending ?? '{}') as { unrecorded?: Unrecorded }).unrecorded ?? 'out')
          }}
        />
      )}
    </Shell>
  )
}

function Row({
  block,
  row,
  slot,
  chosen,
  inTheFile,
  onChoose,
  menu,
  here,
  who,
  bar,
  children,
}: {
  block: Block
  here: readonly string[]
  row: Placed | undefined
  slot: Frames
  chosen: boolean
  inTheFile: boolean
  onChoose: (event?: PointerEvent) => void
  menu: ReactNode
  who: ReactNode
  bar: ReactNode
  children: ReactNode
}) {
  const { setNodeRef, transform, transition, attributes, listeners, isDragging } = useSortable({ id: block.id })
  const words = row?.words ?? 0
  const at = row?.at ?? 0
  const slotHere = slot > 0 && slot >= at && slot < at + words
  const past = slot > 0 && at >= slot
  return (
    <section
      ref={setNodeRef}
      id={`block-${block.id}`}
      data-block={block.kind}
      aria-label={`${KINDS[block.kind]}, ${tradeLength(words)}`}
      aria-current={chosen || undefined}
      onPointerDown={onChoose}
      onFocus={() => onChoose()}
      style={{ transform: CSS.Translate.toString(transform), transition, minHeight: Math.round((words / RATE) * PIXELS) + 12 }}
      className={`group relative grid grid-cols-[78px_140px_1fr_64px_136px] max-[860px]:grid-cols-[56px_1fr_56px_76px] border-b border-rule ${chosen ? 'bg-paper-lit' : 'bg-paper'} ${isDragging ? 'z-20 shadow-lg' : ''}`}
    >
      {chosen && <span className="absolute top-0 bottom-0 left-0 w-[3px] bg-tape" />}
      <div className="flex justify-end py-2.5 text-right text-soft max-[860px]:flex-col-reverse max-[860px]:items-end max-[860px]:justify-end max-[860px]:gap-1">
        <button
          type="button"
          aria-label={`Move ${KINDS[block.kind]}`}
          className="mr-auto ml-2 max-[860px]:mr-0 cursor-grab self-start rounded p-1 text-faint opacity-0 group-hover:opacity-100 focus:opacity-100"
          {...attributes}
          {...listeners}
        >
          <GripVertical size={14} />
        </button>
        <span className={past ? 'text-cut-ink' : ''}>{clock(at)}</span>
      </div>
      <div className="min-w-0 py-2.5 pr-2 pl-5 text-[12.5px] text-soft max-[860px]:pb-0">
        <div className="mb-0.5 font-semibold text-ink">{KINDS[block.kind]}</div>
        {who}
        {here.length > 0 && (
          <span className="mt-1 block font-semibold text-tape" data-testid="here">
            {here.join(', ')} {here.length === 1 ? 'is' : 'are'} here
          </span>
        )}
      </div>
      <div className="min-w-0 py-2 pr-3 max-[860px]:col-start-2 max-[860px]:row-start-2 max-[860px]:pl-4">{children}</div>
      <div className="flex flex-col items-end gap-1 py-2.5 pr-3 max-[860px]:col-start-3 max-[860px]:row-start-1">
        <span className="font-semibold" data-testid="block-length">
          {tradeLength(words)}
        </span>
        <Menu
          label={`More for ${KINDS[block.kind]}`}
          trigger={
            <button
              type="button"
              className="rounded p-1 text-faint opacity-60 group-hover:opacity-100 hover:bg-paper-low focus:opacity-100"
            >
              <MoreHorizontal size={16} />
            </button>
          }
        >
          {menu}
        </Menu>
      </div>
      <div className="grid grid-cols-2 border-l border-rule max-[860px]:col-start-4 max-[860px]:row-span-2 max-[860px]:row-start-1">
        <div className="relative border-r border-rule">
          {block.kind === 'copy' && bar}
          {block.kind !== 'actuality' && !bar && (
            <div className={`absolute inset-x-5 inset-y-1.5 border border-dashed border-grain ${inTheFile ? 'bg-paper-low' : ''}`} />
          )}
        </div>
        <div className="relative">{block.kind === 'actuality' && bar}</div>
      </div>
      {slotHere && (
        // beside the script, not through it
        <div className="pointer-events-none absolute right-0 left-0 z-10" style={{ top: `${((slot - at) / Math.max(1, words)) * 100}%` }}>
          <span className="absolute left-0 w-[86px] border-t-2 border-cut max-[860px]:w-[60px]" />
          <span className="absolute right-0 w-[150px] border-t-2 border-cut max-[860px]:w-[84px]" />
          <span
            data-testid="slot-end"
            className="absolute right-2 -translate-y-full rounded-t bg-cut-ink px-1.5 text-[11px] font-semibold text-paper"
          >
            slot ends {clock(slot)}
          </span>
        </div>
      )}
    </section>
  )
}

function Pace({ block, onKeep }: { block: Block; onKeep: (pace: number) => void }) {
  return (
    <label className="flex items-center gap-1 text-faint" title="Reading speed, words a minute">
      <input
        aria-label="Reading speed, words a minute"
        type="number"
        min={60}
        max={400}
        step={5}
        defaultValue={block.pace}
        key={block.pace}
        className="min-h-6 w-[42px] appearance-none rounded border border-transparent bg-transparent px-1 -mx-1 [-moz-appearance:textfield] hover:border-rule focus:border-tape focus:outline-none [&::-webkit-inner-spin-button]:appearance-none"
        onBlur={(event) => {
          const pace = Number(event.target.value)
          if (pace >= 60 && pace <= 400 && pace !== block.pace) onKeep(pace)
        }}
      />
      words/min
    </label>
  )
}

function ActualityText({
  piece,
  wordsOf,
  id,
}: {
  piece: ReturnType<typeof usePage>['rows'][number]['body'] | undefined
  wordsOf?: (tape: string) => readonly Word[]
  id: string | null
}) {
  if (!piece) return <p className="px-1 py-1 text-faint">The piece is missing.</p>
  const text = wordsOf ? pieceWords(piece.spans, wordsOf, piece.sides) : []
  const lead = inCue(text)
  const end = outCue(text, 3)
  const middle = text
    .slice(4, -3)
    .map((word) => word.text)
    .join(' ')
  return (
    <Link to={`/pieces/${id}`} className="block px-1 font-serif text-[17px] leading-[1.42] text-tape hover:underline">
      {text.length > 7 ? (
        <>
          <strong>{lead}</strong> {shortened(middle, 150)} <strong>{end}</strong>
        </>
      ) : text.length ? (
        <strong>{text.map((word) => word.text).join(' ')}</strong>
      ) : (
        <em>{piece.slug}</em>
      )}
    </Link>
  )
}

/** As many whole words as go into so many letters. */
const shortened = (text: string, letters: number): string =>
  text.length <= letters ? text : `${text.slice(0, text.lastIndexOf(' ', letters - 20))} …`

function AirTime({ airs, onKeep }: { airs: string; onKeep: (airs: string) => void }) {
  const [editing, setEditing] = useState(false)
  const until = untilAir(airs, useNow())
  return (
    <>
      <button
        type="button"
        className="shrink-0 rounded px-1 text-[13px] text-soft hover:text-ink hover:underline"
        onClick={() => setEditing(true)}
      >
        {airs ? `Airs ${airTime(airs)}${until ? `, ${until}` : ''}` : 'Set the air time'}
      </button>
      {editing && (
        <Dialog open title="Air time" onClose={() => setEditing(false)}>
          <AirTimeForm
            airs={airs}
            onKeep={(now) => {
              onKeep(now)
              setEditing(false)
            }}
          />
        </Dialog>
      )}
    </>
  )
}

function AirTimeForm({ airs, onKeep }: { airs: string; onKeep: (airs: string) => void }) {
  const [typed, setTyped] = useState({ day: airDay(airs), time: airClock(airs) })
  const [wrong, setWrong] = useState('')
  const set = () => {
    const air = typedAirTime(typed)
    if ('wrong' in air) setWrong(air.wrong)
    else onKeep(air.airs)
  }
  return (
    <form
      className="flex flex-col gap-4"
      onSubmit={(event) => {
        event.preventDefault()
        set()
      }}
    >
      <AirFields airs={airs} wrong={wrong} onChange={setTyped} />
      <div className="flex justify-end">
        <Button type="submit" look="strong">
          Set
        </Button>
      </div>
    </form>
  )
}

function SlotField({ value, onKeep }: { value: Frames; onKeep: (slot: Frames) => void }) {
  return (
    <FigureInput
      label="Slot"
      value={clock(value)}
      read={parseLength}
      noun="length"
      hint="3:30 or 210"
      className="w-[62px] border-transparent bg-transparent px-1 text-[16px] font-semibold hover:border-rule"
      onKeep={(slot) => {
        if (slot !== value) onKeep(slot)
      }}
    />
  )
}

function FootFigure({ name, children, light }: { name: string; children: ReactNode; light?: boolean }) {
  return (
    <div className="flex items-baseline gap-1.5">
      <dt className="text-faint">{name}</dt>
      <dd className={light ? 'text-ink' : 'text-[16px] font-semibold'}>{children}</dd>
    </div>
  )
}
