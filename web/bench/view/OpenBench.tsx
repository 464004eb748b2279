import { useCallback, useDeferredValue, useMemo, useState } from 'react'
import { clipLength, type Actuality, type ActualityStep } from '../../../core/edits/actuality'
import { benchLayout, toBench, toPiece } from '../../../core/edits/benchLayout'
import { toTape } from '../../../core/edits/editList'
import { muted } from '../../../core/edits/mute'
import { patches } from '../../../core/edits/patch'
import { editNow } from '../../../core/edits/sameEdit'
import { piecePlan } from '../../../core/page/plan'
import { withSides } from '../../../core/render/plan'
import { toFrames, type Frames, type Stretch } from '../../../core/time'
import { useFacts } from '../../api/queries'
import { useActingOn, useCommands } from '../../commands/commands'
import type { LiveDocument } from '../../documents/liveDocument'
import { useFollowedUndo } from '../../documents/useUndo'
import { StoryCrumb } from '../../story/StoryCrumb'
import { StoryFigures } from '../../story/StoryFigures'
import { Others } from '../../present/Others'
import { usePresence } from '../../present/present'
import { useSheet } from '../../sheet/useSheet'
import { nearZero } from '../../sound/samples'
import { EditableText } from '../../ui/EditableText'
import { Crumb, Shell } from '../../shell/Shell'
import { AtJoin } from '../joins/AtJoin'
import type { Bench } from '../bench'
import { BenchDialogs, type BenchDialog } from './BenchDialogs'
import { BenchFoot } from './BenchFoot'
import { BenchLines } from './BenchLines'
import { useBenchModel } from './useBenchModel'
import { useBringBack } from './useBringBack'
import { useComing } from './useComing'
import { useGoing } from './useGoing'
import { useSpectrum } from '../joins/useSpectrum'
import { benchWords, joinRows } from '../benchSheet'
import { BenchSide } from './BenchSide'
import { MarkList } from '../marks/MarkList'
import { useTapeMarks } from '../marks/useTapeMarks'
import { CopyBeside } from '../order/CopyBeside'
import { PatchPanel } from '../patches/PatchPanel'
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
import { useOpenNicks } from '../useOpenNicks'
import { useOrderActs } from '../order/useOrderActs'
import { usePatchActs } from '../patches/usePatchActs'
import { usePlacesNow } from '../usePlacesNow'
import { useTidying } from '../useTidying'
import { useTakingOff } from '../cuts/useTakingOff'
import { useVersions } from '../versions/useVersions'
import { useBenchLevels } from '../levels/useBenchLevels'
import { useTreated } from '../levels/useTreated'
import { useAlone, useVoices } from '../levels/useVoices'
import { oneAtATime } from '../../commands/oneAtATime'
import { oneList } from '../../commands/oneList'

/** A piece that is worked on. */
export function OpenBench({
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
  const owner = `piece/${id}`
  const { wordsOf } = facts
  const { sides } = piece
  const factsOf = useMemo(() => withSides(facts.factsOf, { sides }), [facts, sides])
  const { chosen, setChosen, followJoin } = useChosenJoin(owner, live)
  const placeNow = usePlacesNow(live)
  const [open, setOpen] = useState<BenchDialog | null>(null)
  const [spectrum, switchSpectrum] = useSpectrum()
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

  useComing(piece, sheet.goTo)
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
  const levels = useBenchLevels(bench, whole, alone)
  const voices = useVoices(bench, alone)
  const treated = useTreated(bench, facts.tapes)
  const takingOff = useTakingOff(bench)
  const handles = useHandleActs(bench)

  const row = joins.find((join) => join.cut.at === chosen)
  /** Where a stretch of the piece that is shown lies in the piece as it is. */
  const stretchNow = ({ from, to }: Stretch): Stretch => ({ from: placeNow(piece.spans, from), to: placeNow(piece.spans, to) })
  const { back, bringBackAll } = useBringBack(bench, {
    nicks,
    layout,
    laid,
    chosen,
    selected,
    take: () => (patching ? (patch.lay(), true) : levels.take()),
    takeOff: patch.takeOff,
  })
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

  const going = useGoing(id, piece, () => toPiece(layout, place()))
  /** What lies over the lines is let go of first. */
  const letGo = levels.letGo ?? (patching && patch.leave)
  const own = {
    ...(letGo ? { 'select.clear': letGo } : {}),
    'edit.bringBack': levels.trying ? { run: back, title: 'Apply' } : back,
    'edit.mute': voices.muteAddressed ?? order.switchMute,
    'edit.joinOn': () => setOpen('joiningOn'),
    'version.keep': versions.keep,
    'join.spectrum': { on: spectrum, run: switchSpectrum },
    'join.open': () => nicks.toggle(chosen),
    'play.before': { run: () => before.toggle(bench.place(), sheet.playing), on: before.before },
    'page.send': { run: () => setOpen('sending'), title: selected ? 'Send the selection' : 'Send the piece' },
    'view.figures': () => setOpen('measuring'),
  }
  const tidying = useTidying(bench, facts.tapes, layout)
  useActingOn({ selection: sheet.passages.length > 0, join: Boolean(row) })
  useCommands(
    oneAtATime(
      {
        ...oneList(
          cutting.commands,
          order.commands,
          voices.commands,
          treated,
          patch.commands,
          levels.commands,
          fades.commands,
          takingOff,
          handles.commands,
          heard,
          marking.commands,
          joinActs.commands,
          gaps.commands,
          going.commands,
          own,
        ),
        ...tidying.commands,
      },
      sheet.passages.length > 1,
    ),
  )

  const mainTape = facts.tapes.find((tape) => tape.id === piece.spans[0].tape)
  const { model, scale } = useBenchModel({
    piece,
    layout,
    shown,
    whole,
    alone,
    factsOf,
    mainTape,
    chosen,
    marks: marking.onSheet,
    found: tidying.found,
    selection: sheet.selection,
    also: sheet.also,
  })
  // the Sheet is what one looks at: it is painted first, and what stands beside it comes after
  const beside = (
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
      marks={<MarkList marking={marking} onGo={bench.goTo} />}
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
    />
  )
  const aside = useDeferredValue(tidying.panel || beside)

  const lines = (
    <BenchLines
      slug={piece.slug}
      language={mainTape?.language}
      sheet={sheet}
      model={model}
      onSelect={select}
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
    />
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
          tidying={tidying.open}
          onPage={() => void going.onPage()}
          onWriteOut={kept.length ? () => setOpen('writing') : undefined}
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
          kept={kept}
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
      {versions.words}
      <BenchDialogs open={open} id={id} piece={piece} plan={whole} selected={selected && inPiece(selected)} onClose={() => setOpen(null)} />
    </Shell>
  )
}
