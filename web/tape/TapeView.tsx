import { useCallback, useEffect, useMemo, useState } from 'react'
import { Link, useNavigate, useParams, useSearchParams } from 'react-router'
import { toast } from 'sonner'
import { Menu as MenuIcon } from 'lucide-react'
import type { TapeInfo, Use } from '../../contract/tapes'
import { normal } from '../../core/edits/editList'
import { pull } from '../../core/edits/pull'
import { pieceWords } from '../../core/edits/pieceWords'
import { planOf } from '../../core/sound/plan'
import { frameOf, keptBefore, united } from '../../core/tape/skipping'
import { marksOf, strikesOf, tapeHead, unstruck, wholeTape, without, type TapeDocument, type TapeStep } from '../../core/tape/tape'
import { cueLine, wordsIn } from '../../core/tape/words'
import { clock, toFrames, tradeLength, type Frames } from '../../core/time'
import { put, Refused } from '../api/client'
import { useFacts, usePieces, useTape, useUses } from '../api/queries'
import { run, useCommands } from '../commands/commands'
import { keep } from '../documents/lastStory'
import { useDocument } from '../documents/useDocument'
import { StoryFigures, useStoryName } from '../page/StoryFigures'
import { SendDialog } from '../send/SendDialog'
import { Sheet } from '../sheet/Sheet'
import { useSheet } from '../sheet/useSheet'
import { nearZero } from '../sound/samples'
import { useScale } from '../sound/useScale'
import { Wave } from '../sound/wave'
import { CommandButton, CommandKey, Empty, Menu, MenuItem, Progress, Button } from '../ui/parts'
import { EditableText } from '../ui/EditableText'
import { TimeLeft } from '../ui/TimeLeft'
import { Crumb, Heading, Shell, Side } from '../ui/Shell'
import { SelectionFigures, Transport } from '../ui/Transport'
import { sheetWords } from './tapeSheet'
import { useFollowedUndo } from '../documents/useUndo'

export function TapeView() {
  const { id = '' } = useParams()
  const tape = useTape(id)
  const document = useDocument<TapeDocument>(id, 'tape')
  const facts = useFacts(useMemo(() => [id], [id]))
  if (tape.error instanceof Refused || (document && 'error' in document))
    return (
      <Shell path={<Crumb>No tape here</Crumb>}>
        <Empty title="That tape is not here.">It may have been taken away, or the address is wrong. All tapes are under <Link className="underline" to="/tapes">Tapes</Link>.</Empty>
      </Shell>
    )
  if (tape.data && tape.data.state !== 'ready') return <Arriving tape={tape.data} />
  if (!tape.data || !document || !facts) return <Shell path={<Crumb>Opening …</Crumb>}>{null}</Shell>
  return <OpenTape key={id} tape={tape.data} document={document} facts={facts} />
}

function Arriving({ tape }: { tape: TapeInfo }) {
  return (
    <Shell path={<><Crumb to="/tapes">Tapes</Crumb><Crumb>{tape.name}</Crumb></>}>
      {tape.state === 'failed' ? (
        <Empty title="This one could not be read.">{tape.error}</Empty>
      ) : (
        <Empty title="Arriving …">
          <p className="mb-4">The file is safe. It is being brought to 48 kHz and its wave is being drawn.</p>
          <Progress value={tape.progress} label="Arrival" />
          <p className="mt-2 text-[13px]"><TimeLeft progress={tape.progress} /></p>
        </Empty>
      )}
    </Shell>
  )
}

function OpenTape({ tape, document: { live, body }, facts }: { tape: TapeInfo; document: { live: Parameters<typeof useFollowedUndo>[0]; body: TapeDocument }; facts: NonNullable<ReturnType<typeof useFacts>> }) {
  const { id } = tape
  const navigate = useNavigate()
  const [params] = useSearchParams()
  const uses = useUses(id).data ?? NO_USES
  const pieces = usePieces().data
  const story = params.get('story') ?? keep.story()
  const head = tapeHead(body)
  const strikes = useMemo(() => strikesOf(body), [body])
  const marks = useMemo(() => marksOf(body), [body])
  const words = facts.wordsOf(id)
  const shown = useMemo(() => sheetWords(words), [words])
  const [skipping, setSkipping] = useState(true)
  const [sending, setSending] = useState(false)
  const skip = skipping && strikes.length > 0

  const whole = useMemo(() => planOf(wholeTape(id, tape.frames), facts.factsOf), [id, tape.frames, facts])
  const parts = useMemo(() => without({ from: 0, to: tape.frames }, strikes), [tape.frames, strikes])
  const plan = useMemo(() => (skip ? planOf(normal(unstruck(id, { from: 0, to: tape.frames }, strikes)), facts.factsOf) : whole), [skip, id, tape.frames, strikes, facts, whole])
  const toPlan = useCallback((frame: Frames) => (skip ? keptBefore(parts, frame) : frame), [skip, parts])
  const fromPlan = useCallback((position: Frames) => (skip ? frameOf(parts, position) : position), [skip, parts])
  const zero = useCallback((frame: Frames) => nearZero(facts.factsOf(id), frame), [facts, id])

  const sheet = useSheet({
    owner: `tape/${id}`,
    length: tape.frames,
    words: shown,
    plan,
    toPlan,
    fromPlan,
    nearZero: zero,
    begin: { framesPerLine: toFrames(shown.length ? 5.5 : 10), even: false },
  })
  const { selected, select, place } = sheet

  const at = params.get('at')
  useEffect(() => {
    if (at === null) return
    sheet.setPlace(Number(at))
    requestAnimationFrame(() => requestAnimationFrame(() => sheet.handle.current?.reveal(Number(at), true)))
    // once, on coming here
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [at])

  const act = (steps: TapeStep[], label: string) => live.act(steps, { label })
  useFollowedUndo(live)

  const strike = () => {
    if (!selected) return void toast('Select something first: drag over the sound or the words.')
    act([{ type: 'put', record: { id: crypto.randomUUID(), kind: 'strike', ...selected } }], 'strike')
    select(null)
  }
  const unstrike = () => {
    const at = selected ?? { from: place(), to: place() + 1 }
    const touched = strikes.filter((strike) => strike.from < at.to && strike.to > at.from)
    const steps = touched.flatMap((strike): TapeStep[] => [
      { type: 'drop', id: strike.id },
      ...without(strike, [at.to - at.from > 1 ? at : strike]).map((rest): TapeStep => ({ type: 'put', record: { id: crypto.randomUUID(), kind: 'strike', ...rest } })),
    ])
    act(steps, 'bring back')
  }

  const [pulling, setPulling] = useState(false)
  const pullIt = async () => {
    if (!selected) return void toast('Select a passage first: drag over the words, or mark in and out while it plays.')
    setPulling(true)
    try {
      const [from, to] = await Promise.all([zero(selected.from), zero(selected.to)])
      const stretch = to > from ? { from, to } : selected
      const piece = pull({ tape: id, tapeLength: tape.frames, stretch, struck: strikes, words, story, speaker: head.speaker, role: head.role })
      if (!piece) return void toast('All of that is struck, so there is nothing to pull.')
      const made = crypto.randomUUID()
      await put(`/documents/${made}`, piece)
      select(null)
      toast.success(`Pulled “${piece.slug}”`, { action: { label: 'To the Bench', onClick: () => void navigate(`/pieces/${made}`) } })
    } catch (error) {
      toast.error((error as Error).message)
    } finally {
      setPulling(false)
    }
  }

  const mark = () => act([{ type: 'put', record: { id: crypto.randomUUID(), kind: 'mark', at: Math.round(place()), text: '' } }], 'mark')

  useCommands({
    'edit.takeOut': strike,
    'edit.bringBack': unstrike,
    'edit.pull': () => void pullIt(),
    'edit.mark': mark,
    'play.skipStruck': () => setSkipping(!skipping),
    'page.send': () => setSending(true),
    'go.up': () => void navigate(story ? `/stories/${story}` : '/'),
    'go.across': () => {
      const here = uses.find((use) => use.stretches.some((stretch) => stretch.from <= place() && stretch.to > place())) ?? uses[0]
      if (here) void navigate(`/pieces/${here.piece}?tapeAt=${Math.round(place())}`)
      else toast('Nothing has been pulled from this tape yet.')
    },
  })

  const scale = useScale(tape)
  const wave = useMemo(() => new Wave(whole), [whole])
  const model = useMemo(
    () => ({
      length: tape.frames,
      words: shown,
      wave,
      scale,
      shades: united(strikes).map((stretch) => ({ ...stretch, look: 'struck' as const })),
      used: uses.filter((use) => !use.aside).flatMap((use) => use.stretches),
      nicks: [],
      marks,
      selection: sheet.selection,
    }),
    [tape.frames, shown, wave, scale, strikes, uses, marks, sheet.selection],
  )

  const chosenWords = selected ? wordsIn(words, selected.from, selected.to).length : 0
  return (
    <Shell
      path={
        <>
          {story ? <StoryCrumb id={story} /> : <Crumb to="/tapes">Tapes</Crumb>}
          <span className="text-grain" aria-hidden>/</span>
          <EditableText label="Name of the tape" value={head.name} className="min-w-0 font-semibold text-ink" onKeep={(value) => value && act([{ type: 'set', id: 'tape', key: 'name', value }], 'rename')} />
        </>
      }
      right={story ? <StoryFigures id={story} /> : undefined}
      aside={
        <Side label="About this tape">
          <Heading>Pulled from this tape</Heading>
          {uses.length === 0 && <p className="py-3 text-faint">Nothing yet. Select a passage and press <CommandKey id="edit.pull" /></p>}
          <ul>
            {uses.map((use) => {
              const piece = pieces?.find((row) => row.id === use.piece)
              const text = piece ? pieceWords(piece.body.spans, facts.wordsOf) : []
              return (
                <li key={use.piece} className={`border-b border-rule ${use.aside ? 'opacity-60' : ''}`}>
                  <Link to={`/pieces/${use.piece}`} className="block py-2.5 hover:bg-paper-low">
                    <span className="flex justify-between gap-3 font-semibold">
                      <span className="min-w-0 truncate">{use.slug || 'Untitled'}</span>
                      <span>{tradeLength(use.words)}</span>
                    </span>
                    {text.length > 0 && <span className="block font-serif text-[13px] text-soft italic">“{cueLine(text)}”</span>}
                  </Link>
                </li>
              )
            })}
          </ul>
          <div className="h-6" />
          <Heading>Log</Heading>
          {marks.length === 0 && <p className="py-3 text-faint">No marks. <CommandKey id="edit.mark" /> drops one where it plays.</p>}
          <ul>
            {marks.map((one) => (
              <li key={one.id} className="flex items-center gap-2 border-b border-rule py-1.5">
                <EditableText label="What the mark says" value={one.text} placeholder="a word or two" className="min-w-0 flex-1 text-[13px]" onKeep={(text) => act([{ type: 'set', id: one.id, key: 'text', value: text }], 'mark')} />
                <button type="button" className="text-[13px] text-soft hover:text-ink hover:underline" onClick={() => sheet.goTo(one.at)}>{clock(one.at)}</button>
                <button type="button" aria-label={`Take the mark at ${clock(one.at)} away`} className="px-1 text-faint hover:text-cut-ink" onClick={() => act([{ type: 'drop', id: one.id }], 'mark')}>×</button>
              </li>
            ))}
          </ul>
          <div className="h-6" />
          <Heading>The tape</Heading>
          <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-1 py-2 text-[13px]">
            <dt className="text-faint">Speaker</dt>
            <dd><EditableText label="Speaker" value={head.speaker} placeholder="who speaks" onKeep={(value) => act([{ type: 'set', id: 'tape', key: 'speaker', value }], 'speaker')} /></dd>
            <dt className="text-faint">Role</dt>
            <dd><EditableText label="Role" value={head.role} placeholder="as what" onKeep={(value) => act([{ type: 'set', id: 'tape', key: 'role', value }], 'role')} /></dd>
            <dt className="text-faint">Sides</dt>
            <dd>{head.sides.map((side) => side.name || (side.channels.length === 2 ? 'stereo' : 'one')).join(', ')}</dd>
            <dt className="text-faint">Came as</dt>
            <dd className="min-w-0 break-words">{tape.format}, {(tape.bytes / 1e6).toFixed(1)} MB</dd>
            <dt className="text-faint">Room tone</dt>
            <dd>{tape.tone.made ? 'made from its noise floor: no stretch is quiet enough' : `its own, ${tape.tone.quiet.length} quiet ${tape.tone.quiet.length === 1 ? 'stretch' : 'stretches'}`}</dd>
            <dt className="text-faint">SHA-256</dt>
            <dd className="truncate" title={tape.sha256}>{tape.sha256.slice(0, 16)}…</dd>
          </dl>
        </Side>
      }
      foot={
        <>
          <Transport playing={sheet.playing} place={place}>
            <span className="shrink-0 text-faint max-[1180px]:hidden">of {clock(tape.frames)}</span>
          </Transport>
          <SelectionFigures selection={selected} length={tape.frames} words={chosenWords} onSelect={select} />
          <span className="flex-1" />
          <LookMenu skipping={skipping} hold={sheet.hold} onSend={() => setSending(true)} />
          {selected && <CommandButton id="edit.takeOut">Strike</CommandButton>}
          <CommandButton id="edit.pull" look="strong" disabled={pulling}>Pull as actuality</CommandButton>
        </>
      }
    >
      <Sheet ref={sheet.handle} label={`Sheet of ${head.name}`} model={model} look={sheet.look} onLook={sheet.setLook} onSelect={select} onPlace={(frame) => sheet.goTo(frame, false)} place={place} playing={sheet.playing} />
      {sending && <SendDialog target={{ kind: 'tape', id, ...selected }} title={selected ? `${clock(selected.to - selected.from)} of ${head.name}` : head.name} onClose={() => setSending(false)} />}
    </Shell>
  )
}

function StoryCrumb({ id }: { id: string }) {
  const name = useStoryName(id)
  return <Crumb to={`/stories/${id}`}>{name}</Crumb>
}

const NO_USES: Use[] = []

/** The quieter commands of a Sheet. */
export function LookMenu({ skipping, hold, onSend }: { skipping?: boolean; hold: boolean; onSend: () => void }) {
  return (
    <Menu label="More" trigger={<Button look="bare"><MenuIcon size={16} /></Button>}>
      <MenuItem onSelect={() => run('view.even')}>Even time, or bent to the words <CommandKey id="view.even" /></MenuItem>
      <MenuItem onSelect={() => run('view.zoomIn')}>Fewer seconds a line <CommandKey id="view.zoomIn" /></MenuItem>
      <MenuItem onSelect={() => run('view.zoomOut')}>More seconds a line <CommandKey id="view.zoomOut" /></MenuItem>
      <MenuItem onSelect={() => run('view.taller')}>Taller waveform <CommandKey id="view.taller" /></MenuItem>
      <MenuItem onSelect={() => run('view.lower')}>Lower waveform <CommandKey id="view.lower" /></MenuItem>
      <MenuItem onSelect={() => run('select.hold')}>{hold ? '✓ ' : ''}Hold edges to quiet zero crossings <CommandKey id="select.hold" /></MenuItem>
      {skipping !== undefined && <MenuItem onSelect={() => run('play.skipStruck')}>{skipping ? '✓ ' : ''}Skip what is struck <CommandKey id="play.skipStruck" /></MenuItem>}
      <MenuItem onSelect={onSend}>Send …</MenuItem>
    </Menu>
  )
}
