import { useCallback, useDeferredValue, useEffect, useMemo, useRef, useState } from 'react'
import { Link, useNavigate, useParams, useSearchParams } from 'react-router'
import { toast } from 'sonner'
import type { AnyStep } from '../../contract/documents'
import { mapPosition, type Actuality, type ActualityStep } from '../../core/edits/actuality'
import { bringBack, markHeard, nicks, type Nick } from '../../core/edits/acts'
import { benchLayout, nicksIn, toBench, toPiece } from '../../core/edits/benchLayout'
import { changeHandle } from '../../core/edits/handles'
import { movePoint } from '../../core/edits/levelLine'
import { cuts, fromTape, tapesOf, toTape, type Cut } from '../../core/edits/editList'
import { muted } from '../../core/edits/mute'
import { offcutsOf } from '../../core/edits/offcuts'
import { patches } from '../../core/edits/patch'
import { versionsOf } from '../../core/edits/versions'
import { piecePlan } from '../../core/page/plan'
import { othersOf, withSides } from '../../core/sound/plan'
import { clock, milliseconds, RATE, toFrames, type Frames, type Stretch } from '../../core/time'
import { useFacts } from '../api/queries'
import { run, useCommands } from '../commands/commands'
import { COMMANDS } from '../commands/table'
import type { LiveDocument } from '../documents/liveDocument'
import { useDocument } from '../documents/useDocument'
import { useFollowedUndo } from '../documents/useUndo'
import { putOnPage } from '../page/putOnPage'
import { StoryFigures, useStoryName } from '../page/StoryFigures'
import { SendDialog } from '../send/SendDialog'
import { Sheet } from '../sheet/Sheet'
import { useSheet } from '../sheet/useSheet'
import { player } from '../sound/player'
import { remapOf, type Remap } from '../sound/remap'
import { nearZero } from '../sound/samples'
import { useFrames } from '../sound/usePlayer'
import { useScale } from '../sound/useScale'
import { Wave } from '../sound/wave'
import { LookMenu } from '../tape/TapeView'
import { WriteOutDialog } from '../transcript/WriteOutDialog'
import { EditableText } from '../ui/EditableText'
import { Button, CommandButton, CommandKey, Empty, MenuItem } from '../ui/parts'
import { Crumb, Shell } from '../ui/Shell'
import { SelectionFigures, Transport } from '../ui/Transport'
import type { Bench } from './bench'
import { benchLines, benchNicks, benchPlan, benchShades, benchWords, joinRows, nickKey, originalPlan } from './benchSheet'
import { BenchSide, Judgement } from './BenchSide'
import { CloseUp } from './CloseUp'
import { CopyBeside } from './CopyBeside'
import { JoinOnDialog } from './JoinOnDialog'
import { PatchPanel } from './PatchPanel'
import { playAcross } from './playing'
import { useCompared } from './useCompared'
import { useCutActs } from './useCutActs'
import { useFadeActs } from './useFadeActs'
import { useGapActs } from './useGapActs'
import { useJoinActs } from './useJoinActs'
import { useJudged } from './useJudged'
import { useLevelActs } from './useLevelActs'
import { useOrderActs } from './useOrderActs'
import { usePatchActs } from './usePatchActs'
import { useTakingOff } from './useTakingOff'
import { useVersions } from './useVersions'
import { useAlone, useVoices } from './useVoices'

export function BenchView() {
  const { id = '' } = useParams()
  const document = useDocument<Actuality>(id, 'actuality')
  const body = document && 'body' in document ? document.body : null
  const tapes = useMemo(() => (body ? tapesOf([body.spans, ...[...versionsOf(body), ...offcutsOf(body)].map(({ spans }) => spans)].flat()) : []), [body])
  const facts = useFacts(tapes)
  if (document && 'error' in document)
    return (
      <Shell path={<Crumb>No piece here</Crumb>}>
        <Empty title="That actuality is not here.">It may have been taken away, or the address is wrong. What you work on is on the <Link className="underline" to="/">Desk</Link>.</Empty>
      </Shell>
    )
  if (!document || !facts) return <Shell path={<Crumb>Opening …</Crumb>}>{null}</Shell>
  return <OpenBench key={id} id={id} live={document.live} piece={document.body} facts={facts} />
}

/** By how much a key changes a handle. */
const HANDLE = milliseconds(50)

/** Whether what plays came to its end by itself. */
const ended = (): Promise<boolean> =>
  new Promise((resolve) => {
    const watch = player.subscribe(() => {
      if (player.playing) return
      watch()
      resolve(player.cameToEnd)
    })
  })

/** Plays this far past a join before it counts as heard. */
const PAST = milliseconds(400)

function OpenBench({ id, live, piece, facts }: { id: string; live: LiveDocument; piece: Actuality; facts: NonNullable<ReturnType<typeof useFacts>> }) {
  const navigate = useNavigate()
  const [params] = useSearchParams()
  const owner = `piece/${id}`
  const { wordsOf } = facts
  const { sides } = piece
  const factsOf = useMemo(() => withSides(facts.factsOf, { sides }), [facts, sides])
  const [opened, setOpened] = useState<ReadonlySet<string>>(new Set())
  const [chosen, setChosen] = useState<Frames | null>(() => cuts(piece.spans)[0]?.at ?? null)
  const [before, setBefore] = useState(false)
  const [sending, setSending] = useState(false)
  const [spectrum, setSpectrum] = useState(() => localStorage.spectrum === 'yes')
  const [writing, setWriting] = useState(false)
  const [joiningOn, setJoiningOn] = useState(false)

  const openNicks = useMemo(() => (opened.size ? nicks(piece).filter((nick) => opened.has(nickKey(nick))) : []), [piece, opened])
  const layout = useMemo(() => benchLayout(piece.spans, openNicks), [piece.spans, openNicks])
  const { shown, kept } = useMemo(() => benchWords(piece, layout, wordsOf), [piece, layout, wordsOf])
  const joins = useMemo(() => joinRows(piece, kept), [piece, kept])
  const gone = useMemo(() => nicks(piece), [piece])
  const laid = useMemo(() => patches(piece), [piece])
  const silent = useMemo(() => muted(piece), [piece])
  const whole = useMemo(() => piecePlan(piece, factsOf), [piece, factsOf])
  const alone = useAlone(piece, whole, factsOf)
  /** What is heard: all of it, or one voice of it. */
  const { plan } = alone
  const [againstAt, setAgainstAt] = useState<string | null>(null)
  const against = versionsOf(piece).find(({ at }) => at === againstAt) ?? null
  const asItWas = useCompared(piece, whole, factsOf, against)

  /** From a place of the piece to one of what plays, and back: the same frame of the tape. */
  const across = useCallback((from: Actuality['spans'], to: Actuality['spans'], at: Frames): Frames => {
    const place = toTape(from, at)
    return (place && fromTape(to, place.tape, place.frame)) ?? 0
  }, [])
  const toPlan = useCallback((frame: Frames) => (before ? across(piece.spans, asItWas.spans, toPiece(layout, frame)) : toPiece(layout, frame)), [layout, before, across, piece.spans, asItWas])
  const fromPlan = useCallback((position: Frames) => toBench(layout, before ? across(asItWas.spans, piece.spans, position) : position), [layout, before, across, piece.spans, asItWas])
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
    plan: before ? asItWas.plan : plan,
    toPlan,
    fromPlan,
    nearZero: zero,
    begin: { framesPerLine: toFrames(shown.length ? 5 : 8), even: false },
  })
  const { selected, select, place, follow } = sheet

  // an edit made while it plays is heard without stopping; selection and playhead go with the sound
  const since = useRef<{ steps: ActualityStep[]; length: Frames } | null>(null)
  const layoutNow = useRef(layout)
  layoutNow.current = layout
  const planNow = useRef(plan)
  planNow.current = plan
  useEffect(
    () =>
      live.onSteps((steps) => {
        const list = steps as ActualityStep[]
        since.current = { steps: [...(since.current?.steps ?? []), ...list], length: since.current?.length ?? planNow.current.length }
        const mapAll = (at: Frames) => list.reduce((position, step) => mapPosition(step, position), at)
        follow((frame) => mapAll(toPiece(layoutNow.current, frame)))
        setChosen((at) => (at === null ? at : mapAll(at)))
      }),
    [live, follow],
  )
  useEffect(() => {
    const remap: Remap = since.current ? remapOf(since.current.steps, since.current.length) : [{ from: 0, length: plan.length, to: 0 }]
    since.current = null
    if (player.owner === owner && !before) player.exchange(owner, plan, remap)
  }, [plan, owner, before])

  const tapeAt = params.get('tapeAt')
  useEffect(() => {
    if (tapeAt === null) return
    const position = fromTape(piece.spans, piece.spans[0].tape, Number(tapeAt))
    if (position !== null) sheet.goTo(position)
    // once, on coming here
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [tapeAt])

  const act = (steps: ActualityStep[], label: string, quiet = false) => live.act(steps as AnyStep[], { label, quiet })
  useFollowedUndo(live)

  const inPiece = (stretch: Stretch): Stretch => ({ from: toPiece(layout, stretch.from), to: toPiece(layout, stretch.to) })
  const onBench = (place: Frames) => toBench(benchLayout((live.body as Actuality).spans, openNicks), place)
  const bench: Bench = {
    owner,
    live,
    piece,
    plan: whole,
    factsOf,
    wordsOf,
    kept,
    selected: selected && inPiece(selected),
    select: (stretch) => select(stretch && { from: onBench(stretch.from), to: onBench(stretch.to) }),
    place: () => toPiece(layout, place()),
    goTo: (to) => {
      sheet.setPlace(onBench(to))
      sheet.handle.current?.reveal(onBench(to))
    },
    setChosen,
    act,
    asEdited: () => setBefore(false),
  }
  const cutting = useCutActs(bench)
  const order = useOrderActs(bench, chosen)
  const { patching, choose, ...patch } = usePatchActs(bench, () => nickAt(chosen))
  const versions = useVersions(bench, against, setAgainstAt)
  const levels = useLevelActs(bench)
  const voices = useVoices(bench, alone)
  const takingOff = useTakingOff(bench)

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
    const nick = nickAt(chosen)
    if (nick) bringBackAll(nick)
    else toast('Choose a nick first: click one, or step with [ and ].')
  }
  const bringBackAll = (nick: Nick) => {
    setOpened((now) => new Set([...now].filter((key) => key !== nickKey(nick))))
    act(bringBack(piece, nick), 'bring back')
  }
  const nickAt = (at: Frames | null): Nick | undefined => (at === null ? undefined : nicks(piece).find((nick) => nick.at === at || nick.at + nick.held === at))

  const toggle = (at: Frames | null) => {
    const nick = nickAt(at)
    if (!nick) return
    const key = nickKey(nick)
    setOpened((now) => (now.has(key) ? new Set([...now].filter((other) => other !== key)) : new Set([...now, key])))
  }

  const allCuts = useMemo(() => joins.map(({ cut }) => cut), [joins])
  const judged = useJudged(allCuts, row?.cut, factsOf, wordsOf)
  const joinActs = useJoinActs(bench, { row, judged: row && judged(row.cut), hold: sheet.hold })
  const gaps = useGapActs(bench, { row, judged: row && judged(row.cut), nick: () => nickAt(chosen), joins, step: joinActs.step.frames })
  const fades = useFadeActs(bench, row?.cut, joinActs.step.frames)
  const step = (by: 1 | -1) => {
    if (!joins.length) return
    const here = chosen ?? toPiece(layout, place())
    const next = by > 0 ? (joins.find((join) => join.cut.at > here) ?? joins[0]) : (joins.filter((join) => join.cut.at < here).at(-1) ?? joins.at(-1)!)
    setChosen(next.cut.at)
    sheet.setPlace(toBench(layout, next.cut.at))
    sheet.handle.current?.reveal(toBench(layout, next.cut.at))
  }
  const playOver = (cut: Cut | undefined) => {
    if (!cut) return void toast('There is no join yet.')
    if (before) setBefore(false)
    setChosen(cut.at)
    playAcross(owner, plan, cut.at)
  }
  const playJoin = (cut: Cut, around: Frames, again: boolean) => {
    if (before) setBefore(false)
    player.load(owner, plan)
    return player.play(Math.max(0, cut.at - around), Math.min(plan.length, cut.at + around), again)
  }
  /** One join after the other, each with what is around it. */
  const playAll = async () => {
    for (const { cut } of joins) {
      setChosen(cut.at)
      sheet.handle.current?.reveal(toBench(layout, cut.at))
      await playJoin(cut, 2 * RATE, false)
      if (!(await ended())) return
    }
  }

  // a join that was played across has been heard
  const last = useRef({ position: 0, time: 0 })
  useFrames(() => {
    if (!player.playing || player.owner !== owner || before || patching || levels.trying || alone.alone !== null) return
    const [position, time] = [player.position, performance.now()]
    const from = last.current.position
    const ranOn = Math.abs(position - from - ((time - last.current.time) / 1000) * RATE) < RATE / 5
    last.current = { position, time }
    if (!ranOn) return
    for (const { cut } of joins) if (!cut.join.heard && cut.at + PAST > from && cut.at + PAST <= position) act(markHeard(live.body as Actuality, cut.at), 'heard', true)
  }, sheet.playing)

  const handle = (end: 'head' | 'tail', by: Frames) => {
    const now = live.body as Actuality
    const steps = changeHandle(now, end, by, factsOf((end === 'head' ? now.spans[0] : now.spans[now.spans.length - 1]).tape).frames)
    if (!steps.length) return void toast(by < 0 ? 'There is no room left there.' : 'The tape has no more there.', { duration: 1500 })
    act(steps, by > 0 ? 'more room' : 'less room')
  }
  const toggleBefore = () => {
    const here = place()
    const playing = sheet.playing
    setBefore(!before)
    const position = toPiece(layout, here)
    player.load(owner, before ? plan : asItWas.plan)
    if (playing) void player.play(before ? position : across(piece.spans, asItWas.spans, position))
  }

  useCommands({
    ...cutting.commands,
    'edit.bringBack': back,
    'join.previous': () => step(-1),
    'join.next': () => step(1),
    ...order.commands,
    ...patch.commands,
    ...levels.commands,
    ...fades.commands,
    ...voices,
    ...takingOff,
    'edit.joinOn': () => setJoiningOn(true),
    'handle.headLess': () => handle('head', -HANDLE),
    'handle.headMore': () => handle('head', HANDLE),
    'handle.tailLess': () => handle('tail', -HANDLE),
    'handle.tailMore': () => handle('tail', HANDLE),
    'version.keep': versions.keep,
    'join.spectrum': () => {
      localStorage.spectrum = spectrum ? 'no' : 'yes'
      setSpectrum(!spectrum)
    },
    ...joinActs.commands,
    ...gaps.commands,
    'join.loop': () => (row ? void playJoin(row.cut, 0.7 * RATE, true) : undefined),
    'join.all': () => void playAll(),
    'join.open': () => toggle(chosen),
    'play.across': () => playOver(row?.cut ?? joins[0]?.cut),
    'play.before': toggleBefore,
    'edit.pull': () => void onPage(),
    'page.send': () => setSending(true),
    'go.edits': () => void navigate(`/pieces/${id}/record`),
    'go.up': () => void navigate(piece.story ? `/stories/${piece.story}` : '/'),
    'go.across': () => {
      const found = toTape(piece.spans, toPiece(layout, place()))
      if (found) void navigate(`/tapes/${found.tape}?at=${found.frame}${piece.story ? `&story=${piece.story}` : ''}`)
    },
  })

  const onPage = async () => {
    if (!piece.story) return void toast('This piece belongs to no story yet, so there is no page to put it on.')
    const there = await putOnPage(piece.story, id)
    toast.success(there ? 'It is on the page already.' : 'On the page, at its end.', { action: { label: 'To the page', onClick: () => void navigate(`/stories/${piece.story}`) } })
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
    () => ({ length: layout.length, words: shown, wave, second, original, scale, shades: benchShades(layout), used: [], nicks: benchNicks(piece, layout, chosen), lines: benchLines(layout), marks: [], selection: sheet.selection }),
    [layout, shown, wave, second, original, scale, piece, chosen, sheet.selection],
  )
  // the Sheet is what one looks at: it is painted first, and what stands beside it comes after
  const aside = useDeferredValue(
    <BenchSide
      piece={piece}
      kept={kept}
      joins={joins}
      gone={gone}
      chosen={chosen}
      opened={opened}
      judged={judged}
      wordsOf={wordsOf}
      tape={mainTape}
      tapeFrame={toTape(piece.spans, toPiece(layout, place()))?.frame ?? 0}
      onSet={(key, value) => act([{ type: 'set', key, value }], key)}
      onJoin={({ at }) => {
        setChosen(at)
        sheet.goTo(toBench(layout, at))
      }}
      onNick={(nick) => {
        setChosen(nick.at)
        toggle(nick.at)
      }}
      onBringBack={bringBackAll}
      versions={versions.list}
      laid={laid}
      onTakeOff={patch.takeOff}
      muted={silent}
      onUnmute={order.unmute}
      onTakeBack={order.bringBack}
      onDrop={order.drop}
      sides={alone.sides}
      alone={alone.alone}
      onAlone={alone.hear}
    />,
  )

  const lines = (
    <Sheet ref={sheet.handle} label={`Bench: ${piece.slug}`} model={model} look={sheet.look} onLook={sheet.setLook} onSelect={select} onPlace={(frame) => sheet.goTo(frame, false)} onScrub={sheet.scrub} onMovePassage={(to) => selected && void order.moveTo(inPiece(selected), toPiece(layout, to), 'move a passage')} onMovePoint={(at, to) => act(movePoint(live.body as Actuality, toPiece(layout, at), { at: toPiece(layout, to.at), dB: to.dB }), 'move a level point')} onNick={(frame) => { const at = toPiece(layout, frame); setChosen(at); toggle(at) }} place={place} playing={sheet.playing} />
  )

  return (
    <Shell
      path={
        <>
          {piece.story ? <StoryCrumb id={piece.story} /> : <Crumb to="/">Desk</Crumb>}
          <span className="text-grain" aria-hidden>/</span>
          <EditableText label="Slug" value={piece.slug} placeholder="Slug" className="min-w-0 font-semibold text-ink" onKeep={(value) => act([{ type: 'set', key: 'slug', value }], 'slug')} />
        </>
      }
      right={piece.story ? <StoryFigures id={piece.story} /> : undefined}
      aside={aside}
      foot={
        <>
          <Transport playing={sheet.playing} place={place}>
            {!selected && <span className="shrink-0 text-faint max-[1180px]:hidden">of {clock(layout.length)}</span>}
          </Transport>
          {selected ? (
            <SelectionFigures selection={selected} length={layout.length} words={0} onSelect={select} />
          ) : (
            <>
              <CommandButton id="play.across" look="bare"><CommandKey id="play.across" /> across the join</CommandButton>
              <CommandButton id="play.before" look="bare" pressed={before}><CommandKey id="play.before" /> {before ? (against?.name ?? 'as it was') : against ? `now / ${against.name}` : 'before / after'}</CommandButton>
            </>
          )}
          <span className="flex-1" />
          {selected && !patching && <CommandButton id="patch.find">Patch</CommandButton>}
          {selected && nicksIn(layout, selected.from, selected.to).length > 0 && <CommandButton id="edit.bringBack" />}
          {selected && !patching && <CommandButton id="edit.holdTime">Hold time</CommandButton>}
          {selected && !patching && <CommandButton id="edit.takeOut">Take out</CommandButton>}
          <LookMenu hold={sheet.hold} onSend={() => setSending(true)} onWriteOut={kept.length ? () => setWriting(true) : undefined}>
            {(['level.open', 'join.fades', 'off.fades', 'off.patches', 'off.all', 'edit.joinOn', 'version.keep', 'go.edits'] as const).map((command) => (
              <MenuItem key={command} onSelect={() => run(command)}>{COMMANDS[command].title} <CommandKey id={command} /></MenuItem>
            ))}
            <MenuItem onSelect={versions.duplicate}>Make a copy to try something</MenuItem>
          </LookMenu>
          <Button look="strong" onClick={() => void onPage()}>Put on the page</Button>
        </>
      }
    >
      {piece.story ? <CopyBeside id={id} piece={piece} of={live} story={piece.story} kept={kept} onSelect={(stretch) => { bench.select(stretch); bench.goTo(stretch.from) }}>{lines}</CopyBeside> : lines}
      {patching && (
        <PatchPanel
          patching={patching}
          said={kept.filter((word) => word.end > patching.spot.inPiece.from && word.at < patching.spot.inPiece.to).map(({ text }) => text).join(' ')}
          tape={factsOf(patching.spot.tape)}
          scale={scale}
          onChoose={choose}
          onLay={patch.lay}
          onLeave={patch.leave}
        />
      )}
      {row && !patching && !levels.panel && (
        <section aria-label="Close-up" className="shrink-0 border-t border-rule bg-paper-low px-6 pt-2 pb-1">
          <div className="flex items-center gap-4 text-[13px] whitespace-nowrap">
            <span className="text-[12px] font-semibold text-faint">Close-up</span>
            <span className="font-serif">{row.before} <span className="text-cut">/</span> {row.after}</span>
            <span>gap {(gaps.gapAt(row.cut.at) / RATE).toFixed(2)} s</span>
            <span className="text-soft">fade {Math.round((row.cut.join.fade * 1000) / RATE)} ms</span>
            {row.cut.join.asked?.why && <span className="min-w-0 truncate text-soft" data-testid="why" title={row.cut.join.asked.why}>{row.cut.join.asked.why}</span>}
            <Judgement judged={judged(row.cut)} />
            {(joinActs.others.earlier || joinActs.others.later) && (
              <span className="flex shrink-0 items-center gap-1 text-[12px] text-faint" data-testid="other-places">
                a word {joinActs.others.earlier && <><CommandKey id="join.wordEarlier" /> earlier {joinActs.others.earlier.changes}</>} {joinActs.others.later && <><CommandKey id="join.wordLater" /> later {joinActs.others.later.changes}</>}
              </span>
            )}
            {gaps.masks && <span className="flex shrink-0 items-center gap-1 text-[12px] text-faint" data-testid="masks"><CommandKey id="join.mask" /> next phrase sooner</span>}
            <span className="flex-1" />
            <span className="flex shrink-0 items-center gap-1 text-[12px] text-faint max-[1240px]:hidden">by {joinActs.step.name}: <CommandKey id="join.leftEarlier" /><CommandKey id="join.leftLater" /> goes <CommandKey id="join.rightEarlier" /><CommandKey id="join.rightLater" /> comes <CommandKey id="join.cutEarlier" /><CommandKey id="join.cutLater" /> cut</span>
          </div>
          <CloseUp cut={row.cut} factsOf={factsOf} scale={scale} spectrum={spectrum} onMove={joinActs.move} onFade={fades.fadeTo} onOverlap={fades.overlapBy} />
        </section>
      )}
      {levels.panel}
      {fades.dialog}
      {joiningOn && <JoinOnDialog id={id} piece={piece} onClose={() => setJoiningOn(false)} />}
      {versions.words}
      {writing && <WriteOutDialog id={id} name={piece.slug} onClose={() => setWriting(false)} />}
      {sending && <SendDialog target={{ kind: 'actuality', id, ...(selected ? inPiece(selected) : {}) }} title={piece.slug} onClose={() => setSending(false)} />}
    </Shell>
  )
}

function StoryCrumb({ id }: { id: string }) {
  return <Crumb to={`/stories/${id}`}>{useStoryName(id)}</Crumb>
}
