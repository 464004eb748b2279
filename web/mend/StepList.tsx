import { closestCenter, DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core'
import { arrayMove, SortableContext, sortableKeyboardCoordinates, verticalListSortingStrategy } from '@dnd-kit/sortable'
import type { MendStep } from '../../core/mend/chain'
import type { Stretch } from '../../core/time'
import { StepRow } from './StepRow'

interface Props {
  steps: readonly MendStep[]
  selected: Stretch | null
  onChange: (change: (now: readonly MendStep[]) => readonly MendStep[]) => void
  onLearn: () => void
}

/** The steps of a treatment in their order, which is changed by drag, or by key at a step's grip. */
export function StepList({ steps, selected, onChange, onLearn }: Props) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  )
  const ids = steps.map((_, i) => `step ${i + 1}`)
  const move = (from: number, to: number) => onChange((now) => arrayMove([...now], from, to))
  const drop = ({ active, over }: DragEndEvent) => {
    if (over && active.id !== over.id) move(ids.indexOf(String(active.id)), ids.indexOf(String(over.id)))
  }
  return (
    <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop}>
      <SortableContext items={ids} strategy={verticalListSortingStrategy}>
        <ol>
          {steps.map((step, i) => (
            <StepRow
              key={ids[i]}
              id={ids[i]}
              step={step}
              canRise={i > 0}
              selected={selected}
              onSet={(next) => onChange((now) => now.map((one, k) => (k === i ? next : one)))}
              onRise={() => move(i, i - 1)}
              onRemove={() => onChange((now) => now.filter((_, k) => k !== i))}
              onLearn={onLearn}
            />
          ))}
        </ol>
      </SortableContext>
    </DndContext>
  )
}
