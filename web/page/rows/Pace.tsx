import type { Block } from '../../../core/page/story'

interface Props {
  block: Block
  /** At which it is read where nobody has set one, in words a minute; for a line that is recorded, how its take was read. */
  own: number
  /** Where that comes from. */
  from: string
  onKeep: (pace: number | undefined) => void
}

/** How fast the reader of a block reads; emptied, it is the reader's own speed again. */
export function Pace({ block, own, from, onKeep }: Props) {
  return (
    <label className="flex items-center gap-1 text-faint" title={`Reading speed. Empty: ${from}`}>
      <input
        aria-label="Reading speed, words a minute"
        type="number"
        min={60}
        max={400}
        step={5}
        defaultValue={block.pace && Math.round(block.pace)}
        placeholder={String(Math.round(own))}
        key={block.pace ?? 'own'}
        className={`min-h-6 w-[42px] appearance-none rounded border border-transparent bg-transparent px-1 -mx-1
          [-moz-appearance:textfield] placeholder:text-faint hover:border-rule focus:border-tape focus:outline-none
          [&::-webkit-inner-spin-button]:appearance-none`}
        onBlur={(event) => {
          const typed = event.target.value
          const pace = Number(typed)
          if (!typed && block.pace !== undefined) onKeep(undefined)
          if (typed && pace >= 60 && pace <= 400 && pace !== (block.pace && Math.round(block.pace))) onKeep(pace)
        }}
      />
      words/min
    </label>
  )
}
