import { useSortable } from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import { GripVertical } from 'lucide-react'
import { createContext, use, type ReactNode, type HTMLAttributes } from 'react'

type Handle = Pick<ReturnType<typeof useSortable>, 'attributes' | 'listeners'>
const HandleContext = createContext<Handle | null>(null)

interface Props extends HTMLAttributes<HTMLElement> {
  block: string
  children: ReactNode
}

/** A section that is dragged by its grip. It hears of every change of the order; what it holds need not be drawn anew for that. */
export function Sortable({ block, children, style, className, ...rest }: Props) {
  const { setNodeRef, transform, transition, attributes, listeners, isDragging } = useSortable({ id: block })
  return (
    <section
      ref={setNodeRef}
      style={{ ...style, transform: CSS.Translate.toString(transform), transition }}
      className={`${className} ${isDragging ? 'z-20 shadow-lg' : ''}`}
      {...rest}
    >
      <HandleContext value={{ attributes, listeners }}>{children}</HandleContext>
    </section>
  )
}

export function Grip({ label }: { label: string }) {
  const { attributes, listeners } = use(HandleContext)!
  return (
    <button
      type="button"
      aria-label={label}
      className={`mr-auto ml-2 max-[860px]:mr-0 cursor-grab self-start rounded p-1 text-faint opacity-0
        group-hover:opacity-100 focus:opacity-100`}
      {...attributes}
      {...listeners}
    >
      <GripVertical size={14} />
    </button>
  )
}
