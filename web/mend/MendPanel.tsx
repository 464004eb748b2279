import { ArrowUp, X } from 'lucide-react'
import { useEffect, useState } from 'react'
import type { TapeInfo } from '../../contract/tapes'
import type { MendStep } from '../../core/mend/chain'
import type { Rendition, Side, TapeStep } from '../../core/tape/tape'
import { parseFigure } from '../../core/typed'
import { CommandKey } from '../commands/CommandButton'
import { FigureInput } from '../ui/FigureInput'
import { Button, Choice, Menu, MenuItem } from '../ui/parts'
import { inShort, STEP_KINDS, STEPS } from './steps'

interface Props {
  tape: TapeInfo
  sides: readonly Side[]
  /** What was made of its sides, in the order in which it was made. */
  renditions: readonly Rendition[]
  act: (steps: TapeStep[], label: string) => void
  /** What is set here is heard at once, before it is applied. */
  onTry: (tried: Tried | null) => void
}

/** Steps that are tried on one of the sides, by its index. */
export interface Tried {
  side: number
  steps: readonly MendStep[]
}

const NO_STEPS: readonly MendStep[] = []
const sideName = ({ name }: Side, index: number): string => name || `Side ${index + 1}`

/** Mends the sound of one side: steps one after the other, applied beside what was recorded, which always stays. */
export function MendPanel({ tape, sides, renditions, act, onTry }: Props) {
  const [at, setAt] = useState(0)
  const index = Math.min(at, sides.length - 1)
  const side = sides[index]
  const applied = renditions.find(({ id }) => id === side.rendition)
  const newest = renditions.findLast(({ channels }) => channels.join() === side.channels.join())
  const known = (applied ?? newest)?.treatment
  const before = known?.kind === 'chain' ? known.steps : NO_STEPS
  // it begins with what was applied last
  const [edited, setEdited] = useState<Tried | null>(null)
  const [hearing, setHearing] = useState(true)
  useEffect(() => onTry(hearing ? edited : null), [edited, hearing, onTry])
  useEffect(() => () => onTry(null), [onTry])
  const steps = edited?.side === index ? edited.steps : before
  const edit = (next: readonly MendStep[]) => setEdited({ side: index, steps: next })
  const change = (i: number, step: MendStep) => edit(steps.map((one, k) => (k === i ? step : one)))
  const changed = JSON.stringify(steps) !== JSON.stringify(applied ? before : NO_STEPS)

  const setSide = (rendition: string | undefined): TapeStep => {
    const { rendition: _, ...plain } = side
    const next = sides.map((one, i) => (i === index ? (rendition ? { ...plain, rendition } : plain) : one))
    return { type: 'set', id: 'tape', key: 'sides', value: next }
  }
  const apply = () => {
    const id = crypto.randomUUID()
    const name = steps
      .filter((step) => !step.off)
      .map((step) => STEPS[step.kind].name)
      .join(', ')
      .slice(0, 100)
    const record: Rendition = {
      id,
      kind: 'rendition',
      channels: side.channels,
      name: name || 'Nothing',
      treatment: { kind: 'chain', steps: [...steps] },
    }
    act([{ type: 'put', record }, setSide(id)], 'apply a treatment')
    setEdited(null)
  }
  const hum = tape.findings.find((finding) => finding.what === 'hum')
  const state = tape.renditions.find(({ id }) => id === side.rendition)?.state
  return (
    <section className="text-[13px]" data-testid="mend">
      {sides.length > 1 && (
        <Choice label="Side" value={index} onChange={setAt} options={sides.map((one, i) => [i, sideName(one, i)] as const)} />
      )}
      <ol>
        {steps.map((step, i) => (
          <li key={i} className="flex items-start gap-2 border-b border-rule py-2">
            <input
              type="checkbox"
              className="mt-1 accent-[var(--ink)]"
              aria-label={`${STEPS[step.kind].name} on`}
              checked={!step.off}
              onChange={() => {
                const { off, ...rest } = step
                change(i, off ? rest : { ...rest, off: true })
              }}
            />
            <div className="min-w-0 flex-1">
              <p className="font-medium" title={inShort(step)}>
                {STEPS[step.kind].name}
              </p>
              <Settings step={step} onSet={(next) => change(i, next)} />
            </div>
            {i > 0 && (
              <button
                type="button"
                aria-label={`${STEPS[step.kind].name} earlier`}
                className="text-faint hover:text-ink"
                onClick={() => edit(steps.map((one, k) => (k === i ? steps[i - 1] : k === i - 1 ? step : one)))}
              >
                <ArrowUp size={14} />
              </button>
            )}
            <button
              type="button"
              aria-label={`Remove ${STEPS[step.kind].name}`}
              className="text-faint hover:text-cut-ink"
              onClick={() => edit(steps.filter((_, k) => k !== i))}
            >
              <X size={14} />
            </button>
          </li>
        ))}
      </ol>
      {hum && !steps.some(({ kind }) => kind === 'hum') && (
        <p className="flex items-baseline gap-2 py-2 text-soft">
          <span className="flex-1">Mains hum at {hum.frequency} Hz was found.</span>
          <button
            type="button"
            className="text-tape hover:underline"
            onClick={() => edit([{ kind: 'hum', mains: hum.frequency === 60 ? 60 : 50, harmonics: 10 }, ...steps])}
          >
            take it out
          </button>
        </p>
      )}
      <div className="flex flex-wrap items-center gap-1.5 py-2">
        <Menu label="Add a step" trigger={<Button>Add a step …</Button>}>
          {STEP_KINDS.map((kind) => (
            <MenuItem key={kind} onSelect={() => edit([...steps, STEPS[kind].usual])}>
              <span className="flex-1">{STEPS[kind].name}</span>
              <span className="text-faint">{STEPS[kind].why}</span>
            </MenuItem>
          ))}
        </Menu>
        {steps.length > 0 && (
          <Button look="strong" disabled={!changed} onClick={apply}>
            Apply
          </Button>
        )}
        {edited && (
          <label className="flex items-center gap-1.5">
            <input type="checkbox" className="accent-[var(--ink)]" checked={hearing} onChange={() => setHearing(!hearing)} />
            Hear it
          </label>
        )}
        {applied && (
          <Button
            onClick={() => {
              act([setSide(undefined)], 'remove a treatment')
              setEdited(null)
            }}
          >
            Remove
          </Button>
        )}
      </div>
      {applied && (
        <p role="status" className="pb-2 text-[12.5px] leading-relaxed text-soft" data-testid="mend-state">
          {state === 'ready' ? (
            <>
              Heard mended: {applied.name}. <CommandKey id="voice.treated" /> switches before / after.
            </>
          ) : state === 'failed' ? (
            'It could not be made; the side is heard as recorded.'
          ) : (
            'Being made; the side is heard as recorded until it is there.'
          )}
        </p>
      )}
    </section>
  )
}

interface SettingsProps {
  step: MendStep
  onSet: (step: MendStep) => void
}

function Settings({ step, onSet }: SettingsProps) {
  const figure = (label: string, value: number, unit: string, [least, most]: readonly [number, number], keep: (value: number) => void) => (
    <span className="whitespace-nowrap">
      <FigureInput
        label={`${STEPS[step.kind].name}, ${label}`}
        value={String(value).replace('-', '−')}
        read={(text) => {
          const typed = parseFigure(text)
          return typed === null ? null : Math.max(least, Math.min(most, Math.round(typed * 100) / 100))
        }}
        noun="figure"
        hint={`${value}, in ${unit}`}
        onKeep={keep}
        className="w-11 border-transparent bg-transparent px-0 font-semibold hover:border-rule"
      />{' '}
      <span className="text-faint">{unit}</span>
    </span>
  )
  return (
    <p className="flex flex-wrap items-baseline gap-x-2">
      {'hertz' in step && figure('frequency', step.hertz, 'Hz', [20, 20_000], (hertz) => onSet({ ...step, hertz }))}
      {'dB' in step && figure('by', step.dB, 'dB', [-60, 24], (dB) => onSet({ ...step, dB }))}
      {step.kind === 'dip' && figure('width', step.width, 'octaves', [0.02, 4], (width) => onSet({ ...step, width }))}
      {step.kind === 'hum' && (
        <>
          <select
            aria-label="Hum, mains"
            className="rounded border border-transparent bg-transparent font-semibold hover:border-rule"
            value={step.mains}
            onChange={(event) => onSet({ ...step, mains: Number(event.target.value) as typeof step.mains })}
          >
            <option value={50}>50 Hz</option>
            <option value={60}>60 Hz</option>
          </select>
          {figure('harmonics', step.harmonics, 'harmonics', [1, 40], (harmonics) => onSet({ ...step, harmonics: Math.round(harmonics) }))}
        </>
      )}
      {'slope' in step && (
        <select
          aria-label={`${STEPS[step.kind].name}, slope`}
          className="rounded border border-transparent bg-transparent text-soft hover:border-rule"
          value={step.slope}
          onChange={(event) => onSet({ ...step, slope: Number(event.target.value) as typeof step.slope })}
        >
          {[6, 12, 18, 24].map((slope) => (
            <option key={slope} value={slope}>
              {slope} dB an octave
            </option>
          ))}
        </select>
      )}
    </p>
  )
}
