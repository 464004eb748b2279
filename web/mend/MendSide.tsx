import { useCallback, useEffect, useRef, useState } from 'react'
import { useSearchParams } from 'react-router'
import { toast } from 'sonner'
import type { TapeInfo } from '../../contract/tapes'
import type { MendStep } from '../../core/mend/chain'
import { curveBetween } from '../../core/mend/curve'
import type { Rendition, Side } from '../../core/tape/tape'
import { RATE, type Stretch } from '../../core/time'
import { useFigures } from '../api/queries'
import { CommandKey } from '../commands/CommandButton'
import { useCommands } from '../commands/commands'
import { Button, Menu, MenuItem } from '../ui/parts'
import { useKept } from '../ui/useKept'
import { heldAsLoud, learntFrom, roomTones, toneOf } from './learn'
import { KeptTreatments } from './KeptTreatments'
import { MendState } from './MendState'
import { offersFor, type Offer } from './offers'
import { OutAndBack } from './OutAndBack'
import { SameVoice } from './SameVoice'
import { SettingsRow } from './SettingsRow'
import { BeforeAfter } from './BeforeAfter'
import { StepList } from './StepList'
import { orderRemark, placeFor, STEP_KINDS, STEPS, USUAL_VOICE } from './steps'
import { useEqualLoudness } from './useEqualLoudness'
import { useSettings } from './useSettings'
import type { Tried } from './useTrying'

/** What is changed about the sides that are mended: how they are by then, what was made for it, and what goes with what it was. */
export interface Mending {
  sides: readonly Side[]
  made?: Rendition
  dropped?: string
}

interface Props {
  tape: TapeInfo
  /** Who speaks on it, as it is called by now. */
  speaker: string
  sides: readonly Side[]
  /** Which of them. */
  index: number
  /** What was made of its sides, in the order in which it was made. */
  renditions: readonly Rendition[]
  /** What is selected: noise is learnt from it, tone too, and loudness is told by it. */
  selected: Stretch | null
  /** The piece that is mended alone; null: the tape is. */
  piece: string | null
  onMend: (mending: Mending, label: string) => void
  /** What is set here is heard at once, before it is applied. */
  onTry: (tried: Tried | null) => void
}

const NO_STEPS: readonly MendStep[] = []
const inPlace = (steps: readonly MendStep[], step: MendStep): MendStep[] => {
  const at = placeFor(step.kind, steps)
  return [...steps.slice(0, at), step, ...steps.slice(at)]
}

/** Mends the sound of one side: steps one after the other, applied beside what was recorded, which always stays. */
export function MendSide({ tape, speaker, sides, index, renditions, selected, piece, onMend, onTry }: Props) {
  const side = sides[index]
  const figures = useFigures(tape)
  const voice = figures?.channels[side.channels[0]] ?? USUAL_VOICE
  const applied = renditions.find(({ id }) => id === side.rendition)
  const newest = renditions.findLast(({ channels }) => channels.join() === side.channels.join())
  const known = (applied ?? newest)?.treatment
  const before = known?.kind === 'chain' ? known.steps : NO_STEPS
  const settings = useSettings([tape.id, index, ...(piece ? [piece] : [])].join('/'), before)
  const { slots, active, steps, edit, trying } = settings
  const [hearing, setHearing] = useState<'all' | 'away' | 'off'>('all')
  const [equal, setEqual] = useState(true)
  const [model, setModel] = useKept<{ name: string; thirds: readonly number[] } | null>('mend/model', null)
  const over = selected ?? firstSpeech(figures?.speech, tape.frames)
  const matched = useEqualLoudness({ tape, sides, side: index, steps, over, on: trying && equal && slots.length > 1 && hearing === 'all' })

  useEffect(() => {
    if (!trying || hearing === 'off') return onTry(null)
    const gain: MendStep[] = matched ? [{ kind: 'gain', dB: matched }] : []
    onTry(hearing === 'away' ? { side: index, steps, away: true } : { side: index, steps: [...steps, ...gain] })
  }, [trying, hearing, steps, index, matched, onTry])
  useEffect(() => () => onTry(null), [onTry])

  const panel = useRef<HTMLElement>(null)
  const changed = JSON.stringify(steps) !== JSON.stringify(applied ? before : NO_STEPS)
  /** The side as recorded is heard beside settings: it has no steps to be changed. */
  const original = trying && active === null
  const offers = original ? [] : offersFor(tape.findings, voice).filter((offer) => !steps.some(({ kind }) => kind === offer.step.kind))
  /** What a step learnt goes into the first of its kind, as it is by now, if there is still one. */
  const learnt = (kind: MendStep['kind'], what: Partial<MendStep>) =>
    edit((now) => now.map((step, i) => (i === now.findIndex((one) => one.kind === kind) ? ({ ...step, ...what } as MendStep) : step)))
  const say = (error: Error) => void toast.error(error.message)
  const learnNoise = async (list: readonly MendStep[], stretch: Stretch | null) => {
    const i = list.findIndex(({ kind }) => kind === 'noise')
    if (i < 0 || !stretch) throw new Error('Select a stretch in which nobody speaks, then learn from it.')
    learnt('noise', { learnt: await learntFrom(tape, side, stretch, list.slice(0, i)) })
  }
  /** From what is selected, if nobody speaks in it; else from the quiet of the tape. */
  const learnAgain = async () => {
    if (selected && figures && speaksIn(figures.channels[side.channels[0]].speech, selected))
      throw new Error('Somebody speaks in what is selected: select a pause.')
    await learnNoise(steps, selected ?? quietOf(tape, null))
  }
  const take = (some: readonly Offer[]) => {
    const next = some.reduce<readonly MendStep[]>((all, offer) => inPlace(all, offer.step), steps)
    edit(() => next)
    // the keys go on playing and applying
    if (document.activeElement instanceof HTMLElement) document.activeElement.blur()
    // where the tape has no quiet, noise is followed
    if (some.some(({ step }) => step.kind === 'noise')) void learnNoise(next, quietOf(tape, selected)).catch(() => undefined)
  }
  /** A voice is held at what keeps it as loud as it is. */
  const add = (kind: MendStep['kind']) => {
    const step = STEPS[kind].usual(voice)
    const next = inPlace(steps, step)
    edit(() => next)
    if (step.kind === 'level' && figures)
      void heldAsLoud(tape, side, figures.channels[side.channels[0]].speech, step, next.slice(0, next.indexOf(step))).then(
        (held) => learnt('level', held),
        say,
      )
  }
  const addDips = async () => {
    const dips = await roomTones(tape, side, figures?.channels[side.channels[0]].speech ?? [])
    if (!dips.length) throw new Error('No single tone of the room stands out.')
    edit((now) => dips.reduce<readonly MendStep[]>((all, dip) => inPlace(all, dip), now))
  }
  const match = () =>
    void toneOf(tape, side, over, steps).then(
      (thirds) => edit((now) => [...now.filter(({ kind }) => kind !== 'curve'), curveBetween(thirds, model!.thirds)]),
      say,
    )
  const remember = () =>
    void toneOf(tape, side, over, steps).then((thirds) => {
      setModel({ name: tape.name, thirds })
      toast.success('The passage is remembered: another one can be matched to it.')
    }, say)

  const heardFrom = (rendition: string | undefined): Side[] => {
    const { rendition: _, ...plain } = side
    return sides.map((one, i) => (i === index ? (rendition ? { ...plain, rendition } : plain) : one))
  }
  const apply = () => {
    const id = crypto.randomUUID()
    const names = steps.filter((step) => !step.off).map((step) => STEPS[step.kind].name)
    const record: Rendition = {
      id,
      kind: 'rendition',
      channels: side.channels,
      name: names.join(', ').slice(0, 100) || 'Nothing',
      treatment: { kind: 'chain', steps: [...steps] },
    }
    onMend({ made: record, sides: heardFrom(id) }, 'apply a treatment')
    settings.clear()
  }
  /** Goes to what is offered, or to the first thing to be done. */
  const open = useCallback(() => {
    panel.current?.scrollIntoView({ block: 'start' })
    panel.current?.querySelector<HTMLElement>('[data-first]')?.focus()
  }, [])
  // from the Bench one comes here to mend
  const [params, setParams] = useSearchParams()
  const asked = params.has('mend') && figures !== undefined
  useEffect(() => {
    if (!asked) return
    open()
    setParams(
      (now) => {
        now.delete('mend')
        return now
      },
      { replace: true },
    )
  }, [asked, open, setParams])
  useCommands({
    'mend.open': open,
    'mend.next': slots.length ? settings.next : undefined,
    'mend.apply': steps.length && changed ? apply : undefined,
  })
  const remark = orderRemark(steps)
  const whose = side.name || (sides.length === 1 ? speaker : '')
  const appliedSteps = applied?.treatment.kind === 'chain' ? { steps: applied.treatment.steps, name: applied.name } : null
  return (
    <section ref={panel} className="text-[13px]" data-testid="mend">
      {offers.length > 0 && (
        <div className="border-b border-rule py-2" data-testid="mend-offers">
          <ul>
            {offers.map((offer) => (
              <li key={offer.step.kind} className="flex items-baseline gap-2 py-0.5">
                <span className="flex-1 text-soft">{offer.reason}</span>
                <button type="button" className="text-tape hover:underline" onClick={() => take([offer])}>
                  {STEPS[offer.step.kind].name.toLowerCase()}
                </button>
              </li>
            ))}
          </ul>
          <div className="pt-1.5">
            <Button data-first onClick={() => take(offers)}>
              {offers.length > 1 ? 'Try all that is offered' : 'Try it'}
            </Button>
          </div>
        </div>
      )}
      <StepList steps={steps} selected={selected} onChange={edit} onLearn={() => void learnAgain().catch(say)} />
      {remark && <p className="border-b border-rule py-2 text-cut-ink">{remark}</p>}
      <div className="flex flex-wrap items-center gap-1.5 py-2">
        <Menu
          label="Add a step"
          trigger={
            <Button data-first disabled={original}>
              Add a step …
            </Button>
          }
        >
          {STEP_KINDS.map((kind) => (
            <MenuItem key={kind} onSelect={() => add(kind)}>
              <span className="flex-1">{STEPS[kind].name}</span>
              <span className="text-faint">{STEPS[kind].why}</span>
            </MenuItem>
          ))}
          <MenuItem onSelect={() => void addDips().catch(say)}>
            <span className="flex-1">Where the room rings</span>
            <span className="text-faint">dips, found in pauses</span>
          </MenuItem>
          {model && (
            <MenuItem onSelect={match}>
              <span className="flex-1">Match</span>
              <span className="text-faint">to the passage of “{model.name}”</span>
            </MenuItem>
          )}
          <MenuItem onSelect={remember}>
            <span className="flex-1">Remember this passage</span>
            <span className="text-faint">to match others to it</span>
          </MenuItem>
        </Menu>
        {steps.length > 0 && (
          <Button look="strong" disabled={!changed} onClick={apply}>
            Apply
          </Button>
        )}
        {trying && <Button onClick={settings.clear}>Discard</Button>}
        {applied && (
          <Button
            onClick={() => {
              onMend({ sides: heardFrom(undefined) }, 'remove a treatment')
              settings.clear()
            }}
          >
            Remove
          </Button>
        )}
      </div>
      {trying && <BeforeAfter tape={tape} sides={sides} side={index} steps={steps} over={over} />}
      {trying && (
        <SettingsRow settings={settings} hearing={hearing} onHearing={setHearing} equal={equal} onEqual={setEqual} matched={matched} />
      )}
      {applied && (
        <MendState
          tape={tape}
          side={side}
          name={applied.name}
          onCancel={() => onMend({ sides: heardFrom(undefined), dropped: applied.id }, 'cancel a treatment')}
        />
      )}
      <SameVoice tape={tape} speaker={whose} side={index} applied={appliedSteps} onTry={(some) => edit(() => some)} />
      <KeptTreatments tape={tape} side={index} speaker={whose} voice={voice} applied={appliedSteps} onTry={(some) => edit(() => some)} />
      <OutAndBack
        tape={tape}
        side={side}
        onBack={(record) => {
          onMend({ made: record, sides: heardFrom(record.id) }, 'import a mended side')
          settings.clear()
        }}
      />
      {applied && !trying && (
        <p className="pb-2 text-faint">
          <CommandKey id="voice.treated" /> switches before / after.
        </p>
      )}
    </section>
  )
}

/** The longest quiet of a tape, one beneath what is selected first; null where it has none of its own. */
function quietOf({ tone }: TapeInfo, selected: Stretch | null): Stretch | null {
  if (tone.made) return null
  const longest = [...tone.quiet].sort((a, b) => b.to - b.from - (a.to - a.from))
  return longest.find(({ from, to }) => selected && from >= selected.from && to <= selected.to) ?? longest[0] ?? null
}

/** Whether somebody speaks in more than a tenth of a stretch. */
function speaksIn(speech: readonly Stretch[], { from, to }: Stretch): boolean {
  const spoken = speech.reduce((sum, one) => sum + Math.max(0, Math.min(to, one.to) - Math.max(from, one.from)), 0)
  return spoken > (to - from) / 10
}

/** Ten seconds from where somebody first speaks. */
function firstSpeech(speech: readonly Stretch[] | undefined, frames: number): Stretch {
  const from = speech?.[0]?.from ?? 0
  return { from, to: Math.min(frames, from + 10 * RATE) }
}
