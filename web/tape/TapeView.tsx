import { useCallback, useEffect, useMemo, useState } from 'react'
import { Link, useNavigate, useParams, useSearchParams } from 'react-router'
import { format, parseISO } from 'date-fns'
import { toast } from 'sonner'
import type { LineUpInfo } from '../../contract/lineups'
import type { TapeInfo, Use } from '../../contract/tapes'
import { unstruck, wholeTape } from '../../core/edits/ofTape'
import { normal } from '../../core/edits/editList'
import { flattened } from '../../core/edits/levelLine'
import { pieceWords } from '../../core/edits/pieceWords'
import { lineBetween } from '../../core/sound/level'
import { planOf, withSides } from '../../core/render/plan'
import { beyond, phraseStarts, speakerStarts } from '../../core/tape/marks'
import { frameOf, keptBefore } from '../../core/tape/skipping'
import {
  marksOf,
  offRecord,
  SPOKEN,
  strikesOf,
  tapeHead,
  tapeLevel,
  type OffRecord,
  type Side as TapeSide,
  type TapeStep,
} from '../../core/tape/tape'
import { cueLine, wordsIn } from '../../core/tape/words'
import { wordsOf } from '../../core/transcript/transcript'
import { clock, toFrames, tradeLength, type Frames } from '../../core/time'
import { post, Refused } from '../api/client'
import { useOnce } from '../api/useOnce'
import { oneAtATime } from '../commands/oneAtATime'
import { useFacts, useTape, useTapePieces, useUses } from '../api/queries'
import { ContextMenu, ViewMenu } from '../commands/CommandMenu'
import { useActingOn, useCommands } from '../commands/commands'
import { keep } from '../documents/lastStory'
import { useDocument, type OpenDocument } from '../documents/useDocument'
import { StoryFigures, useStoryName } from '../story/StoryFigures'
import { Others } from '../present/Others'
import { usePresence } from '../present/present'
import { SendDialog } from '../send/SendDialog'
import { Sheet } from '../sheet/Sheet'
import { useSheet } from '../sheet/useSheet'
import { nearZero } from '../sound/samples'
import { useScale } from '../sound/useScale'
import { Wave } from '../sound/wave'
import { Empty, MenuItem } from '../ui/parts'
import { EditableText } from '../ui/EditableText'
import { Crumb, Heading, Shell, Side } from '../shell/Shell'
import { SelectionFigures, Transport } from '../shell/Transport'
import { useKept } from '../ui/useKept'
import { sheetWords } from './tapeSheet'
import { TapeFiguresDialog } from '../levels/TapeFiguresDialog'
import { LineUpDialog } from '../lineup/LineUpDialog'
import { MadeOfPanel } from '../lineup/MadeOfPanel'
import { useFollowedUndo } from '../documents/useUndo'
import { GoesOn } from './GoesOn'
import { LogPanel } from './LogPanel'
import { reaction } from './reaction'
import { OnArrival } from './OnArrival'
import { useFigures } from '../api/queries'
import { BringInDialog } from '../words/BringInDialog'
import { useCorrecting } from '../words/useCorrecting'
import { LanguageChoice } from '../words/LanguageChoice'
import { VoicesPanel } from '../words/VoicesPanel'
import { WordEditor } from '../words/WordEditor'
import { WordsPanel } from '../words/WordsPanel'
import { WriteOutDialog } from '../transcript/WriteOutDialog'
import { SidesPanel } from './SidesPanel'
import { usePull } from './usePull'
import { useTapeLevels } from './useTapeLevels'
import { overlaps, united, without } from '../../core/stretches'
import { CommandButton, CommandKey } from '../commands/CommandButton'

export function TapeView() {
  const { id = '' } = useParams()
  const tape = useTape(id)
  const document = useDocument(id, 'tape')
  const transcript = useDocument(id, 'transcript')
  const said = transcript && 'body' in transcript ? transcript.body : null
  const words = useMemo(() => said && { tape: id, words: wordsOf(said) }, [id, said])
  const facts = useFacts(
    useMemo(() => [id], [id]),
    words,
  )
  if (tape.error instanceof Refused || (document && 'error' in document) || (transcript && 'error' in transcript))
    return (
      <Shell path={<Crumb>No tape here</Crumb>}>
        <Empty title="That tape is not here.">
          It may have been deleted, or the address is wrong. All tapes are under{' '}
          <Link className="underline" to="/tapes">
            Tapes
          </Link>
          .
        </Empty>
      </Shell>
    )
  if (tape.data && (tape.data.state === 'failed' || !tape.data.frames)) return <Arriving tape={tape.data} />
  if (!tape.data || !document || !transcript || !facts) return <Shell path={<Crumb>Opening …</Crumb>}>{null}</Shell>
  return <OpenTape key={id} tape={tape.data} document={document} transcript={transcript} facts={facts} />
}

function Arriving({ tape }: { tape: TapeInfo }) {
  return (
    <Shell
      path={
        <>
          <Crumb to="/tapes">Tapes</Crumb>
          <Crumb>{tape.name}</Crumb>
        </>
      }
    >
      {tape.twin ? (
        <Empty title="This one is here already.">
          {tape.error}{' '}
          <Link className="underline" to={`/tapes/${tape.twin}`}>
            Open that one
          </Link>
        </Empty>
      ) : tape.state === 'failed' ? (
        <Empty title="This one could not be read.">{tape.error}</Empty>
      ) : (
        <Empty title="Arriving …">
          <p>
            {tape.error ||
              'What comes is kept as it comes. Its wave shows, and it can be played and cut, as soon as enough of it is here to know what it is.'}
          </p>
        </Empty>
      )}
    </Shell>
  )
}

interface OpenTapeProps {
  tape: TapeInfo
  document: OpenDocument<'tape'>
  transcript: OpenDocument<'transcript'>
  facts: NonNullable<ReturnType<typeof useFacts>>
}

function OpenTape({ tape, document: { live, body }, transcript, facts }: OpenTapeProps) {
  const { id } = tape
  const navigate = useNavigate()
  const [params, setParams] = useSearchParams()
  const lineUp = params.get('lineUp')
  usePresence(id)
  const uses = useUses(id).data ?? NO_USES
  const pieces = useTapePieces(id).data
  const story = params.get('story') ?? keep.story()
  const head = tapeHead(body)
  const strikes = useMemo(() => strikesOf(body), [body])
  const levelRecord = tapeLevel(body)
  const level = levelRecord?.points
  const marks = useMemo(() => marksOf(body), [body])
  const off = useMemo(() => offRecord(body), [body])
  const words = facts.wordsOf(id)
  const shown = useMemo(() => sheetWords(words), [words])
  const [skipping, setSkipping] = useKept(`tape/${id}/skipping`, true)
  const [sending, setSending] = useState(false)
  const [measuring, setMeasuring] = useState(false)
  const [liningUp, setLiningUp] = useState(false)
  const [writing, setWriting] = useState(false)
  const [bringing, setBringing] = useState(false)
  const skip = skipping && strikes.length > 0

  // what is set here is heard at once, before the server has it
  const factsOf = useMemo(() => withSides(facts.factsOf, { sides: { [id]: head.sides } }), [facts, id, head.sides])
  const whole = useMemo(() => planOf(wholeTape(id, tape.frames, level), factsOf), [id, tape.frames, level, factsOf])
  const parts = useMemo(() => without({ from: 0, to: tape.frames }, strikes), [tape.frames, strikes])
  const plan = useMemo(
    () => (skip ? planOf(normal(unstruck(id, { from: 0, to: tape.frames }, strikes, level)), factsOf) : whole),
    [skip, id, tape.frames, strikes, level, factsOf, whole],
  )
  const toPlan = useCallback((frame: Frames) => (skip ? keptBefore(parts, frame) : frame), [skip, parts])
  const fromPlan = useCallback((position: Frames) => (skip ? frameOf(parts, position) : position), [skip, parts])
  const zero = useCallback((frame: Frames) => nearZero(factsOf(id), frame), [factsOf, id])

  const figures = useFigures(tape)
  const sheet = useSheet({
    owner: `tape/${id}`,
    length: tape.frames,
    words: shown,
    plan,
    toPlan,
    fromPlan,
    nearZero: zero,
    speech: figures?.speech,
    begin: { framesPerLine: toFrames(shown.length ? 5.5 : 10), even: false },
  })
  const { selected, passages, select, deselect, place } = sheet

  // some seconds of it count as having listened to it
  useEffect(() => {
    if (!sheet.playing) return
    const timer = setTimeout(() => void post(`/library/tapes/${id}/heard`, {}).catch(() => undefined), 5000)
    return () => clearTimeout(timer)
  }, [sheet.playing, id])

  const at = params.get('at')
  useEffect(() => {
    if (at === null) return
    sheet.setPlace(Number(at))
    requestAnimationFrame(() => requestAnimationFrame(() => sheet.handle.current?.reveal(Number(at), true)))
    // once, on coming here
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [at])

  const act = (steps: TapeStep[], label: string) => live.act(steps, { label })
  const setSides = (sides: TapeSide[], label: string) => act([{ type: 'set', id: 'tape', key: 'sides', value: sides }], label)
  useFollowedUndo(live, transcript.live)
  const correcting = useCorrecting({
    owner: `tape/${id}`,
    live: transcript.live,
    transcript: transcript.body,
    length: tape.frames,
    selected,
    place,
    playFrom: sheet.playFrom,
    stopAt: sheet.stopAt,
  })

  const strike = () => {
    if (!passages.length) return void toast('Select a passage first: drag over the sound or the words.')
    act(
      passages.map((stretch): TapeStep => ({ type: 'put', record: { id: crypto.randomUUID(), kind: 'strike', ...stretch } })),
      passages.length > 1 ? `strike ${passages.length} passages` : 'strike',
    )
    select(null)
  }
  const unstrike = () => {
    const over = passages.length ? passages : [{ from: place(), to: place() + 1 }]
    const touched = strikes.filter((strike) => over.some((at) => overlaps(strike, at)))
    const steps = touched.flatMap((strike): TapeStep[] => [
      { type: 'drop', id: strike.id },
      ...without(strike, passages.length ? passages : [strike]).map((rest): TapeStep => ({
        type: 'put',
        record: { id: crypto.randomUUID(), kind: 'strike', ...rest },
      })),
    ])
    act(steps, 'bring back')
  }

  const setOffRecord = () => {
    if (!passages.length) return void toast('Select the passage that is off the record.')
    const touched = Object.values(body.records).filter(
      (record): record is OffRecord => record.kind === 'off' && passages.some((at) => overlaps(record, at)),
    )
    if (!touched.length)
      act(
        passages.map((stretch): TapeStep => ({ type: 'put', record: { id: crypto.randomUUID(), kind: 'off', ...stretch } })),
        'off the record',
      )
    else
      act(
        touched.flatMap((record): TapeStep[] => [
          { type: 'drop', id: record.id },
          ...without(record, passages).map((rest): TapeStep => ({
            type: 'put',
            record: { id: crypto.randomUUID(), kind: 'off', ...rest },
          })),
        ]),
        'on the record',
      )
    toast(touched.length ? 'Back on the record.' : 'Off the record: it can be played here, but not pulled, exported or sent.')
  }

  const { pulling, goToPulled } = usePull({
    id,
    frames: tape.frames,
    live,
    pieces,
    story,
    passages,
    deselect,
    place,
    zero,
    factsOf,
    wordsOf: facts.wordsOf,
  })

  const splitting = useOnce(async (side: number) => {
    const { joining } = await post<LineUpInfo>('/lineups/split', { tape: id, side })
    toast.success(`“${joining!.name}” is being made; it will appear under Tapes.`)
  })

  const [freshMark, setFreshMark] = useState<string | null>(null)
  /** Where the key was pressed, less the time that a hand takes while it plays. */
  const mark = (star?: true) => {
    const made = crypto.randomUUID()
    const at = Math.max(0, Math.round(place() - (sheet.playing ? toFrames(reaction()) : 0)))
    act([{ type: 'put', record: { id: made, kind: 'mark', at, text: '', ...(star ? { star } : {}) } }], star ? 'star' : 'mark')
    if (!star) setFreshMark(made)
  }
  const step = (places: Frames[], by: 1 | -1) => {
    const next = beyond(places, place(), by, sheet.playing ? toFrames(0.8) : 0)
    if (next !== null) sheet.goTo(next)
  }
  // without words, by where somebody begins to speak after a pause
  const phrases = () => (words.length ? phraseStarts(words, (i) => shown[i].phraseEnd) : (figures?.speech ?? []).map(({ from }) => from))

  /** From the tape to the piece that stands here, or was just pulled. */
  const across = async () => {
    if (await goToPulled()) return
    const here = uses.find((use) => use.stretches.some((stretch) => stretch.from <= place() && stretch.to > place())) ?? uses[0]
    if (here) void navigate(`/pieces/${here.piece}?tapeAt=${Math.round(place())}`)
    else toast('Nothing has been pulled from this tape yet.')
  }

  const levels = useTapeLevels({
    id,
    frames: tape.frames,
    live,
    level,
    plan: whole,
    factsOf,
    words: shown,
    selected,
    passages,
    place,
    goTo: sheet.goTo,
  })

  useActingOn({ selection: passages.length > 0, join: false })
  useCommands(
    oneAtATime(
      {
        'edit.takeOut': { run: strike, title: 'Strike' },
        'edit.bringBack': levels.trying ? { run: levels.take, title: 'Apply' } : { run: unstrike, title: 'Unstrike' },
        'edit.pull': {
          run: pulling.run,
          title: passages.length > 1 ? `Pull ${passages.length} as one actuality` : undefined,
          unable: pulling.busy ? 'Being pulled.' : null,
        },
        'edit.offRecord': setOffRecord,
        'edit.mark': () => mark(),
        'edit.star': () => mark(true),
        'play.phraseBack': () => step(phrases(), -1),
        'play.phraseOn': () => step(phrases(), 1),
        'play.speakerBack': () => step(speakerStarts(words), -1),
        'play.speakerOn': () => step(speakerStarts(words), 1),
        'play.markBack': () =>
          step(
            marks.map(({ at }) => at),
            -1,
          ),
        'play.markOn': () =>
          step(
            marks.map(({ at }) => at),
            1,
          ),
        ...levels.commands,
        'level.off': {
          run: () =>
            levelRecord &&
            act(
              [
                {
                  type: 'set',
                  id: levelRecord.id,
                  key: 'points',
                  value: flattened(levelRecord.points, selected ?? { from: 0, to: tape.frames }),
                },
              ],
              'level as recorded',
            ),
          unable: levelRecord?.points.length ? null : 'This tape has no level line.',
        },
        'view.figures': () => setMeasuring(true),
        'play.skipStruck': { run: () => setSkipping(!skipping), on: skipping },
        'page.send': { run: () => setSending(true), title: selected ? 'Send the selection' : 'Send the tape' },
        'go.up': () => void navigate(story ? `/stories/${story}` : '/'),
        'go.across': { title: 'To the piece', run: () => void across() },
      },
      passages.length > 1,
    ),
  )

  const scale = useScale(tape)
  const wave = useMemo(() => new Wave(whole), [whole])
  const second = useMemo(() => {
    const [, ...others] = head.sides
    if (!others.length || others.some((side) => side.channels.length > 1)) return undefined
    return {
      wave: new Wave(planOf(wholeTape(id, tape.frames, level), withSides(factsOf, { sides: { [id]: others } }))),
      speakers: new Set(others.map((side) => side.name)),
    }
  }, [head.sides, id, tape.frames, level, factsOf])
  const model = useMemo(
    () => ({
      length: tape.frames,
      words: shown,
      wave,
      second,
      scale,
      shades: [
        ...off.map((stretch) => ({ ...stretch, look: 'off' as const })),
        ...united(strikes)
          .flatMap((stretch) => without(stretch, off))
          .map((stretch) => ({ ...stretch, look: 'struck' as const })),
      ].sort((a, b) => a.from - b.from),
      used: uses.filter((use) => !use.aside).flatMap((use) => use.stretches),
      nicks: [],
      lines: levelRecord?.points.length ? [lineBetween(levelRecord.points, 0, tape.frames)] : [],
      marks,
      selection: sheet.selection,
      also: sheet.also,
    }),
    [tape.frames, shown, wave, second, scale, strikes, off, uses, marks, levelRecord, sheet.selection, sheet.also],
  )

  const chosenWords = selected ? wordsIn(words, selected.from, selected.to).length : 0
  return (
    <Shell
      path={
        <>
          {story ? <StoryCrumb id={story} /> : <Crumb to="/tapes">Tapes</Crumb>}
          <span className="text-grain" aria-hidden>
            /
          </span>
          <EditableText
            label="Name of the tape"
            value={head.name}
            className="min-w-0 font-semibold text-ink"
            onKeep={(value) => value && act([{ type: 'set', id: 'tape', key: 'name', value }], 'rename')}
          />
        </>
      }
      right={
        <>
          {story && <StoryFigures id={story} />}
          <Others document={id} />
        </>
      }
      aside={
        <Side label="About this tape">
          <Heading>Pulled from this tape</Heading>
          {uses.length === 0 && (
            <p className="py-3 text-faint">
              Nothing yet. Select a passage and press <CommandKey id="edit.pull" />
            </p>
          )}
          <ul>
            {uses.map((use) => {
              const piece = pieces?.find((row) => row.id === use.piece)
              const text = piece ? pieceWords(piece.body.spans, facts.wordsOf, piece.body.sides) : []
              return (
                <li key={use.piece} className={`border-b border-rule ${use.aside ? 'opacity-60' : ''}`}>
                  <Link to={`/pieces/${use.piece}`} className="block py-2.5 hover:bg-paper-low">
                    <span className="flex justify-between gap-3 font-semibold">
                      <span className="min-w-0 truncate">{use.slug || 'Untitled'}</span>
                      <span>{tradeLength(use.words)}</span>
                    </span>
                    {text.length > 0 && <span className="block font-serif text-[13px] text-soft italic">“{cueLine(text)}”</span>}
                    <span className="block text-[12px] text-faint">
                      pulled {format(parseISO(use.at), 'd MMM, HH:mm')}
                      {use.aside ? ', set aside' : ''}
                    </span>
                  </Link>
                </li>
              )
            })}
          </ul>
          <div className="h-6" />
          <Heading>Transcript</Heading>
          <WordsPanel tape={tape} transcript={transcript.body} />
          <VoicesPanel tape={tape} live={transcript.live} transcript={transcript.body} selected={selected} />
          <div className="h-6" />
          <Heading>Log</Heading>
          <LogPanel
            tape={id}
            marks={marks}
            fresh={freshMark}
            onWritten={() => setFreshMark(null)}
            act={act}
            onGo={(frame) => sheet.goTo(frame)}
          />
          <div className="h-6" />
          <Heading>Sides</Heading>
          {tape.channels > 1 && (
            <SidesPanel
              sides={head.sides}
              channels={tape.channels}
              selected={selected}
              onSet={setSides}
              onSplit={(side) => splitting.run(side)}
            />
          )}
          <MadeOfPanel tape={id} />
          {tape.state === 'ready' && (
            <p className="py-2 text-[13px]">
              <button type="button" className="text-tape hover:underline" onClick={() => setLiningUp(true)}>
                {lineUp ? 'Go on lining up' : 'Line up with other recordings'} …
              </button>
            </p>
          )}
          <div className="h-6" />
          <Heading>The tape</Heading>
          <OnArrival tape={tape} sides={head.sides} onFix={setSides} />
          <GoesOn tape={tape} />
          <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-1 py-2 text-[13px]">
            <dt className="text-faint">Speaker</dt>
            <dd>
              <EditableText
                label="Speaker"
                value={head.speaker}
                placeholder="who speaks"
                onKeep={(value) => act([{ type: 'set', id: 'tape', key: 'speaker', value }], 'speaker')}
              />
            </dd>
            <dt className="text-faint">Role</dt>
            <dd>
              <EditableText
                label="Role"
                value={head.role}
                placeholder="role"
                onKeep={(value) => act([{ type: 'set', id: 'tape', key: 'role', value }], 'role')}
              />
            </dd>
            <dt className="text-faint">Language</dt>
            <dd>
              <LanguageChoice
                value={head.language ?? SPOKEN}
                onKeep={(value) => act([{ type: 'set', id: 'tape', key: 'language', value }], 'language')}
              />
            </dd>
            <dt className="text-faint">Recorded</dt>
            <dd>
              {head.day
                ? `${format(parseISO(head.day), 'd MMMM yyyy')}${tape.origin.time ? `, ${tape.origin.time.slice(0, 5)}` : ''}`
                : 'nobody noted when'}
            </dd>
            {[tape.origin.description, tape.origin.notes].some(Boolean) && (
              <>
                <dt className="text-faint">Noted</dt>
                <dd className="min-w-0 break-words">{[tape.origin.description, tape.origin.notes].filter(Boolean).join('. ')}</dd>
              </>
            )}
            {tape.origin.originator && (
              <>
                <dt className="text-faint">Recorder</dt>
                <dd className="min-w-0 break-words">{tape.origin.originator}</dd>
              </>
            )}
            <dt className="text-faint">File</dt>
            <dd className="min-w-0 break-words">
              {tape.format}, {((tape.bytes || tape.size) / 1e6).toFixed(1)} MB
            </dd>
            <dt className="text-faint">Room tone</dt>
            <dd>
              {tape.state === 'arriving'
                ? 'known once all of it is here'
                : tape.tone.made
                  ? 'made from its noise floor: no stretch is quiet enough'
                  : `its own, ${tape.tone.quiet.length} quiet ${tape.tone.quiet.length === 1 ? 'stretch' : 'stretches'}`}
            </dd>
            {tape.sha256 && (
              <>
                <dt className="text-faint">SHA-256</dt>
                <dd className="truncate" title={tape.sha256}>
                  {tape.sha256.slice(0, 16)}…
                </dd>
              </>
            )}
          </dl>
        </Side>
      }
      foot={
        <>
          <Transport playing={sheet.playing} place={place}>
            <span className="shrink-0 text-faint">of {clock(tape.frames)}</span>
          </Transport>
          <SelectionFigures selection={selected} passages={passages} length={tape.frames} words={chosenWords} onSelect={select} />
          <span className="flex-1" />
          <ViewMenu>
            {tape.state === 'ready' && <MenuItem onSelect={() => setBringing(true)}>Import transcript …</MenuItem>}
            {(words.length > 0 || marks.length > 0) && <MenuItem onSelect={() => setWriting(true)}>Export transcript …</MenuItem>}
          </ViewMenu>
          {passages.length > 0 && <CommandButton id="edit.takeOut">Strike</CommandButton>}
          <CommandButton id="edit.pull" look="strong" disabled={pulling.busy}>
            {passages.length > 1 ? `Pull ${passages.length} as one actuality` : 'Pull as actuality'}
          </CommandButton>
        </>
      }
    >
      <ContextMenu ids={HERE}>
        <div className="flex min-h-44 min-w-0 flex-1">
          <Sheet
            ref={sheet.handle}
            owner={sheet.owner}
            language={head.language ?? SPOKEN}
            label={`Sheet of ${head.name}`}
            model={model}
            look={sheet.look}
            onLook={sheet.setLook}
            onSelect={select}
            onBegin={sheet.begin}
            onUnchoose={sheet.unchoose}
            onPlace={(frame) => sheet.goTo(frame, false)}
            onScrub={sheet.scrub}
            onMovePoint={levels.movePoint}
            onMoveMark={(moved, at) => act([{ type: 'set', id: moved, key: 'at', value: at }], 'move a mark')}
            place={place}
            playing={sheet.playing}
          >
            {correcting.now && (
              <WordEditor
                now={correcting.now}
                text={correcting.text}
                sheet={sheet.handle}
                onKeep={correcting.keep}
                onLeave={correcting.leave}
                onOnwards={correcting.onwards}
              />
            )}
          </Sheet>
        </div>
      </ContextMenu>
      {levels.panel}
      {measuring && (
        <TapeFiguresDialog
          tape={tape}
          plan={whole}
          selected={selected}
          onGo={(frame) => sheet.goTo(frame)}
          onClose={() => setMeasuring(false)}
        />
      )}
      {bringing && <BringInDialog tape={id} name={head.name} onGo={(frame) => sheet.goTo(frame)} onClose={() => setBringing(false)} />}
      {writing && <WriteOutDialog id={id} name={head.name} selected={selected} onClose={() => setWriting(false)} />}
      {liningUp && (
        <LineUpDialog
          tape={tape}
          lineUp={lineUp}
          onLineUp={(made) =>
            setParams(
              (now) => {
                if (made) now.set('lineUp', made)
                else now.delete('lineUp')
                return now
              },
              { replace: true },
            )
          }
          onClose={() => setLiningUp(false)}
        />
      )}
      {sending && <SendDialog target={{ kind: 'tape', id, ...selected }} title={head.name} onClose={() => setSending(false)} />}
    </Shell>
  )
}

function StoryCrumb({ id }: { id: string }) {
  const name = useStoryName(id)
  return <Crumb to={`/stories/${id}`}>{name}</Crumb>
}

const NO_USES: Use[] = []

/** What can be done where one clicks, with nothing selected. */
const HERE = [
  'play.toggle',
  'edit.mark',
  'edit.star',
  'select.in',
  'select.out',
  'edit.bringBack',
  'words.correct',
  'edit.undo',
  'edit.redo',
  'view.zoomIn',
  'view.zoomOut',
] as const
