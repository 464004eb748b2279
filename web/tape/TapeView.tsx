import { useEffect, useMemo, useState } from 'react'
import { Link, useNavigate, useParams, useSearchParams } from 'react-router'
import { toast } from 'sonner'
import type { TapeInfo, Use } from '../../contract/tapes'
import { lineBetween } from '../../core/sound/level'
import { levelInForce, sidesInForce } from '../../core/tape/inForce'
import { marksOf, renditionsOf, offRecord, SPOKEN, strikesOf, tapeHead, tapeLevel, type Side, type TapeStep } from '../../core/tape/tape'
import { madeFor, switched } from '../../core/tape/renditions'
import { wordsIn } from '../../core/tape/words'
import { wordsOf } from '../../core/transcript/transcript'
import { clock, toFrames, type Stretch } from '../../core/time'
import { post, Refused } from '../api/client'
import { oneAtATime } from '../commands/oneAtATime'
import { oneList } from '../commands/oneList'
import { useFacts, useTape, useTapePieces, useUses } from '../api/queries'
import { ContextMenu, ViewMenu } from '../commands/CommandMenu'
import { useActingOn, useCommands, type Handlers } from '../commands/commands'
import { keep } from '../documents/lastStory'
import { useDocument, type OpenDocument } from '../documents/useDocument'
import { StoryCrumb } from '../story/StoryCrumb'
import { StoryFigures } from '../story/StoryFigures'
import { Others } from '../present/Others'
import { usePresence } from '../present/present'
import { Sheet } from '../sheet/Sheet'
import { useSheet } from '../sheet/useSheet'
import { useScale } from '../sound/useScale'
import { Empty, MenuItem } from '../ui/parts'
import { EditableText } from '../ui/EditableText'
import { Crumb, Shell } from '../shell/Shell'
import { SelectionFigures, Transport } from '../shell/Transport'
import { useKept } from '../ui/useKept'
import { sheetWords, tapeShades } from './tapeSheet'
import { useFollowedUndo } from '../documents/useUndo'
import { useTrying } from '../mend/useTrying'
import { Arriving } from './Arriving'
import { reaction } from '../marks/reaction'
import { useFigures } from '../api/queries'
import { useCorrecting } from '../words/useCorrecting'
import { WordEditor } from '../words/WordEditor'
import { HERE } from './here'
import { TapeDialogs, type TapeDialog } from './TapeDialogs'
import { TapeSide } from './TapeSide'
import { useTapeSound } from './useTapeSound'
import { useLayUnder } from './useLayUnder'
import { useTidying } from './useTidying'
import { usePull } from './usePull'
import { useTapeBeside } from './useTapeBeside'
import { useSteps } from './useSteps'
import { useStrikeActs } from './useStrikeActs'
import { useTapeLevels } from './useTapeLevels'
import { CommandButton } from '../commands/CommandButton'

export function TapeView() {
  const { id = '' } = useParams()
  const [params] = useSearchParams()
  const story = params.get('story') ?? keep.story()
  // also while a tape is being opened, and where one cannot be
  useCommands(useTapeBeside(id, story))
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
  return <OpenTape key={id} story={story} tape={tape.data} document={document} transcript={transcript} facts={facts} />
}

interface OpenTapeProps {
  story: string | null
  tape: TapeInfo
  document: OpenDocument<'tape'>
  transcript: OpenDocument<'transcript'>
  facts: NonNullable<ReturnType<typeof useFacts>>
}

function OpenTape({ story, tape, document: { live, body }, transcript, facts }: OpenTapeProps) {
  const { id } = tape
  const navigate = useNavigate()
  const [params] = useSearchParams()
  usePresence(id)
  const uses = useUses(id).data ?? NO_USES
  const pieces = useTapePieces(id).data
  const head = tapeHead(body)
  const strikes = useMemo(() => strikesOf(body), [body])
  const levelRecord = tapeLevel(body)
  const level = useMemo(() => levelInForce(body), [body])
  const sides = useMemo(() => sidesInForce(body), [body])
  const renditions = useMemo(() => renditionsOf(body), [body])
  const marks = useMemo(() => marksOf(body), [body])
  const off = useMemo(() => offRecord(body), [body])
  const words = facts.wordsOf(id)
  const shown = useMemo(() => sheetWords(words), [words])
  const [skipping, setSkipping] = useKept(`tape/${id}/skipping`, true)
  const [open, setOpen] = useState<TapeDialog | null>(null)
  const { heard, onTry } = useTrying(sides)
  const skip = skipping && strikes.length > 0
  const { factsOf, whole, plan, toPlan, fromPlan, zero, wave, second } = useTapeSound(tape, heard, strikes, level, facts.factsOf, skip)
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
  const setHead = (key: string, value: string, label: string) => act([{ type: 'set', id: 'tape', key, value }], label)
  const setSides = (sides: Side[], label: string) => act([{ type: 'set', id: 'tape', key: 'sides', value: sides }], label)
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

  const { strike, unstrike, setOffRecord } = useStrikeActs({ body, strikes, passages, place, select, act })

  const { pulling, goToPulled, pullToBoard } = usePull({
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

  const [freshMark, setFreshMark] = useState<string | null>(null)
  /** Where the key was pressed, less the time that a hand takes while it plays. */
  const mark = (star?: true) => {
    const made = crypto.randomUUID()
    const at = Math.max(0, Math.round(place() - (sheet.playing ? toFrames(reaction()) : 0)))
    act([{ type: 'put', record: { id: made, kind: 'mark', at, text: '', ...(star ? { star } : {}) } }], star ? 'star' : 'mark')
    if (!star) setFreshMark(made)
  }
  const steps = useSteps({ words, shown, marks, speech: figures?.speech ?? NO_SPEECH, playing: sheet.playing, place, goTo: sheet.goTo })
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
    level: levelRecord?.points,
    plan: whole,
    factsOf,
    words: shown,
    selected,
    passages,
    place,
    goTo: sheet.goTo,
  })

  const tidying = useTidying({
    tape,
    live,
    body,
    strikes,
    off,
    speech: figures?.speech,
    factsOf,
    wordsOf: facts.wordsOf,
    goTo: (frame) => sheet.goTo(frame),
    free: !passages.length,
  })
  const { atPlace } = tidying
  const layUnder = useLayUnder(tape, story, selected)

  useActingOn({ selection: passages.length > 0, join: false })
  const own = {
    'edit.takeOut': { run: strike, title: 'Strike' },
    'edit.bringBack': { run: unstrike, title: 'Unstrike' },
    'edit.pull': {
      run: pulling.run,
      title: passages.length > 1 ? `Pull ${passages.length} as one actuality` : undefined,
      unable: pulling.busy ? 'Being pulled.' : null,
    },
    'edit.onBoard': { run: pullToBoard.run, title: 'Pull to the board', unable: pullToBoard.busy ? 'Being pulled.' : null },
    'edit.offRecord': setOffRecord,
    'voice.treated': {
      unable: madeFor(tape.renditions).length ? null : 'Nothing was done to its sound.',
      run: () => {
        const sides = switched(head.sides, madeFor(tape.renditions))
        setSides(sides, sides.some(({ rendition }) => rendition) ? 'hear as treated' : 'hear as recorded')
      },
    },
    'edit.mark': () => mark(),
    'edit.star': () => mark(true),
    'view.figures': () => setOpen('measuring'),
    'play.skipStruck': { run: () => setSkipping(!skipping), on: skipping },
    'page.layUnder': layUnder,
    'page.send': { run: () => setOpen('sending'), title: selected ? 'Send the selection' : 'Send the tape' },
    'go.up': () => void navigate(story ? `/stories/${story}` : '/'),
    'go.across': { title: 'To the piece', run: () => void across() },
  } satisfies Handlers
  /** What keys do in place of that while a place of Tidy is looked at, or a level is tried. */
  const instead: Handlers = {
    ...(atPlace && {
      'play.across': atPlace.across,
      'play.before': atPlace.before,
      'edit.takeOut': atPlace.takeOut,
      'edit.bringBack': atPlace.bringBack,
      ...atPlace.changes,
    }),
    ...(levels.trying && { 'edit.bringBack': { run: levels.take, title: 'Apply' } }),
    ...(levels.letGo && { 'select.clear': levels.letGo }),
  }
  useCommands(oneAtATime({ ...oneList(own, steps, levels.commands), ...tidying.commands, ...instead }, passages.length > 1))

  const scale = useScale(tape)
  const shades = useMemo(() => tapeShades(strikes, off), [strikes, off])
  const model = useMemo(
    () => ({
      length: tape.frames,
      words: shown,
      wave,
      second,
      scale,
      shades,
      used: uses.filter((use) => !use.aside).flatMap((use) => use.stretches),
      nicks: [],
      lines: level?.length ? [lineBetween(level, 0, tape.frames)] : [],
      marks,
      found: tidying.found,
      selection: sheet.selection,
      also: sheet.also,
    }),
    [tape.frames, shown, wave, second, scale, shades, uses, marks, tidying.found, level, sheet.selection, sheet.also],
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
            onKeep={(value) => value && setHead('name', value, 'rename')}
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
        tidying.panel || (
          <TapeSide
            tape={tape}
            head={head}
            uses={uses}
            pieces={pieces}
            wordsOf={facts.wordsOf}
            transcript={transcript}
            renditions={renditions}
            onTry={onTry}
            marks={marks}
            fresh={freshMark}
            selected={selected}
            lineUp={params.get('lineUp')}
            onWritten={() => setFreshMark(null)}
            act={act}
            onGo={(frame) => sheet.goTo(frame)}
            onLineUp={() => setOpen('liningUp')}
          />
        )
      }
      foot={
        <>
          <Transport playing={sheet.playing} place={place}>
            <span className="shrink-0 text-faint">of {clock(tape.frames)}</span>
          </Transport>
          <SelectionFigures selection={selected} passages={passages} length={tape.frames} words={chosenWords} onSelect={select} />
          <span className="flex-1" />
          <ViewMenu>
            {tape.state === 'ready' && <MenuItem onSelect={() => setOpen('bringing')}>Import transcript …</MenuItem>}
            {(words.length > 0 || marks.length > 0) && <MenuItem onSelect={() => setOpen('writing')}>Export transcript …</MenuItem>}
          </ViewMenu>
          {!tidying.open && !passages.length && tape.state === 'ready' && <CommandButton id="tidy.open">Tidy</CommandButton>}
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
      <TapeDialogs
        open={open}
        tape={tape}
        name={head.name}
        plan={whole}
        selected={selected}
        onGo={(frame) => sheet.goTo(frame)}
        onClose={() => setOpen(null)}
      />
    </Shell>
  )
}

const NO_USES: Use[] = []
const NO_SPEECH: Stretch[] = []
