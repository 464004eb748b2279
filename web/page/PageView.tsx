import { closestCenter, DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core'
import { SortableContext, sortableKeyboardCoordinates, verticalListSortingStrategy } from '@dnd-kit/sortable'
import { useEffect, useRef, useState, type CSSProperties } from 'react'
import { Link, useNavigate, useParams, useSearchParams } from 'react-router'
import type { TapeInfo } from '../../contract/tapes'
import type { PlacedHanger } from '../../core/page/lay'
import { BLOCK_KINDS, isRecorded, type Block, type StoryDocument, type StoryStep } from '../../core/page/story'
import { clock, RATE } from '../../core/time'
import { useTapes } from '../api/queries'
import { ContextMenu } from '../commands/CommandMenu'
import { useCommands } from '../commands/commands'
import { keep } from '../documents/lastStory'
import type { LiveDocument } from '../documents/liveDocument'
import { useDocument } from '../documents/useDocument'
import { useFollowedUndo } from '../documents/useUndo'
import { PlanFiguresDialog } from '../levels/PlanFiguresDialog'
import { SendDialog } from '../send/SendDialog'
import { player } from '../sound/player'
import { EditableText } from '../ui/EditableText'
import { Empty } from '../ui/parts'
import { Crumb, Shell } from '../shell/Shell'
import { useKept } from '../ui/useKept'
import { Others } from '../present/Others'
import { useOthers, usePresence } from '../present/present'
import { NearRow } from './NearRow'
import { PiecePicker } from './PiecePicker'
import { useChosen } from '../ui/useChosen'
import { usePage, type Mode } from './laid/usePage'
import { AirTime } from './AirTime'
import { BlockRow } from './BlockRow'
import { PageFoot } from './PageFoot'
import { OutputMenu } from './OutputMenu'
import { PagePlayhead } from './PagePlayhead'
import { PageSide } from './PageSide'
import { FitPanel } from './fit/FitPanel'
import { useFit } from './fit/useFit'
import { HangerPanel } from './lanes/HangerPanel'
import { LANE, LaneBars } from './lanes/LaneBars'
import { LaneHead } from './lanes/LaneHead'
import { LayUnderDialog } from './lanes/LayUnderDialog'
import { useHangers } from './lanes/useHangers'
import { useHeights } from './lanes/useHeights'
import { usePageMix } from './mix/usePageMix'
import { useBelow } from './mix/useBelow'
import { useBlockActs } from './useBlockActs'
import { useRecording } from '../voicing/useRecording'
import { VoicingOnPage } from '../voicing/VoicingOnPage'
import { useKeptTop } from './useKeptTop'
import { useScript } from './useScript'
import { usePagePlaying } from './usePagePlaying'
import { CommandKey } from '../commands/CommandButton'

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

const NO_TAPES: readonly TapeInfo[] = []
/** The columns of voices and of tape, in pixels. */
const BARS = 136
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
  'page.addFull',
  'page.addTag',
  'page.addSoc',
  'edit.undo',
  'edit.redo',
] as const

function OpenPage({ id, live, body }: { id: string; live: LiveDocument<'story'>; body: StoryDocument }) {
  const navigate = useNavigate()
  const owner = `page/${id}`
  const [mode, setMode] = useKept<Mode>(`${owner}/mode`, 'rehearse')
  const [writing, setWriting] = useState<string | null>(null)
  const [picking, setPicking] = useState<{ kind: 'actuality' | 'full' } | { kind: 'track'; block: Block } | null>(null)
  const [sending, setSending] = useState(false)
  const [measuring, setMeasuring] = useState(false)
  const [laying, setLaying] = useState(false)
  const [params, setParams] = useSearchParams()
  const page = usePage(id, body, mode, params.get('output'))
  const showOutput = (wanted: string) => setParams({ output: wanted }, { replace: true })
  const others = useOthers(id)
  const { head, output, spine, known, air, file, layout, plan, plans, facts } = page
  const chosen = useChosen(owner, spine)
  const setChosen = chosen.choose
  usePresence(id, chosen.active?.id ?? null)
  const { playing, place, playFrom, playBlock, changeMode, rehearse, jump } = usePagePlaying(owner, page, mode, setMode)
  const acts = useBlockActs({ live, body, output: page.isFirst ? null : output.id, spine, chosen, onWrite: setWriting })
  const { move, set } = acts
  const script = useScript(live, spine, (block) => {
    setChosen(block)
    setWriting(block)
  })

  const act = (steps: StoryStep[], label: string) => live.act(steps, { label })
  useFollowedUndo(live)
  const setOf = (record: string) => (key: string, label: string) => (value: unknown) =>
    act([{ type: 'set', id: record, key, value }], label)
  const setHead = setOf('story')
  const setOutput = setOf(output.id)

  // blocks
  const rows = layout.placed.filter((row) => chosen.is(row.block.id) && row.to > row.from)
  /** Where what is chosen lies in what plays; null where nothing is, or nothing of it plays. */
  const chosenStretch = rows.length ? { from: Math.max(0, rows[0].at), to: rows[rows.length - 1].at + rows[rows.length - 1].words } : null
  const index = chosen.active ? spine.indexOf(chosen.active) : -1
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

  const writeOrOpen = () => {
    const block = chosen.active
    if (block && !BLOCK_KINDS[block.kind].written) void (block.piece && navigate(`/pieces/${block.piece}`))
    else if (block) (globalThis.document.querySelector(`#block-${block.id} textarea`) as HTMLTextAreaElement | null)?.focus()
  }

  const { voices, mix, commands: mixing } = usePageMix(page, act)
  const recording = useRecording(id, spine, chosen.active, (piece) => known.has(piece))
  const fit = useFit({ owner, live, body, page })
  const hangers = useHangers({ owner, live, body, page, place, chosen: chosen.all, voices })
  const below = useBelow(hangers.chosen, voices.middle, facts?.factsOf)
  const tapes = useTapes().data ?? NO_TAPES
  const nameOf = ({ hanger: { plays } }: PlacedHanger): string =>
    'tape' in plays
      ? (tapes.find(({ id }) => id === plays.tape)?.name ?? 'A tape that is missing')
      : (known.get(plays.piece)?.slug ?? 'A piece')
  useCommands({
    'play.toggle': () => (playing ? player.stop() : playFrom(place())),
    'page.rehearse': {
      unable: spine.length ? null : 'The page is empty.',
      run: () => spine.length && rehearse(spine[Math.max(0, index)].id),
    },
    'play.back': () => jump(place() - 2 * RATE),
    'play.forward': () => jump(place() + 2 * RATE),
    'play.start': () => jump(0),
    'play.end': () => jump(layout.length),
    'page.previous': () => step(-1),
    'page.next': () => step(1),
    'page.up': {
      run: () => chosen.all.length && acts.moveChosen(-1),
      title: `Move ${the} up`,
      unable: index < 0 ? CHOOSE : chosen.is(spine[0].id) && chosen.all.length === 1 ? 'It is the first block.' : null,
    },
    'page.down': {
      run: () => chosen.all.length && acts.moveChosen(1),
      title: `Move ${the} down`,
      unable: index < 0 ? CHOOSE : chosen.is(spine[spine.length - 1].id) && chosen.all.length === 1 ? 'It is the last block.' : null,
    },
    'page.extendUp': () => extend(-1),
    'page.extendDown': () => extend(1),
    'page.write': { unable: index < 0 ? CHOOSE : null, run: writeOrOpen },
    'page.aside': {
      run: () => chosen.all.length && acts.asideChosen(),
      title: page.isFirst ? (chosen.all.length > 1 ? `Set ${the} aside` : 'Set aside') : `Leave ${the} out of this output`,
      unable: index < 0 ? CHOOSE : null,
    },
    'page.addCopy': () => acts.add('copy'),
    'page.addIntro': () => acts.add('intro'),
    'page.addActuality': () => setPicking({ kind: 'actuality' }),
    'page.addFull': () => setPicking({ kind: 'full' }),
    'page.addTag': () => acts.add('tag'),
    'page.addSoc': () => acts.add('soc'),
    'page.send': () => setSending(true),
    'view.figures': { run: () => setMeasuring(true), unable: plan?.length ? null : 'There is nothing to measure.' },
    'select.clear': () => setChosen(null),
    'go.up': () => void navigate('/'),
    'page.layUnder': {
      run: () => setLaying(true),
      title: chosen.all.length ? `Lay sound under ${the}` : 'Lay sound under from the playhead',
      unable: spine.length ? null : 'The page is empty.',
    },
    ...mixing,
    ...recording.commands,
    ...hangers.commands,
    ...fit.commands,
  })

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

  const unrecordedCopy = spine.filter((block) => isRecorded(block) && !(block.piece && known.has(block.piece))).length
  const content = useRef<HTMLDivElement>(null)
  const heights = useHeights(content, layout)
  const bars = { '--bars': `${BARS + hangers.lanes.length * LANE}px` } as CSSProperties
  const keepTop = useKeptTop(content, owner, page.ready)

  const { chosen: one } = hangers
  const hangerPanel = one && (
    <HangerPanel
      one={one}
      hangers={hangers}
      name={nameOf(one)}
      tape={'tape' in one.hanger.plays ? one.hanger.plays.tape : null}
      spine={spine}
      below={below}
    />
  )
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
          <OutputMenu page={page} body={body} act={act} onShow={showOutput} />
          <AirTime airs={output.airs} onKeep={setOutput('airs', 'air time')} />
          <Others document={id} />
        </>
      }
      aside={
        fit.open ? (
          <FitPanel fit={fit} page={page} />
        ) : (
          <PageSide
            hanger={hangerPanel}
            id={id}
            page={page}
            onAdd={acts.addPieces}
            onPutBack={acts.putBack}
            onTakeIn={acts.takeIn}
            onTerms={setHead('terms', 'names and terms')}
          />
        )
      }
      foot={
        <PageFoot
          playing={playing}
          place={place}
          mode={mode}
          changeMode={changeMode}
          air={air}
          file={file}
          slot={output.slot}
          onSlot={setOutput('slot', 'slot')}
          chosen={chosen.all.length}
          mix={mix}
          solo={hangers.lanes.find(({ id: lane }) => lane === page.solo)?.name ?? null}
        />
      }
    >
      <VoicingOnPage story={id} recording={recording} own={facts?.tapes.map(({ id: tape }) => tape) ?? []} />
      <div
        style={bars}
        className={`grid shrink-0 grid-cols-[78px_140px_1fr_64px_var(--bars)] max-[860px]:grid-cols-[56px_1fr_56px_76px] border-b
        border-rule text-[12px] font-semibold text-faint`}
      >
        <span className="py-2 text-right">From</span>
        <span className="py-2 pl-5 max-[860px]:hidden">Block</span>
        <span className="py-2 pl-1 max-[860px]:pl-5">Script</span>
        <span className="py-2 pr-3 text-right">Length</span>
        <span className="flex border-l border-rule text-center">
          <span className="flex-1 border-r border-rule py-2">Voice</span>
          <span className="flex-1 py-2">Tape</span>
          {hangers.lanes.map((lane) => (
            <span key={lane.id} className="shrink-0 max-[860px]:hidden" style={{ width: LANE }}>
              <LaneHead lane={lane} hangers={hangers} solo={page.solo} onSolo={page.setSolo} />
            </span>
          ))}
        </span>
      </div>
      <ContextMenu ids={HERE}>
        <div ref={content} style={bars} className="relative min-h-0 flex-1 overflow-y-auto" data-testid="page" onScroll={keepTop}>
          {spine.length === 0 && page.ready && (
            <Empty title="An empty page.">
              Begin with what the presenter reads <CommandKey id="page.addIntro" />, a line of copy <CommandKey id="page.addCopy" />, or an
              actuality <CommandKey id="page.addActuality" />.
            </Empty>
          )}
          <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
            <SortableContext items={spine.map((block) => block.id)} strategy={verticalListSortingStrategy}>
              {spine.map((block) => {
                const piece = block.piece ? known.get(block.piece) : undefined
                return (
                  <NearRow key={block.id} block={block} count={spine.length} always={chosen.is(block.id) || writing === block.id}>
                    {() => (
                      <BlockRow
                        story={id}
                        live={live}
                        block={block}
                        piece={piece}
                        plan={block.piece ? plans.get(block.piece) : undefined}
                        page={page}
                        chosen={chosen}
                        acts={acts}
                        script={script}
                        voices={voices}
                        writing={writing === block.id}
                        rehearsing={playing && mode === 'rehearse'}
                        place={place}
                        here={others.filter((one) => one.line === block.id).map((one) => one.name)}
                        onPlay={() => {
                          setChosen(block.id)
                          playBlock(block)
                        }}
                        onPickTrack={() => setPicking({ kind: 'track', block })}
                      />
                    )}
                  </NearRow>
                )
              })}
            </SortableContext>
          </DndContext>
          {hangers.lanes.length > 0 && <LaneBars hangers={hangers} heights={heights} lanes={hangers.lanes} nameOf={nameOf} onPlay={jump} />}
          <PagePlayhead layout={layout} place={place} playing={playing} />
        </div>
      </ContextMenu>
      {picking && (
        <PiecePicker
          line={picking.kind === 'track' ? picking.block : null}
          story={id}
          rows={page.rows}
          onClose={() => setPicking(null)}
          onPick={(piece) => {
            if (picking.kind !== 'track') acts.add(picking.kind, { piece })
            else set(picking.block, 'piece', piece, 'choose a voice track')
            setPicking(null)
          }}
        />
      )}
      {laying && (
        <LayUnderDialog
          own={facts?.tapes.map((tape) => tape.id) ?? []}
          where={chosen.all.length ? `Under ${the}.` : `From ${clock(place())} on.`}
          onClose={() => setLaying(false)}
          onPick={(tape, under) => {
            setLaying(false)
            hangers.lay(tape, under)
          }}
        />
      )}
      {measuring && plan && <PlanFiguresDialog plan={plan} selected={chosenStretch} noun="the page" onClose={() => setMeasuring(false)} />}
      {sending && (
        <SendDialog
          target={{ kind: 'story', id, output: output.id }}
          title={head.slug}
          unrecorded={{ copy: unrecordedCopy, value: output.unrecorded, onChange: setOutput('unrecorded', 'copy without a voice track') }}
          onClose={() => setSending(false)}
        />
      )}
    </Shell>
  )
}
