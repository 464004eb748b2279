import { ChevronDown } from 'lucide-react'
import { useEffect, useRef } from 'react'
import { placeAt } from '../../core/page/order'
import { outputsOf, type Output, type StoryDocument, type StoryStep } from '../../core/page/story'
import { clock } from '../../core/time'
import { CommandKey } from '../commands/CommandButton'
import { useCommands } from '../commands/commands'
import { Menu, MenuItem } from '../ui/parts'
import { EditableText } from '../ui/EditableText'
import type { usePage } from './laid/usePage'

interface Props {
  page: ReturnType<typeof usePage>
  body: StoryDocument
  act: (steps: StoryStep[], label: string) => void
  onShow: (output: string) => void
}

const calledOf = ({ name, client, slot }: Output): string => name || client || (slot ? clock(slot) : 'Output')

/** Which output the page is shown as, and new ones: a story for several slots, which share all but what they have otherwise. */
export function OutputMenu({ page, body, act, onShow }: Props) {
  const { outputs, output, isFirst } = page
  const added = useRef<string | null>(null)
  useEffect(() => {
    if (added.current !== output.id) return
    added.current = null
    // its slot is what a new output is about
    globalThis.document.querySelector<HTMLInputElement>('input[aria-label=Slot]')?.select()
  }, [output.id])
  const add = () => {
    const all = outputsOf(body)
    const { order, others } = placeAt(all, all.length)
    const record: Output = { ...outputs[0].output, id: crypto.randomUUID(), name: `Short ${all.length}`, order, slot: 0 }
    const moved = others.map((one): StoryStep => ({ type: 'set', id: one.id, key: 'order', value: one.order }))
    act([...moved, { type: 'put', record }], 'add an output')
    onShow(record.id)
    added.current = record.id
  }
  const remove = () => {
    const variants = Object.values(body.records).filter((one) => one.kind === 'variant' && one.output === output.id)
    act(
      [...variants, output].map(({ id }): StoryStep => ({ type: 'drop', id })),
      'remove an output',
    )
    onShow(outputs[0].output.id)
  }
  useCommands({ 'page.addOutput': add })
  const over = (one: (typeof outputs)[number]) => {
    const by = one.air.length - one.output.slot
    return !one.output.slot ? 'no slot' : by === 0 ? 'on time' : `${by > 0 ? 'over' : 'under'} by ${clock(Math.abs(by))}`
  }
  return (
    <span className="flex items-center gap-1 text-[13px]" data-testid="output">
      {outputs.length > 1 && (
        <EditableText
          label="Name of the output"
          value={output.name}
          placeholder={calledOf(output)}
          className="max-w-36 truncate font-semibold"
          onKeep={(name) => act([{ type: 'set', id: output.id, key: 'name', value: name }], 'name of the output')}
        />
      )}
      <Menu
        label="Outputs"
        trigger={
          <button type="button" className="flex items-center gap-1 rounded px-1 py-0.5 text-soft hover:bg-paper-low">
            {outputs.length > 1 ? `${outputs.findIndex((one) => one.output === output) + 1} of ${outputs.length}` : 'Outputs'}
            <ChevronDown size={14} />
          </button>
        }
      >
        {outputs.map((one) => (
          <MenuItem key={one.output.id} onSelect={() => onShow(one.output.id)}>
            <span className="flex-1">
              {one.output === output ? '✓ ' : ''}
              {calledOf(one.output)}
            </span>
            <span className="text-faint">{over(one)}</span>
          </MenuItem>
        ))}
        <MenuItem onSelect={add}>
          New output <CommandKey id="page.addOutput" />
        </MenuItem>
        {!isFirst && <MenuItem onSelect={remove}>Remove this output</MenuItem>}
      </Menu>
    </span>
  )
}
