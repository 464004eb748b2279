import { useEffect, useRef, useState, type CSSProperties } from 'react'
import { Link, useParams, useSearchParams } from 'react-router'
import type { TapeInfo } from '../../contract/tapes'
import { hangersOf, isRecorded, type Hanger, type StoryDocument, type StoryStep } from '../../core/page/story'
import type { Layout } from '../../core/page/timing'
import { clock, type Stretch } from '../../core/time'
import { useTapes } from '../api/queries'
import { CommandKey } from '../commands/CommandButton'
import { useCommands } from '../commands/commands'
import { oneList } from '../commands/oneList'
import { keep } from '../documents/lastStory'
import type { LiveDocument } from '../documents/liveDocument'
import { useDocument } from '../documents/useDocument'
import { useFollowedUndo } from '../documents/useUndo'
import { MarkList } from '../marks/MarkList'
import { Others } from '../present/Others'
import { useOthers, usePresence } from '../present/present'
import { Crumb, Shell } from '../shell/Shell'
import { likely } from '../story/layUnder'
import { EditableText } from '../ui/EditableText'
import { Empty } from '../ui/parts'
import { useChosen } from '../ui/useChosen'
import { useKept } from '../ui/useKept'
import { useRecording } from '../voicing/useRecording'
import { VoicingOnPage } from '../voicing/VoicingOnPage'
import { AirTime } from './AirTime'
import { CountdownPanel } from './CountdownPanel'
import { EarPanel } from './ear/EarPanel'
import { useByEar } from './ear/useByEar'
import { useEnds } from './ends/useEnds'
import { FitPanel } from './fit/FitPanel'
import { useFit } from './fit/useFit'
import { usePage, type Mode } from './laid/usePage'
import { HangerPanel } from './lanes/HangerPanel'
import { hangerCommands } from './lanes/hangerCommands'
import { LaneBars } from './lanes/LaneBars'
import { useHangers } from './lanes/useHangers'
import { useLaneWidth } from './lanes/useLaneWidth'
import { useBelow } from './mix/useBelow'
import { MixFigures } from './mix/MixFigures'
import { useLevelling } from './mix/useLevelling'
import { OutputMenu } from './OutputMenu'
import { PageColumns } from './PageColumns'
import { PageDialogs, type PageDialog } from './PageDialogs'
import { PageFoot } from './PageFoot'
import { PagePlayhead } from './PagePlayhead'
import { PageScroll } from './PageScroll'
import { PageSide } from './PageSide'
import { PageRows } from './rows/PageRows'
import { useRowDrop } from './rows/useRowDrop'
import { SeamPanel } from './seam/SeamPanel'
import { useBlockActs } from './useBlockActs'
import { useComingToBlock } from './useComingToBlock'
import { useKeptTop } from './useKeptTop'
import { usePageCommands } from './usePageCommands'
import { usePageMarks } from './usePageMarks'
import { usePagePlaying } from './usePagePlaying'
import { useScript } from './useScript'

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
function OpenPage({ id, live, body }: { id: string; live: LiveDocument<'story'>; body: StoryDocument }) {
  const owner = `page/${id}`
  const [mode, setMode] = useKept<Mode>(`${owner}/mode`, 'rehearse')
  const [backtimes, showBacktimes] = useKept(`${owner}/backtimes`, false)
  const [counting, showCountdown] = useKept(`${owner}/countdown`, false)
  const [closeUp, showCloseUp] = useKept(`${owner}/seam`, false)
  const [writing, setWriting] = useState<string | null>(null)
  const [dialog, ask] = useState<PageDialog | null>(null)
  const [params, setParams] = useSearchParams()
  const page = usePage(id, body, mode, params.get('output'))
  const others = useOthers(id)
  const { head, output, spine, known, air, file, layout, facts } = page
  const chosen = useChosen(owner, spine)
  usePresence(id, chosen.active?.id ?? null)
  const playback = usePagePlaying(owner, page, mode, setMode)
  const { playing, place, jump } = playback
  const acts = useBlockActs({ live, body, output: page.isFirst ? null : output.id, spine, chosen, onWrite: setWriting })
  const script = useScript({
    live,
    spine,
    pieceOf: (piece) => known.get(piece),
    wordsOf: facts?.wordsOf ?? null,
    onWrite: (block) => {
      chosen.choose(block)
      setWriting(block)
    },
  })
  const act = (steps: StoryStep[], label: string) => live.act(steps, { label })
  const ends = useEnds(chosen.active, facts)
  useFollowedUndo(live, ...ends.lives)
  useComingToBlock(chosen.choose)
  const setOf = (record: string) => (key: string, label: string) => (value: unknown) =>
    act([{ type: 'set', id: record, key, value }], label)
  const setHead = setOf('story')
  const setOutput = setOf(output.id)

  const { voices, commands: levelling } = useLevelling(page, act)
  const recording = useRecording(id, spine, chosen.active, (piece) => known.has(piece))
  const fit = useFit({ owner, live, body, page })
  const tapes = useTapes().data ?? NO_TAPES
  const hangers = useHangers({ owner, live, body, page, place, chosen: chosen.all, voices, tapes })
  const [copied, keepCopied] = useKept<{ sound: string } | { blocks: readonly string[] }>(`${owner}/copied`, { blocks: [] })
  const sound = 'sound' in copied && hangers.placed.find(({ hanger }) => hanger.id === copied.sound)
  const below = useBelow(hangers.chosen, voices.middle, facts?.factsOf)
  const nameOf = ({ plays }: Pick<Hanger, 'plays'>): string =>
    'tape' in plays
      ? (tapes.find(({ id }) => id === plays.tape)?.name ?? 'A tape that is missing')
      : (known.get(plays.piece)?.slug ?? 'A piece')
  const ear = useByEar({ owner, story: id, page, putNext: (piece) => acts.addPieces([piece]) })
  const marks = usePageMarks({ page, playing, place, jump, act })
  const commands = usePageCommands({
    page,
    chosen,
    acts,
    playback,
    ask,
    backtimes: { shown: backtimes, show: showBacktimes },
    countdown: { shown: counting, show: showCountdown },
    splitPieceAt: script.splitPieceAt,
    seam: { shown: closeUp, show: showCloseUp },
    clipboard: {
      blocks: 'blocks' in copied ? copied.blocks : [],
      copy: (blocks) => keepCopied({ blocks }),
      pasteSound: sound ? () => hangers.copyTo(sound, place()) : null,
    },
  })
  const inLanes = hangerCommands(hangers, {
    place,
    jump,
    askForTape: () => ask({ ask: 'exchange' }),
    copy: (hanger) => keepCopied({ sound: hanger }),
  })
  useCommands({
    ...oneList(commands, levelling, recording.commands, inLanes.commands, fit.commands, ends.commands, ear.commands, marks.commands),
    // what is chosen in the lanes, or open beside the page, takes keys over for as long as it is
    ...inLanes.instead,
    ...fit.instead,
    ...ear.instead,
  })

  const content = useRef<HTMLDivElement>(null)
  const laneWidth = useLaneWidth(content, hangers.lanes.length)
  const bars = { '--bars': `${BARS + hangers.lanes.length * laneWidth}px` } as CSSProperties
  const keepTop = useKeptTop(content, owner, page.ready)
  /** From the first to the last of the blocks that are chosen; null where none of them sounds. */
  const stretchOf = ({ placed }: Layout): Stretch | null => {
    const rows = placed.filter((row) => chosen.is(row.block.id) && row.to > row.from)
    const last = rows.at(-1)
    return last ? { from: Math.max(0, rows[0].at), to: last.at + last.words } : null
  }
  /** The chosen block and the one above it, where both are in what plays. */
  const seamOf = () => {
    const at = layout.placed.findIndex(({ block }) => block.id === chosen.active?.id)
    return { row: layout.placed[at] ?? null, before: layout.placed[at - 1] ?? null }
  }
  const rowDrop = useRowDrop({
    spine,
    addBelow: (piece, block) => acts.addPieces([piece], block),
    layFrom: (tape, block) => {
      const known = tapes.find(({ id }) => id === tape)
      const row = layout.placed.find((one) => one.block === block)
      if (known) hangers.lay(known, likely(known.name), undefined, { at: row?.at ?? place() })
    },
  })
  const count = chosen.all.length
  const under = count > 1 ? `Under ${count} blocks.` : count ? 'Under the block.' : `From ${clock(place())} on.`
  const unrecorded = spine.filter((block) => isRecorded(block) && !(block.piece && known.has(block.piece))).length

  const { chosen: one } = hangers
  const hangerPanel = one && (
    <HangerPanel
      one={one}
      hangers={hangers}
      name={nameOf(one.hanger)}
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
          <OutputMenu page={page} body={body} act={act} onShow={(wanted) => setParams({ output: wanted }, { replace: true })} />
          <AirTime output={output} act={act} />
          <Others document={id} />
        </>
      }
      aside={
        fit.open ? (
          <FitPanel fit={fit} page={page} />
        ) : ear.open ? (
          <EarPanel ear={ear} />
        ) : closeUp ? (
          <SeamPanel {...seamOf()} plans={page.plans} playing={playing} place={place} onClose={() => showCloseUp(false)} />
        ) : counting ? (
          <CountdownPanel page={page} playing={playing} place={place} onClose={() => showCountdown(false)} />
        ) : (
          <PageSide
            hanger={hangerPanel}
            marks={<MarkList {...marks.list} />}
            marked={marks.list.marks.length > 0}
            id={id}
            page={page}
            onAdd={acts.addPieces}
            onPutBack={acts.putBack}
            soundsAside={hangersOf(body).flatMap((hanger) => (hanger.aside ? { hanger, name: nameOf(hanger) } : []))}
            onPutBackSound={(hanger) => {
              hangers.set(hanger, 'aside', false, 'put back')
              hangers.choose(hanger.id)
            }}
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
          changeMode={playback.changeMode}
          air={air}
          file={file}
          slot={output.slot}
          onSlot={setOutput('slot', 'slot')}
          chosen={chosen.all.length}
          mix={<MixFigures plan={page.filePlan} output={output} act={(steps, options) => live.act(steps, options)} narrow={count > 1} />}
          solo={hangers.lanes.find(({ id: lane }) => lane === page.solo)?.name ?? null}
        />
      }
    >
      <VoicingOnPage story={id} recording={recording} own={facts?.tapes.map(({ id: tape }) => tape) ?? []} />
      <PageColumns page={page} hangers={hangers} backtimes={backtimes} laneWidth={laneWidth} style={bars} playing={playing} place={place} />
      <PageScroll
        owner={owner}
        content={content}
        length={layout.length}
        bars={bars}
        drop={rowDrop}
        onScroll={keepTop}
        beside={(second) => (
          <>
            {hangers.lanes.length > 0 && (
              <LaneBars
                content={content}
                layout={layout}
                hangers={hangers}
                second={second}
                width={laneWidth}
                nameOf={nameOf}
                story={id}
                slugOf={(piece) => known.get(piece)?.slug ?? ''}
                onPlay={(frame) => playback.playFrom(frame)}
              />
            )}
            <PagePlayhead layout={layout} place={place} playing={playing} />
          </>
        )}
      >
        {spine.length === 0 && page.ready && (
          <Empty title="An empty page.">
            Begin with what the presenter reads <CommandKey id="page.addIntro" />, a line of copy <CommandKey id="page.addCopy" />, or an
            actuality <CommandKey id="page.addActuality" />.
          </Empty>
        )}
        <PageRows
          story={id}
          live={live}
          page={page}
          chosen={chosen}
          voices={voices}
          others={others}
          writing={writing}
          rehearsing={playing && mode === 'rehearse'}
          place={place}
          backtimes={backtimes}
          move={acts.move}
          on={{
            set: acts.set,
            aside: acts.aside,
            play: (block) => {
              chosen.choose(block.id)
              playback.playBlock(block)
            },
            playWithin: playback.playWithin,
            pickTrack: (block) => ask({ ask: 'track', block }),
            breakAt: script.breakAt,
            joinUp: script.joinUp,
            pasteOver: script.pasteOver,
            asOnPage: acts.asOnPage,
            levelLikeThis: (block) => {
              const steps = voices.likeThis(block)
              if (steps.length) act(steps, 'level of a speaker')
            },
            nudge: (block, by) => void acts.nudge(by, block),
            ownLine: acts.ownLine,
            drawEnd: ends.drawTo,
          }}
        />
      </PageScroll>
      <PageDialogs
        story={id}
        page={page}
        dialog={dialog}
        onClose={() => ask(null)}
        where={under}
        chosenStretch={stretchOf(layout)}
        chosenInFile={count > 1 ? stretchOf(file) : null}
        unrecorded={{ copy: unrecorded, value: output.unrecorded, onChange: setOutput('unrecorded', 'copy without a voice track') }}
        onAdd={(kind, piece) => acts.add(kind, { piece })}
        onTrack={(block, piece) => acts.set(block, 'piece', piece, 'choose a voice track')}
        onUnder={hangers.lay}
        onUnderPiece={({ id: piece, body: { slug } }) => hangers.layPiece(piece, slug, {})}
        onExchange={(tape) => one && void hangers.exchange(one, tape)}
      />
    </Shell>
  )
}
