import { Pause, Play, X } from 'lucide-react'
import { Link } from 'react-router'
import { useTape } from '../api/queries'
import { Progress } from '../ui/parts'
import { TimeLeft } from '../ui/TimeLeft'
import { cancel, pause, resume, useUploads, type Upload } from './uploads'

/** The one place to see what is on its way in: below everything else, and over nothing. */
export function OnItsWay() {
  const { list } = useUploads()
  if (!list.length) return null
  return (
    <section
      aria-label="Importing"
      className={`flex max-h-[30vh] shrink-0 items-start gap-4 overflow-y-auto border-t border-rule bg-paper-lit px-6 py-1.5
        text-[13px] max-[860px]:px-3 print:hidden`}
    >
      <h2 className="shrink-0 py-1 text-[12px] font-semibold text-faint">Importing{list.length > 1 && `, ${list.length} files`}</h2>
      <ul className="min-w-0 flex-1">
        {list.map((one) => (
          <Row key={one.key} one={one} />
        ))}
      </ul>
    </section>
  )
}

const megabytes = (bytes: number): string => (bytes < 1e8 ? (bytes / 1e6).toFixed(1) : (bytes / 1e6).toFixed(0))

function Row({ one }: { one: Upload }) {
  const share = one.sent / Math.max(1, one.size)
  const act = 'flex size-6 items-center justify-center rounded text-soft hover:bg-paper-low hover:text-ink'
  return (
    <li className="flex flex-wrap items-center gap-x-4 gap-y-1">
      <span className="min-w-0 max-w-64 truncate font-medium">
        {one.tape ? (
          <Link className="hover:underline" to={`/tapes/${one.tape}`}>
            {one.name}
          </Link>
        ) : (
          one.name
        )}
      </span>
      {one.state === 'arriving' && one.tape ? (
        <Listening tape={one.tape} name={one.name} />
      ) : (
        <>
          <span className="w-40">
            <Progress value={share} label={`Sending ${one.name}`} />
          </span>
          <span className={`text-[12px] ${one.state === 'lost' ? 'text-cut-ink' : 'text-faint'}`}>
            {megabytes(one.sent)} of {megabytes(one.size)} MB,{' '}
            {one.state === 'waiting' ? (
              'queued'
            ) : one.state === 'paused' ? (
              'paused'
            ) : one.state === 'lost' ? (
              'can’t reach the server; it resumes by itself'
            ) : (
              <TimeLeft progress={share} />
            )}
          </span>
        </>
      )}
      <span className="flex items-center">
        {one.state === 'paused' ? (
          <button type="button" className={act} aria-label={`Resume ${one.name}`} title="Resume" onClick={() => resume(one.key)}>
            <Play size={14} />
          </button>
        ) : (
          one.state !== 'arriving' && (
            <button type="button" className={act} aria-label={`Pause ${one.name}`} title="Pause" onClick={() => pause(one.key)}>
              <Pause size={14} />
            </button>
          )
        )}
        <button type="button" className={act} aria-label={`Cancel ${one.name}`} title="Cancel" onClick={() => cancel(one.key)}>
          <X size={15} />
        </button>
      </span>
    </li>
  )
}

function Listening({ tape, name }: { tape: string; name: string }) {
  const { progress, error } = useTape(tape).data ?? { progress: 0, error: '' }
  return (
    <>
      <span className="w-40">
        <Progress value={progress} label={`Measuring ${name}`} />
      </span>
      {error ? (
        <span className="text-[12px] text-cut-ink">{error}</span>
      ) : (
        <span className="text-[12px] text-faint">
          all of it is stored; measuring, <TimeLeft progress={progress} />
        </span>
      )}
    </>
  )
}
