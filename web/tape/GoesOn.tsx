import { useEffect, useState } from 'react'
import { useNavigate } from 'react-router'
import { toast } from 'sonner'
import type { LineUpInfo } from '../../contract/lineups'
import type { TapeInfo } from '../../contract/tapes'
import { post } from '../api/client'
import { useRun } from '../api/queries'
import { useOnce } from '../api/useOnce'
import { useLineUp } from '../lineup/useLineUp'

/** Says that a tape is one of several files of one recording, and offers to make one tape of them. */
export function GoesOn({ tape }: { tape: TapeInfo }) {
  const run = useRun(tape).data
  const navigate = useNavigate()
  const [made, setMade] = useState<string | null>(null)
  const info = useLineUp(made)
  const join = useOnce(async (files: readonly { id: string; name: string }[]) =>
    setMade((await post<LineUpInfo>('/lineups/sequence', { tapes: files.map(({ id }) => id), name: `${files[0].name}, whole` })).id),
  )
  useEffect(() => {
    if (info?.state === 'joined') void navigate(`/tapes/${info.tape}`)
    if (info?.state === 'failed') toast.error(info.error)
  }, [info, navigate])
  if (!run?.length) return null
  const others = run.filter(({ id }) => id !== tape.id).map(({ name }) => `“${name}”`)
  return (
    <p className="py-2 text-[13px]">
      One recording with {others.join(', ')}: the recorder began a new file.{' '}
      {made ? (
        <span className="text-faint">Making one tape of them …</span>
      ) : (
        <button type="button" className="text-tape hover:underline" disabled={join.busy} onClick={() => join.run(run)}>
          Make them one tape
        </button>
      )}
    </p>
  )
}
