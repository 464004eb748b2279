import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { Link, useNavigate, useParams, useSearchParams } from 'react-router'
import { toast } from 'sonner'
import type { AnyStep } from '../../contract/documents'
import { clipLength, mapPosition, wordsLength, type Actuality, type ActualityStep } from '../../core/edits/actuality'
import { bringBack, holdTime, markHeard, moveCut, moveEdge, nicks, takeOut, type Nick } from '../../core/edits/acts'
import { benchLayout, nicksIn, toBench, toPiece } from '../../core/edits/benchLayout'
import { cuts, fromTape, toTape, type Cut } from '../../core/edits/editList'
import { piecePlan } from '../../core/page/plan'
import { planOf, SHORTEST_FADE } from '../../core/sound/plan'
import { cueLine } from '../../core/tape/words'
import { clock, milliseconds, RATE, toFrames, tradeLength, type Frames, type Stretch } from '../../core/time'
import { useFacts } from '../api/queries'
import { useCommands } from '../commands/commands'
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
import { EditableText } from '../ui/EditableText'
import { LongList } from '../ui/LongList'
import { Button, CommandButton, CommandKey, Empty } from '../ui/parts'
import { Crumb, Heading, Shell, Side } from '../ui/Shell'
import { SelectionFigures, Transport } from '../ui/Transport'
import { benchNicks, benchPlan, benchShades, benchWords, joinRows, nickKey, originalPlan, takenOut } from './benchSheet'
import { CloseUp } from './CloseUp'

export function BenchView() {
  const { id = '' } = useParams()
  const document = useDocument<Actuality>(id, 'actuality')
  const body = document && 'body' in document ? document.body : null
  const tapes = useMemo(() => [...new Set(body?.spans.map((span) => span.tape))].sort(), [body?.spans])
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

/** Plays this far past a join before it counts as heard. */
const PAST = milliseconds(400)

function OpenBench({ id, live, piece, facts }: { id: string; live: LiveDocument; piece: Actuality; facts: NonNullable<ReturnType<typeof useFacts>> }) {
  const navigate = useNavigate()
  const [params] = useSearchParams()
  const owner = `piece/${id}`
  const { factsOf, wordsOf } = facts
  const [opened, setOpened] = useState<ReadonlySet<string>>(new Set())
  const [chosen, setChosen] = useState<Frames | null>(() => cuts(piece.spans)[0]?.at ?? null)
  const [before, setBefore] = useState(false)
  const [sending, setSending] = useState(false)

  const openNicks = useMemo(() => (opened.size ? nicks(piece).filter((nick) => opened.has(nickKey(nick))) : []), [piece, opened])
  const layout = useMemo(() => benchLayout(piece.spans, openNicks), [piece.spans, openNicks])
  const { shown, kept } = useMemo(() => benchWords(piece, layout, wordsOf), [piece, layout, wordsOf])
  const joins = useMemo(() => joinRows(piece, kept), [piece, kept])
  const gone = useMemo(() => nicks(piece), [piece])
  const plan = useMemo(() => piecePlan(piece, factsOf), [piece, factsOf])
  const asItWas = useMemo(() => {
    const first = piece.spans[0]
    const last = piece.spans.at(-1)!
    const whole = first.tape === last.tape && last.to > first.from
    const spans = whole ? [{ tape: first.tape, from: first.from, to: last.to, sound: 'tape' as const }] : piece.spans.map(({ level: _, ...span }) => span)
    return { spans, plan: planOf(spans, factsOf, SHORTEST_FADE, SHORTEST_FADE) }
  }, [piece.spans, factsOf])

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

  const cutOut = async (hold: boolean) => {
    if (!selected) return void toast('Select what should go: drag over the words or the sound.')
    const rough = inPiece(selected)
    if (rough.to <= rough.from) return void toast('That is out already. Enter brings it back.')
    if (rough.from === 0 && rough.to === clipLength(piece)) return void toast('That is all of it. To be rid of the piece, set it aside on its page.')
    const [from, to] = await Promise.all([zeroInPiece(rough.from), zeroInPiece(rough.to)])
    const stretch = to > from ? { from, to } : rough
    const count = kept.filter((word) => word.at >= stretch.from - 480 && word.end <= stretch.to + 480).length
    select(null)
    const now = live.body as Actuality
    act((hold ? holdTime : takeOut)(now, stretch), `${hold ? 'hold time over' : 'take out'} ${count === 1 ? 'one word' : count ? `${count} words` : `${((stretch.to - stretch.from) / RATE).toFixed(1)} s`}`)
    setChosen(stretch.from === 0 ? null : stretch.from)
  }
  const zeroInPiece = async (position: Frames): Promise<Frames> => {
    const found = toTape(piece.spans, position)
    if (!found || position === 0 || position === clipLength(piece)) return position
    return position + (await nearZero(factsOf(found.tape), found.frame)) - found.frame
  }

  const back = () => {
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

  const row = joins.find((join) => join.cut.at === chosen)
  const step = (by: 1 | -1) => {
    if (!joins.length) return
    const here = chosen ?? toPiece(layout, place())
    const next = by > 0 ? (joins.find((join) => join.cut.at > here) ?? joins[0]) : (joins.filter((join) => join.cut.at < here).at(-1) ?? joins.at(-1)!)
    setChosen(next.cut.at)
    sheet.setPlace(toBench(layout, next.cut.at))
    sheet.handle.current?.reveal(toBench(layout, next.cut.at))
  }
  const playAcross = (cut: Cut | undefined) => {
    if (!cut) return void toast('There is no join yet.')
    if (before) setBefore(false)
    setChosen(cut.at)
    player.load(owner, plan)
    void player.play(Math.max(0, cut.at - 2 * RATE), Math.min(plan.length, cut.at + 1.5 * RATE))
  }
  const move = (side: 'left' | 'right' | 'both', by: Frames) => {
    if (!row) return
    const now = live.body as Actuality
    const cut = cuts(now.spans).find((one) => one.at === row.cut.at)
    if (!cut) return
    const tapeLength = factsOf(cut.left.tape).frames
    act(side === 'both' ? moveCut(now, cut, by, tapeLength) : moveEdge(now, cut, side, by, tapeLength), 'move the cut')
    const at = side === 'right' ? cut.at : cut.at + by
    setChosen(cuts((live.body as Actuality).spans).reduce<Frames | null>((best, one) => (best === null || Math.abs(one.at - at) < Math.abs(best - at) ? one.at : best), null))
  }
  const FINE = milliseconds(5)

  // a join that was played across has been heard
  const last = useRef({ position: 0, time: 0 })
  useFrames(() => {
    if (!player.playing || player.owner !== owner || before) return
    const [position, time] = [player.position, performance.now()]
    const from = last.current.position
    const ranOn = Math.abs(position - from - ((time - last.current.time) / 1000) * RATE) < RATE / 5
    last.current = { position, time }
    if (!ranOn) return
    for (const { cut } of joins) if (!cut.join.heard && cut.at + PAST > from && cut.at + PAST <= position) act(markHeard(live.body as Actuality, cut.at), 'heard', true)
  }, sheet.playing)

  const toggleBefore = () => {
    const here = place()
    const playing = sheet.playing
    setBefore(!before)
    const position = toPiece(layout, here)
    player.load(owner, before ? plan : asItWas.plan)
    if (playing) void player.play(before ? position : across(piece.spans, asItWas.spans, position))
  }

  useCommands({
    'edit.takeOut': () => void cutOut(false),
    'edit.holdTime': () => void cutOut(true),
    'edit.bringBack': back,
    'join.previous': () => step(-1),
    'join.next': () => step(1),
    'join.open': () => toggle(chosen),
    'join.leftEarlier': () => move('left', -FINE),
    'join.leftLater': () => move('left', FINE),
    'join.rightEarlier': () => move('right', -FINE),
    'join.rightLater': () => move('right', FINE),
    'join.cutEarlier': () => move('both', -FINE),
    'join.cutLater': () => move('both', FINE),
    'play.across': () => playAcross(row?.cut ?? joins[0]?.cut),
    'play.before': toggleBefore,
    'edit.pull': () => void onPage(),
    'page.send': () => setSending(true),
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
  const wave = useMemo(() => new Wave(benchPlan(plan, layout, factsOf)), [plan, layout, factsOf])
  const original = useMemo(() => new Wave(originalPlan(piece, layout, factsOf)), [piece, layout, factsOf])
  const model = useMemo(
    () => ({ length: layout.length, words: shown, wave, original, scale, shades: benchShades(layout), used: [], nicks: benchNicks(piece, layout, chosen), marks: [], selection: sheet.selection }),
    [layout, shown, wave, original, scale, piece, chosen, sheet.selection],
  )
  const heard = joins.filter((join) => join.cut.join.heard).length
  const set = (key: 'slug' | 'speaker' | 'role') => (value: string) => act([{ type: 'set', key, value }], key)
  const goneTime = gone.reduce((sum, nick) => sum + nick.to - nick.from, 0)

  return (
    <Shell
      path={
        <>
          {piece.story ? <StoryCrumb id={piece.story} /> : <Crumb to="/">Desk</Crumb>}
          <span className="text-grain" aria-hidden>/</span>
          <EditableText label="Slug" value={piece.slug} placeholder="Slug" className="min-w-0 font-semibold text-ink" onKeep={set('slug')} />
        </>
      }
      right={piece.story ? <StoryFigures id={piece.story} /> : undefined}
      aside={
        <Side label="About this actuality">
          <div className="mb-4 flex gap-6">
            <Lengthy frames={clipLength(piece)} name="clip" />
            <Lengthy frames={wordsLength(piece)} name="words" />
          </div>
          <p className="font-serif text-[16px] leading-snug italic" data-testid="cues">{kept.length ? `“${cueLine(kept)}”` : 'No words on this tape yet.'}</p>
          <div className="mt-2 mb-5 flex flex-wrap items-center gap-x-1 text-[13px] text-soft">
            <EditableText label="Speaker" value={piece.speaker} placeholder="who speaks" onKeep={set('speaker')} />
            <EditableText label="Role" value={piece.role} placeholder="as what" className="ml-2 text-faint" onKeep={set('role')} />
            {mainTape && (
              <span className="w-full pt-1">
                from <Link className="underline" to={`/tapes/${mainTape.id}?at=${toTape(piece.spans, toPiece(layout, place()))?.frame ?? 0}`}>{mainTape.name}</Link> <CommandKey id="go.across" />
              </span>
            )}
          </div>
          <Heading>{joins.length ? `Joins, ${heard} of ${joins.length} heard` : 'Joins'}</Heading>
          {joins.length === 0 && <p className="py-3 text-faint">Nothing is taken out yet. Select, then <CommandKey id="edit.takeOut" /></p>}
          <LongList
            items={joins}
            rowHeight={38}
            testId="joins"
            row={({ cut, before: left, after }) => (
              <button type="button" aria-pressed={cut.at === chosen} className={`flex w-full items-center gap-2 py-2 text-left hover:bg-paper-low ${cut.at === chosen ? 'font-semibold text-cut-ink' : ''}`} onClick={() => { setChosen(cut.at); sheet.goTo(toBench(layout, cut.at)) }}>
                <span className={`size-2 shrink-0 rounded-full ${cut.join.heard ? 'bg-ink' : 'border-[1.5px] border-cut'}`} />
                <span className="min-w-0 flex-1 truncate">{left} <span className="text-cut">/</span> {after}</span>
                <span className="shrink-0 text-[12px] font-normal text-faint">{cut.join.heard ? 'heard' : 'not yet'}</span>
              </button>
            )}
          />
          {mainTape?.tone.made && gone.some((nick) => nick.held > 0) && <p className="pt-3 text-[13px] text-soft">This tape has no stretch quiet enough, so its room tone is made from the spectrum of its noise floor.</p>}
          {gone.length > 0 && (
            <>
              <div className="h-5" />
              <Heading>Taken out, {(goneTime / RATE).toFixed(1)} s</Heading>
              <LongList
                items={gone}
                rowHeight={34}
                row={(nick) => (
                  <div className="flex items-center gap-2 py-1.5">
                    <button type="button" aria-expanded={opened.has(nickKey(nick))} className="min-w-0 flex-1 truncate text-left font-serif text-[13.5px] text-soft italic hover:text-ink" title={takenOut(nick, wordsOf)} onClick={() => { setChosen(nick.at); toggle(nick.at) }}>
                      {takenOut(nick, wordsOf)}{nick.held ? ', time held' : ''}
                    </button>
                    <span className="text-[13px] text-faint">{((nick.to - nick.from) / RATE).toFixed(1)}</span>
                    <button type="button" className="text-[12px] text-tape hover:underline" onClick={() => bringBackAll(nick)}>bring back</button>
                  </div>
                )}
              />
            </>
          )}
        </Side>
      }
      foot={
        <>
          <Transport playing={sheet.playing} place={place}>
            <span className="shrink-0 text-faint max-[1180px]:hidden">of {clock(layout.length)}</span>
          </Transport>
          {selected ? (
            <SelectionFigures selection={selected} length={layout.length} words={kept.filter((word) => { const range = inPiece(selected); return word.at >= range.from && word.end <= range.to }).length} onSelect={select} />
          ) : (
            <>
              <CommandButton id="play.across" look="bare"><CommandKey id="play.across" /> across the join</CommandButton>
              <CommandButton id="play.before" look="bare" pressed={before}><CommandKey id="play.before" /> {before ? 'as it was' : 'before / after'}</CommandButton>
            </>
          )}
          <span className="flex-1" />
          {selected && nicksIn(layout, selected.from, selected.to).length > 0 && <CommandButton id="edit.bringBack" />}
          {selected && <CommandButton id="edit.holdTime">Hold time</CommandButton>}
          {selected && <CommandButton id="edit.takeOut">Take out</CommandButton>}
          <LookMenu hold={sheet.hold} onSend={() => setSending(true)} />
          <Button look="strong" onClick={() => void onPage()}>Put on the page</Button>
        </>
      }
    >
      <Sheet ref={sheet.handle} label={`Bench: ${piece.slug}`} model={model} look={sheet.look} onLook={sheet.setLook} onSelect={select} onPlace={(frame) => sheet.goTo(frame, false)} onNick={(frame) => { const at = toPiece(layout, frame); setChosen(at); toggle(at) }} place={place} playing={sheet.playing} />
      {row && (
        <section aria-label="Close-up" className="shrink-0 border-t border-rule bg-paper-low px-6 pt-2 pb-1">
          <div className="flex items-center gap-5 text-[13px]">
            <span className="text-[12px] font-semibold text-faint">Close-up</span>
            <span className="font-serif">{row.before} <span className="text-cut">/</span> {row.after}</span>
            <span>gap {(gapAt(kept, row.cut.at) / RATE).toFixed(2)} s</span>
            <span className="text-soft">fade {Math.round((row.cut.join.fade * 1000) / RATE)} ms</span>
            <span className="flex-1" />
            <span className="flex items-center gap-1 text-[12px] text-faint max-[1240px]:hidden"><CommandKey id="join.leftEarlier" /><CommandKey id="join.leftLater" /> what goes <CommandKey id="join.rightEarlier" /><CommandKey id="join.rightLater" /> what comes <CommandKey id="join.cutEarlier" /><CommandKey id="join.cutLater" /> the cut</span>
          </div>
          <CloseUp cut={row.cut} factsOf={factsOf} scale={scale} onMove={move} />
        </section>
      )}
      {sending && <SendDialog target={{ kind: 'actuality', id, ...(selected ? inPiece(selected) : {}) }} title={piece.slug} onClose={() => setSending(false)} />}
    </Shell>
  )
}

/** What lies between the last word before a place and the first after it. */
function gapAt(kept: readonly { at: Frames; end: Frames }[], at: Frames): Frames {
  const last = kept.filter((word) => word.end <= at + 1).at(-1)
  const next = kept.find((word) => word.at >= at - 1)
  return last && next ? Math.max(0, next.at - last.end) : 0
}

function StoryCrumb({ id }: { id: string }) {
  return <Crumb to={`/stories/${id}`}>{useStoryName(id)}</Crumb>
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
