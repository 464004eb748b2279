import type { FoundMark } from '../../contract/find'
import { clock } from '../../core/time'
import { DOTS } from '../marks/MarkList'

/** A mark that was found, of a tape or of a page; it leads to its place. */
export function MarkHit({ mark, onGo }: { mark: FoundMark; onGo: () => void }) {
  return (
    <li className="border-b border-rule">
      <button
        type="button"
        data-hit
        onClick={onGo}
        className="-mx-2 flex w-[calc(100%+16px)] items-center gap-3 rounded px-2 py-2.5 text-left outline-offset-[-2px] hover:bg-paper-low"
      >
        <span className="flex size-7 shrink-0 items-center justify-center" aria-hidden>
          <span className={`size-3 rounded-full ${DOTS[mark.colour]}`} />
        </span>
        <span className="min-w-0 flex-1">
          <span className="block truncate text-[15px] font-medium">{mark.text}</span>
          <span className="block truncate text-[12px] text-faint">
            {[mark.kind === 'tape' ? 'Mark on' : 'Mark on the page of', mark.name].join(' ')}
            {mark.day && ` · ${mark.day}`}
          </span>
        </span>
        {mark.at !== null && <span className="shrink-0 text-[13px] text-soft">{clock(mark.at)}</span>}
      </button>
    </li>
  )
}
