import { Link } from 'react-router'
import type { TapeInfo } from '../../contract/tapes'
import { Crumb, Shell } from '../shell/Shell'
import { Empty } from '../ui/parts'

/** A tape of which nothing can be shown yet, or that was not taken. */
export function Arriving({ tape }: { tape: TapeInfo }) {
  return (
    <Shell
      path={
        <>
          <Crumb to="/tapes">Tapes</Crumb>
          <Crumb>{tape.name}</Crumb>
        </>
      }
    >
      {tape.twin ? (
        <Empty title="This one is here already.">
          {tape.error}{' '}
          <Link className="underline" to={`/tapes/${tape.twin}`}>
            Open that one
          </Link>
        </Empty>
      ) : tape.state === 'failed' ? (
        <Empty title="This one could not be read.">{tape.error}</Empty>
      ) : (
        <Empty title="Arriving …">
          <p>
            {tape.error ||
              'What comes is kept as it comes. Its wave shows, and it can be played and cut, as soon as enough of it is here ' +
                'to know what it is.'}
          </p>
        </Empty>
      )}
    </Shell>
  )
}
