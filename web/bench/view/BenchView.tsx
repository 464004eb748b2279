import { useCallback, useDeferredValue, useEffect, useMemo, useState } from 'react'
import { Link, useNavigate, useParams, useSearchParams } from 'react-router'
import { toast } from 'sonner'
import { clipLength, type Actuality, type ActualityStep } from '../../../core/edits/actuality'
import { bringBack } from '../../../core/edits/bringBack'
import { type Nick } from '../../../core/edits/gone'
import { benchLayout, nicksIn, toBench, toPiece } from '../../../core/edits/benchLayout'
import { fromTape, tapesOf, toTape } from '../../../core/edits/editList'
import { muted } from '../../../core/edits/mute'
import { offcutsOf } from '../../../core/edits/offcuts'
import { patches } from '../../../core/edits/patch'
import { editNow } from '../../../core/edits/sameEdit'
import { versionsOf } from '../../../core/edits/versions'
import { piecePlan } from '../../../core/page/plan'
import { othersOf, withSides } from '../../../core/render/plan'
import { toFrames, type Frames, type Stretch } from '../../../core/time'
import { keysInWords } from '../../commands/keys'
import { useFacts } from '../../api/queries'
import { ContextMenu } from '../../commands/CommandMenu'
import { useActingOn, useCommands } from '../../commands/commands'
import { SPOKEN } from '../../../core/tape/tape'
import type { LiveDocument } from '../../documents/liveDocument'
import { useDocument } from '../../documents/useDocument'
import { useFollowedUndo } from '../../documents/useUndo'
import { putOnPage } from '../../story/putOnPage'
import { StoryFigures, useStoryName } from '../../story/StoryFigures'
import { Others } from '../../present/Others'
import { usePresence } from '../../present/present'
import { PlanFiguresDialog } from '../../levels/PlanFiguresDialog'
import { useLevels } from '../../levels/useLevels'
import { SendDialog } from '../../send/SendDialog'
import { Sheet } from '../../sheet/Sheet'
import { useSheet } from '../../sheet/useSheet'
import { nearZero } from '../../sound/samples'
import { useScale } from '../../sound/useScale'
import { Wave } from '../../sound/wave'
import { WriteOutDialog } from '../../transcript/WriteOutDialog'
import { EditableText } from '../../ui/EditableText'
import { Empty } from '../../ui/parts'
import { Crumb, Shell } from '../../shell/Shell'
import { AtJoin } from '../joins/AtJoin'
import type { Bench } from '../bench'
import { BenchFoot } from './BenchFoot'
import { benchLines, benchNicks, benchPlan, benchShades, benchWords, joinRows, originalPlan } from '../benchSheet'
import { BenchSide } from './BenchSide'
import { MarkList } from '../marks/MarkList'
import { useTapeMarks } from '../marks/useTapeMarks'
import { CopyBeside } from '../order/CopyBeside'
import { JoinOnDialog } from '../order/JoinOnDialog'
import { PatchPanel } from '../patches/PatchPanel'
import { pieceBeside } from '../pieceBeside'
import { useBefore } from '../versions/useBefore'
import { useChosenJoin } from '../joins/useChosenJoin'
import { useCutActs } from '../cuts/useCutActs'
import { useEditsHeard } from '../cuts/useEditsHeard'
import { useFadeActs } from '../cuts/useFadeActs'
import { useGapActs } from '../cuts/useGapActs'
import { useHandleActs } from '../cuts/useHandleActs'
import { useJoinActs } from '../joins/useJoinActs'
import { useJoinsHeard } from '../joins/useJoinsHeard'
import { useJudged } from '../../joins/useJudged'
import { useLineOnTape } from '../levels/useLineOnTape'
import { useOpenNicks } from '../useOpenNicks'
import { useOrderActs } from '../order/useOrderActs'
import { usePatchActs } from '../patches/usePatchActs'
import { usePlacesNow } from '../usePlacesNow'
import { useTakingOff } from '../cuts/useTakingOff'
import { useVersions } from '../versions/useVersions'
import { useAlone, useVoices } from '../levels/useVoices'
import { oneAtATime } from '../../commands/oneAtATime'

export function BenchView() {
  const { id = '' } = useParams()
  const document = useDocument(id, 'actuality')
  const body = document && 'body' in document ? document.body : null
  const tapes = useMemo(
    () => (body ? tapesOf([body.spans, ...[...versionsOf(body), ...offcutsOf(body)].map(({ spans }) => spans)].flat()) : []),
    [body],
  )
  const facts = useFacts(tapes)
  if (document && 'error' in document)
    return (
      <Shell path={<Crumb>No piece here</Crumb>}>
        <Empty title="Piece not found">
          It may have been deleted, or the address is wrong. Your stories are on the{' '}
          <Link className="underline" to="/">
            Desk
          </Link>
          .
        </Empty>
      </Shell>
    )
  if (!document || !facts) return <Shell path={<Crumb>Opening …</Crumb>}>{null}</Shell>
  return <OpenBench key={id} id={id} live={document.live} piece={document.body} facts={facts} />
}

function OpenBench({
  id,
  live,
  piece,
  facts,
}: {
  id: string
  live: LiveDocument<'actuality'>
  piece: Actuality
  facts: NonNullable<ReturnType<typeof useFacts>>
}) {
  const navigate = useNavigate()
  const [params] = useSearchParams()
  const owner = `piece/${id}`
  const { wordsOf } = facts
  const { sides } = piece
  const factsOf = useMemo(() => withSides(facts.factsOf, { sides }), [facts, sides])
  const { chosen, setChosen, followJoin } = useChosenJoin(owner, live)
  const placeNow = usePlacesNow(live)
  const [sending, setSending] = useState(false)
  const [spectrum, setSpectrum] = useState(() => localStorage.spectrum === 'yes')
  const [writing, setWriting] = useState(false)
  const [measuring, setMeasuring] = useState(false)
  const [joiningOn, setJoiningOn] = useState(false)

  usePresence(id)
  const nicks = useOpenNicks(piece)
  const { layout } = nicks
  const { shown, kept } = useMemo(() => benchWords(piece, layout, wordsOf), [piece, layout, wordsOf])
  const joins = useMemo(() => joinRows(piece, kept), [piece, kept])
  const laid = useMemo(() => patches(piece), [piece])
  const silent = useMemo(() => muted(piece), [piece])
  const whole = useMemo(() => piecePlan(piece, factsOf), [piece, factsOf])
  const alone = useAlone(piece, whole, factsOf)
  /** What is heard: all of it, or one voice of it. */
  const { plan } = alone
  const before = useBefore(piece, { owner, whole, plan, factsOf, layout })
  const zero = useCallback(
    async (frame: Frames) => {
      const place = toTape(piece.spans, toPiece(layout, frame))
      return place ? frame + (await nearZero(factsOf(place.tape), place.frame)) - place.frame : frame
    },
    [piece.spans, layout, factsOf],
  )

  const sheet = useSheet({
    owner,
    length: layout.length,
    words: shown,
    plan: before.heard,
    toPlan: before.toPlan,
    fromPlan: before.fromPlan,
    nearZero: zero,
    begin: { framesPerLine: toFrames(shown.length ? 5 : 8), even: false, fill: true },
  })
  const { selected, select, place, follow } = sheet

  useEditsHeard({ owner, live, layout, plan, heard: !before.before }, (ofBench, ofPiece) => {
    follow(ofBench)
    followJoin(ofPiece)
    patch.follow(live.body, ofPiece)
  })

  const tapeAt = params.get('tapeAt')
  useEffect(() => {
    if (tapeAt === null) return
    const position = fromTape(piece.spans, piece.spans[0].tape, Number(tapeAt))
    if (position !== null) sheet.goTo(position)
    // once, on coming here
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [tapeAt])

  const act = (steps: ActualityStep[], label: string, quiet = false) => live.act(steps, { label, quiet })
  const marking = useTapeMarks({ piece, layout, place, playing: sheet.playing, goTo: sheet.goTo })
  useFollowedUndo(live, ...marking.lives)

  const inPiece = (stretch: Stretch): Stretch => ({ from: toPiece(layout, stretch.from), to: toPiece(layout, stretch.to) })
  const onBench = (place: Frames) => toBench(benchLayout(live.body.spans, nicks.open), place)
  const bench: Bench = {
    owner,
    live,
    piece,
    plan: whole,
    factsOf,
    wordsOf,
    offOf: (tape) => facts.tapes.find((one) => one.id === tape)?.off ?? [],
    kept,
    selected: selected && inPiece(selected),
    passages: sheet.passages.map(inPiece),
    select: (stretch) => select(stretch && { from: onBench(stretch.from), to: onBench(stretch.to) }),
    place: () => toPiece(layout, place()),
    goTo: (to) => {
      sheet.setPlace(onBench(to))
      bench.reveal(to)
    },
    reveal: (to) => sheet.handle.current?.reveal(onBench(to)),
    deselect: (stretch) => sheet.deselect([{ from: onBench(stretch.from), to: onBench(stretch.to) }]),
    setChosen,
    act,
    asEdited: before.asEdited,
  }
  const cutting = useCutActs(bench)
  const order = useOrderActs(bench, chosen)
  const { patching, choose, ...patch } = usePatchActs(bench, () => nicks.at(chosen))
  const versions = useVersions(bench, before.against, before.setAgainst)
  const planFor = useCallback((of: Actuality) => piecePlan(of, factsOf), [factsOf])
  const levels = useLevels({
    ...bench,
    now: () => live.body,
    plan: whole,
    planOf: planFor,
    side: alone.addressed,
    gain: { value: piece.gain ?? 0, set: (dB) => act([{ type: 'set', key: 'gain', value: dB === 0 ? undefined : dB }], 'gain') },
    onTape: useLineOnTape(bench),
  })
  const voices = useVoices(bench, alone)
  const takingOff = useTakingOff(bench)
  const handles = useHandleActs(bench)

  const row = joins.find((join) => join.cut.at === chosen)
  const back = () => {
    if (patching) return patch.lay()
    if (levels.take()) return
    const [over] = selected ? patches(piece, inPiece(selected)) : laid.filter(({ from, to }) => chosen === from || chosen === to)
    if (over) return patch.takeOff(over)
    const parts = selected ? nicksIn(layout, selected.from, selected.to) : []
    if (parts.length) {
      const [{ nick, ...part }] = parts
      act(bringBack(piece, nick, part), 'bring back')
      return select(null)
    }
    const nick = nicks.at(chosen)
    if (nick) bringBackAll(nick)
    else toast(`Choose a join first: click one, or press ${keysInWords('join.previous', 'join.next')}.`)
  }
  /** Where a stretch of the piece that is shown lies in the piece as it is. */
  const stretchNow = ({ from, to }: Stretch): Stretch => ({ from: placeNow(piece.spans, from), to: placeNow(piece.spans, to) })
  const bringBackAll = (nick: Nick) => {
    nicks.close(nick)
    act(bringBack(live.body, { ...nick, at: placeNow(piece.spans, nick.at) }), 'bring back')
  }
  const allCuts = useMemo(() => joins.map(({ cut }) => cut), [joins])
  const judged = useJudged(allCuts, row?.cut, factsOf, wordsOf)
  const joinActs = useJoinActs(bench, { row, judged: row && judged(row.cut), hold: sheet.hold })
  const gaps = useGapActs(bench, { row, judged: row && judged(row.cut), nick: () => nicks.at(chosen), joins, step: joinActs.step.frames })
  const fades = useFadeActs(bench, row?.cut, joinActs.step.frames)
  const heard = useJoinsHeard(bench, {
    joins,
    row,
    chosen,
    plan,
    playing: sheet.playing,
    otherwise: before.before || Boolean(patching) || levels.trying || alone.alone !== null,
  })

  const switchSpectrum = () => {
    localStorage.spectrum = spectrum ? 'no' : 'yes'
    setSpectrum(!spectrum)
  }
  const toItsTape = () => {
    const found = toTape(piece.spans, toPiece(layout, place()))
    if (found) void navigate(`/tapes/${found.tape}?at=${found.frame}${piece.story ? `&story=${piece.story}` : ''}`)
  }
  useActingOn({ selection: sheet.passages.length > 0, join: Boolean(row) })
  useCommands(
    oneAtATime(
      {
        ...cutting.commands,
        'edit.bringBack': levels.trying ? { run: back, title: 'Apply' } : back,
        ...order.commands,
        ...voices,
        ...patch.commands,
        ...levels.commands,
        ...fades.commands,
        ...takingOff,
        ...handles.commands,
        ...heard,
        'edit.joinOn': () => setJoiningOn(true),
        'version.keep': versions.keep,
        ...marking.commands,
        'join.spectrum': { on: spectrum, run: switchSpectrum },
        ...joinActs.commands,
        ...gaps.commands,
        'join.open': () => nicks.toggle(chosen),
        'play.before': { run: () => before.toggle(bench.place(), sheet.playing), on: before.before },
        'edit.pull': { run: () => void onPage(), title: 'Put on the page', unable: piece.story ? null : 'This piece has no story yet.' },
        'page.send': { run: () => setSending(true), title: selected ? 'Send the selection' : 'Send the piece' },
        'go.previousPiece': () => void goToPiece(-1),
        'go.nextPiece': () => void goToPiece(1),
        'view.figures': () => setMeasuring(true),
        'go.edits': () => void navigate(`/pieces/${id}/record`),
        'go.up': () => void navigate(piece.story ? `/stories/${piece.story}` : '/'),
        'go.across': { title: 'To the tape', run: toItsTape },
      },
      sheet.passages.length > 1,
    ),
  )

  const onPage = async () => {
    if (!piece.story) return void toast('This piece has no story yet.')
    const there = await putOnPage(piece.story, id)
    toast.success(there ? 'It is already on the page.' : 'Added at the end of the page.', {
      action: { label: 'To the page', onClick: () => void navigate(`/stories/${piece.story}`) },
    })
  }

  const goToPiece = async (by: 1 | -1) => {
    const next = piece.story && (await pieceBeside(piece.story, id, by))
    if (next) void navigate(`/pieces/${next}`)
    else toast(piece.story ? 'This story has no other piece.' : 'This piece has no story.')
  }

  const mainTape = facts.tapes.find((tape) => tape.id === piece.spans[0].tape)
  const scale = useScale(mainTape)
  const wave = useMemo(() => new Wave(benchPlan(whole, layout, factsOf)), [whole, layout, factsOf])
  const second = useMemo(() => {
    const [, ...others] = alone.sides
    if (!others.length || others.some(({ channels }) => channels.length > 1)) return undefined
    return { wave: new Wave(benchPlan(othersOf(whole, alone.facts), layout, factsOf)), speakers: new Set(others.map(({ name }) => name)) }
  }, [alone.sides, alone.facts, whole, layout, factsOf])
  const original = useMemo(() => new Wave(originalPlan(piece, layout, factsOf)), [piece, layout, factsOf])
  const model = useMemo(
    () => ({
      length: layout.length,
      words: shown,
      wave,
      second,
      original,
      scale,
      shades: benchShades(layout),
      used: [],
      nicks: benchNicks(piece, layout, chosen),
      lines: benchLines(layout),
      marks: marking.onSheet,
      selection: sheet.selection,
      also: sheet.also,
    }),
    [layout, shown, wave, second, original, scale, piece, chosen, marking.onSheet, sheet.selection, sheet.also],
  )
  // the Sheet is what one looks at: it is painted first, and what stands beside it comes after
  const aside = useDeferredValue(
    <BenchSide
      piece={piece}
      kept={kept}
      joins={joins}
      gone={nicks.gone}
      chosen={chosen}
      opened={nicks.opened}
      judged={judged}
      wordsOf={wordsOf}
      tape={mainTape}
      tapeFrame={toTape(piece.spans, toPiece(layout, place()))?.frame ?? 0}
      onSet={(key, value) => act([{ type: 'set', key, value }], key)}
      onJoin={(cut) => {
        const at = editNow(live.body.spans, cut, placeNow(piece.spans, cut.at))?.at ?? null
        setChosen(at)
        if (at !== null) bench.goTo(at)
      }}
      onNick={(nick) => {
        setChosen(placeNow(piece.spans, nick.at))
        nicks.toggle(nick.at)
      }}
      onBringBack={bringBackAll}
      versions={versions.list}
      marks={
        <MarkList
          marks={marking.marks}
          fresh={marking.fresh}
          onWritten={marking.onWritten}
          onGo={bench.goTo}
          onRename={marking.rename}
          onRemove={marking.remove}
        />
      }
      laid={laid}
      onTakeOff={(there) => patch.takeOff({ ...there, ...stretchNow(there) })}
      muted={silent}
      onUnmute={(stretch) => order.unmute(stretchNow(stretch))}
      onTakeBack={order.bringBack}
      onDrop={order.drop}
      sides={alone.sides}
      alone={alone.alone}
      onAlone={alone.hear}
      addressed={alone.addressed?.index ?? null}
      onAddress={alone.address}
    />,
  )

  const lines = (
    <ContextMenu ids={HERE}>
      <div className="flex min-h-44 min-w-0 flex-1">
        <Sheet
          ref={sheet.handle}
          owner={sheet.owner}
          language={mainTape?.language ?? SPOKEN}
          label={`Bench: ${piece.slug}`}
          model={model}
          look={sheet.look}
          onLook={sheet.setLook}
          onSelect={select}
          onBegin={sheet.begin}
          onUnchoose={sheet.unchoose}
          onPlace={(frame) => sheet.goTo(frame, false)}
          onScrub={sheet.scrub}
          onMovePassage={(to) => selected && order.moveTo(inPiece(selected), toPiece(layout, to), 'move a passage')}
          onMovePoint={(at, to) => levels.movePoint(toPiece(layout, at), { at: toPiece(layout, to.at), dB: to.dB })}
          onNick={(frame) => {
            const at = toPiece(layout, frame)
            setChosen(at)
            nicks.toggle(at)
          }}
          onMoveEnd={(end, to) =>
            handles.drawTo(end, to < 0 ? to : to > layout.length ? to - layout.length + clipLength(live.body) : toPiece(layout, to))
          }
          place={place}
          playing={sheet.playing}
        />
      </div>
    </ContextMenu>
  )

  return (
    <Shell
      path={
        <>
          {piece.story ? <StoryCrumb id={piece.story} /> : <Crumb to="/">Desk</Crumb>}
          <span className="text-grain" aria-hidden>
            /
          </span>
          <EditableText
            label="Slug"
            value={piece.slug}
            placeholder="Slug"
            className="min-w-0 font-semibold text-ink"
            onKeep={(value) => act([{ type: 'set', key: 'slug', value }], 'slug')}
          />
        </>
      }
      right={
        <>
          {piece.story && <StoryFigures id={piece.story} />}
          <Others document={id} />
        </>
      }
      aside={aside}
      foot={
        <BenchFoot
          sheet={sheet}
          layout={layout}
          before={before.before}
          against={before.against}
          patching={Boolean(patching)}
          onPage={() => void onPage()}
          onWriteOut={kept.length ? () => setWriting(true) : undefined}
          onDuplicate={versions.duplicate}
        />
      }
    >
      {piece.story ? (
        <CopyBeside
          id={id}
          piece={piece}
          of={[live, ...marking.lives]}
          story={piece.story}
          kept={kept}
          onSelect={(stretch) => {
            bench.select(stretch)
            bench.goTo(stretch.from)
          }}
        >
          {lines}
        </CopyBeside>
      ) : (
        lines
      )}
      {patching && (
        <PatchPanel
          patching={patching}
          said={kept
            .filter((word) => word.end > patching.spot.inPiece.from && word.at < patching.spot.inPiece.to)
            .map(({ text }) => text)
            .join(' ')}
          tape={factsOf(patching.spot.tape)}
          scale={scale}
          onChoose={choose}
          onLay={patch.lay}
          onLeave={patch.leave}
        />
      )}
      {row && !patching && !levels.panel && (
        <AtJoin
          row={row}
          judged={judged(row.cut)}
          joinActs={joinActs}
          gaps={gaps}
          fades={fades}
          factsOf={factsOf}
          scale={scale}
          spectrum={spectrum}
        />
      )}
      {levels.panel}
      {fades.dialog}
      {joiningOn && <JoinOnDialog id={id} piece={piece} onClose={() => setJoiningOn(false)} />}
      {versions.words}
      {writing && <WriteOutDialog id={id} name={piece.slug} onClose={() => setWriting(false)} />}
      {measuring && (
        <PlanFiguresDialog plan={whole} selected={selected && inPiece(selected)} noun="the piece" onClose={() => setMeasuring(false)} />
      )}
      {sending && (
        <SendDialog
          target={{ kind: 'actuality', id, ...(selected ? inPiece(selected) : {}) }}
          title={piece.slug}
          onClose={() => setSending(false)}
        />
      )}
    </Shell>
  )
}

function StoryCrumb({ id }: { id: string }) {
  return <Crumb to={`/stories/${id}`}>{useStoryName(id)}</Crumb>
}

/** What can be done where one clicks, with nothing selected. */
const HERE = [
  'play.toggle',
  'play.across',
  'join.open',
  'join.hold',
  'join.shape',
  'join.fades',
  'edit.split',
  'edit.paste',
  'edit.bringBack',
  'edit.mute',
  'edit.mark',
  'edit.undo',
  'edit.redo',
] as const
