import { useSortable } from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import { ArrowUp, GripVertical, X } from 'lucide-react'
import type { MendStep } from '../../core/mend/chain'
import { clock, type Stretch } from '../../core/time'
import { parseFigure } from '../../core/typed'
import { FigureInput } from '../ui/FigureInput'
import { STEPS, type Field } from './steps'

interface Props {
  /** What it is called while it is dragged. */
  id: string
  step: MendStep
  /** It stands behind another one. */
  canRise: boolean
  onSet: (step: MendStep) => void
  onRise: () => void
  onRemove: () => void
  /** What is selected on the tape: the step can be kept to it. */
  selected: Stretch | null
  /** Learns noise from the selection, or from the quiet of the tape; for noise alone. */
  onLearn: () => void
}

/** One step of a treatment: on or off, its settings, how much of it is heard, and its place. */
export function StepRow({ id, step, canRise, selected, onSet, onRise, onRemove, onLearn }: Props) {
  const { name, why, fields } = STEPS[step.kind]
  const { setNodeRef, transform, transition, attributes, listeners, isDragging } = useSortable({ id })
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`group flex items-start gap-2 border-b border-rule bg-paper py-2 ${step.off ? 'opacity-55' : ''}
        ${isDragging ? 'relative z-20 shadow-lg' : ''}`}
    >
      <input
        type="checkbox"
        className="mt-1 accent-[var(--ink)]"
        aria-label={`${name} on`}
        checked={!step.off}
        onChange={() => {
          const { off, ...rest } = step
          onSet(off ? rest : { ...rest, off: true })
        }}
      />
      <div className="min-w-0 flex-1">
        <p className="font-medium" title={why}>
          {name}
        </p>
        <p className="flex flex-wrap items-baseline gap-x-2">
          {fields.map((field) => (
            <SetField key={field.key} step={step} field={field} onSet={onSet} />
          ))}
          {step.kind === 'noise' && (
            <>
              <span className="text-faint">{step.learnt ? 'learnt' : 'followed as it changes'}</span>
              <button type="button" className="text-tape hover:underline" onClick={onLearn}>
                {step.learnt ? 'learn again' : 'learn'}
              </button>
              {step.learnt && (
                <button
                  type="button"
                  className="text-tape hover:underline"
                  onClick={() => {
                    const { learnt: _, ...rest } = step
                    onSet(rest)
                  }}
                >
                  follow
                </button>
              )}
            </>
          )}
          {step.kind === 'curve' && <CurveLine thirds={step.thirds} />}
          <SetField step={{ ...step, blend: (step.blend ?? 1) * 100 }} field={BLEND} onSet={(next) => onSet(withBlend(step, next))} />
        </p>
        {step.within ? (
          <p className="flex flex-wrap gap-x-2" data-testid="mend-within">
            <span className="font-semibold">
              only {clock(step.within.from)} to {clock(step.within.to)}
            </span>
            <button type="button" className="text-tape hover:underline" onClick={() => onSet(everywhere(step))}>
              everywhere
            </button>
          </p>
        ) : (
          selected && (
            <button
              type="button"
              className="text-tape hover:underline"
              onClick={() => onSet({ ...step, within: { from: selected.from, to: selected.to } })}
            >
              only the selection
            </button>
          )
        )}
      </div>
      <button
        type="button"
        aria-label={`Move ${name}`}
        className="cursor-grab text-faint opacity-0 group-hover:opacity-100 focus:opacity-100"
        {...attributes}
        {...listeners}
      >
        <GripVertical size={14} />
      </button>
      {canRise && (
        <button type="button" aria-label={`${name} earlier`} className="text-faint hover:text-ink" onClick={onRise}>
          <ArrowUp size={14} />
        </button>
      )}
      <button type="button" aria-label={`Remove ${name}`} className="text-faint hover:text-cut-ink" onClick={onRemove}>
        <X size={14} />
      </button>
    </li>
  )
}

const BLEND: Field = { key: 'blend', label: 'blend', unit: '%', least: 0, most: 100 }

function withBlend(step: MendStep, { blend = 100 }: MendStep): MendStep {
  const { blend: _, ...rest } = step
  return blend >= 100 ? rest : { ...rest, blend: blend / 100 }
}

function everywhere({ within: _, ...rest }: MendStep): MendStep {
  return rest
}

/** What is clear from the unit. */
const PLAIN = ['frequency', 'by', 'harmonics']

interface FieldProps {
  step: MendStep
  field: Field
  onSet: (step: MendStep) => void
}

function SetField({ step, field: { key, label, unit, least, most, whole, oneOf }, onSet }: FieldProps) {
  const value = (step as unknown as Record<string, number>)[key]
  const keep = (next: number) => onSet({ ...step, [key]: next })
  const name = `${STEPS[step.kind].name}, ${label}`
  if (oneOf)
    return (
      <select
        aria-label={name}
        className="rounded border border-transparent bg-transparent font-semibold hover:border-rule"
        value={value}
        onChange={(event) => keep(Number(event.target.value))}
      >
        {oneOf.map(([one, text]) => (
          <option key={one} value={one}>
            {text}
          </option>
        ))}
      </select>
    )
  return (
    <span className="whitespace-nowrap">
      {!PLAIN.includes(label) && <span className="text-faint">{label} </span>}
      <FigureInput
        label={name}
        value={String(Math.round(value * 100) / 100).replace('-', '−')}
        read={(text) => {
          const typed = parseFigure(text)
          return typed === null ? null : Math.max(least, Math.min(most, whole ? Math.round(typed) : Math.round(typed * 100) / 100))
        }}
        noun="figure"
        hint={`${value}, in ${unit}`}
        onKeep={keep}
        style={{ width: `${String(Math.round(value * 100) / 100).length + 0.6}ch` }}
        className="border-transparent bg-transparent px-0 font-semibold hover:border-rule"
      />{' '}
      <span className="text-faint">{unit}</span>
    </span>
  )
}

/** A tone by third octaves, drawn: 12 dB up and down. */
function CurveLine({ thirds }: { thirds: readonly number[] }) {
  const [wide, high] = [120, 28]
  const points = thirds.map(
    (dB, i) => `${(i / (thirds.length - 1)) * wide},${high / 2 - (Math.max(-12, Math.min(12, dB)) / 12) * (high / 2)}`,
  )
  return (
    <svg width={wide} height={high} role="img" aria-label="Its tone by third octaves, 63 Hz to 16 kHz">
      <line x1={0} x2={wide} y1={high / 2} y2={high / 2} className="stroke-rule" />
      <polyline points={points.join(' ')} fill="none" className="stroke-tape" strokeWidth={1.5} />
    </svg>
  )
}
