import { useMemo, useRef } from 'react'
import { Link, useParams } from 'react-router'
import { tapesOf } from '../../../core/edits/editList'
import { offcutsOf } from '../../../core/edits/offcuts'
import { versionsOf } from '../../../core/edits/versions'
import { useFacts } from '../../api/queries'
import { useCommands } from '../../commands/commands'
import { useDocument } from '../../documents/useDocument'
import { Empty } from '../../ui/parts'
import { Crumb, Shell } from '../../shell/Shell'
import { usePieceBeside } from '../usePieceBeside'
import { OpenBench } from './OpenBench'

export function BenchView() {
  const { id = '' } = useParams()
  const document = useDocument(id, 'actuality')
  const body = document && 'body' in document ? document.body : null
  const tapes = useMemo(
    () => (body ? tapesOf([body.spans, ...[...versionsOf(body), ...offcutsOf(body)].map(({ spans }) => spans)].flat()) : []),
    [body],
  )
  const facts = useFacts(tapes)
  // while the next piece opens, its story is that of the one before
  const story = useRef(body?.story)
  if (body) story.current = body.story
  useCommands(usePieceBeside(id, story.current))
  if (document && 'error' in document)
    return (
      <Shell path={<Crumb>No piece here</Crumb>}>
        <Empty title="Piece not found">
          It may have been deleted, or the address is wrong. Your stories are on the{' '}
          <Link className="underline" to="/">
            Desk
          </Link>
          .
        </Empty>
      </Shell>
    )
  if (!document || !facts) return <Shell path={<Crumb>Opening …</Crumb>}>{null}</Shell>
  return <OpenBench key={id} id={id} live={document.live} piece={document.body} facts={facts} />
}
