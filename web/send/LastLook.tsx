import { Link } from 'react-router'
import type { Asked, AskedPlace } from '../../core/send/lastLook'

interface Props {
  asked: readonly Asked[]
  /** The story, where one is sent. */
  story: string | null
  onGo: () => void
}

/** What a careful editor would ask before it goes out, each with the way to its place. */
export function LastLook({ asked, story, onGo }: Props) {
  return (
    <section aria-label="Last look" className="mt-4 border-t border-rule pt-3" data-testid="last-look">
      <h3 className="text-[12px] font-semibold text-faint">Last look</h3>
      {asked.length === 0 ? (
        <p className="mt-1 text-[13px] text-soft">Nothing to ask.</p>
      ) : (
        <ul className="mt-1 max-h-[16rem] overflow-y-auto text-[13px]">
          {asked.map(({ text, at }, i) => (
            <li key={i} className="border-l-2 border-cut py-0.5 pl-2 not-last:mb-1.5">
              {at ? (
                <Link to={pathTo(at, story)} onClick={onGo} className="text-ink hover:underline">
                  {text} <span className="whitespace-nowrap text-tape">go there</span>
                </Link>
              ) : (
                text
              )}
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}

function pathTo(at: AskedPlace, story: string | null): string {
  if ('block' in at) return `/stories/${story}?block=${at.block}`
  if ('piece' in at) return `/pieces/${at.piece}?at=${at.frame}`
  return `/tapes/${at.tape}`
}
