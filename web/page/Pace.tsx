import type { Block } from '../../core/page/story'

/** How fast the reader of a block reads, in words a minute. */
export function Pace({ block, onKeep }: { block: Block; onKeep: (pace: number) => void }) {
  return (
    <label className="flex items-center gap-1 text-faint" title="Reading speed, words a minute">
      <input
        aria-label="Reading speed, words a minute"
        type="number"
        min={60}
        max={400}
        step={5}
        defaultValue={block.pace}
        key={block.pace}
        className={`min-h-6 w-[42px] appearance-none rounded border border-transparent bg-transparent px-1 -mx-1
          [-moz-appearance:textfield] hover:border-rule focus:border-tape focus:outline-none
          [&::-webkit-inner-spin-button]:appearance-none`}
        onBlur={(event) => {
          const pace = Number(event.target.value)
          if (pace >= 60 && pace <= 400 && pace !== block.pace) onKeep(pace)
        }}
      />
      words/min
    </label>
  )
}
