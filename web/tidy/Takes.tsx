import { Play } from 'lucide-react'
import type { Word } from '../../core/tape/words'
import { clock, RATE } from '../../core/time'
import { CommandKey } from '../commands/CommandButton'
import type { Tidy } from './useTidy'

/** All takes of a sentence side by side: what each says, when, how long it is; each is heard, and any of them can be the one that stays. */
export function Takes({ tidy, words }: { tidy: Tidy; words: readonly Word[] }) {
  const { all, heard, hear, keep } = tidy.takes
  return (
    <div className="mt-3 border-t border-rule pt-2 text-[13px]">
      <p className="flex flex-wrap items-baseline gap-x-2 text-[12px] text-soft">
        <span className="font-semibold text-ink">{all.length} takes</span>
        <span>
          <CommandKey id="tidy.hearTake" /> hears the next, <CommandKey id="tidy.keepTake" /> keeps it
        </span>
      </p>
      <ol data-testid="tidy-takes">
        {all.map((take, i) => {
          const said = words.filter(({ from, to }) => from >= take.from && to <= take.to)
          return (
            <li
              key={take.from}
              aria-current={i === heard}
              className={`flex items-start gap-2 border-b border-rule py-1.5 last:border-b-0
                ${i === heard ? 'border-l-2 border-l-cut pl-2' : ''}`}
            >
              <button
                type="button"
                aria-label={`Hear take ${i + 1}`}
                onClick={() => hear(i)}
                className="mt-0.5 flex size-6 shrink-0 items-center justify-center rounded-full border border-grain hover:border-ink"
              >
                <Play size={10} fill="currentColor" className="ml-0.5" />
              </button>
              <span className="min-w-0 flex-1">
                <span className="line-clamp-4 font-serif leading-snug">{said.map(({ text }) => text).join(' ')}</span>
                <span className="text-[12px] text-faint">
                  {clock(take.from)} · {((take.to - take.from) / RATE).toFixed(1)} s{take.stays && ' · stays'}
                </span>
              </span>
              <button type="button" className="mt-0.5 shrink-0 text-tape hover:underline" onClick={() => keep(i)}>
                Keep
              </button>
            </li>
          )
        })}
      </ol>
    </div>
  )
}
