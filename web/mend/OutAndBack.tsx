import { useRef } from 'react'
import { toast } from 'sonner'
import type { TapeInfo } from '../../contract/tapes'
import type { Rendition, Side } from '../../core/tape/tape'
import { postFile } from '../api/client'
import { useOnce } from '../api/useOnce'

interface Props {
  tape: TapeInfo
  side: Side
  /** The side as it came back, to be put beside what was recorded and heard. */
  onBack: (record: Rendition) => void
}

/** A side goes out as a file, to be mended in another program, and comes back in the same place. */
export function OutAndBack({ tape, side, onBack }: Props) {
  const input = useRef<HTMLInputElement>(null)
  const where = `/tapes/${tape.id}/side?channels=${side.channels.join()}`
  const back = useOnce(async (file: File) => {
    const { rendition } = await postFile<{ rendition: string }>(where, file)
    const name = `${file.name} (mended in another program)`.slice(0, 100)
    onBack({
      id: rendition,
      kind: 'rendition',
      channels: side.channels,
      name,
      treatment: { kind: 'outside', file: file.name.slice(0, 100) },
    })
    toast.success('It lies where the side lies, and is heard from now on.')
  })
  return (
    <p className="border-t border-rule py-2 text-faint">
      In another program:{' '}
      <a
        className="text-tape hover:underline"
        href={`/api${where}`}
        download={`${tape.name}${side.name ? `, ${side.name}` : ''}.wav`}
        data-testid="mend-out"
      >
        export this side
      </a>
      , then{' '}
      <button type="button" className="text-tape hover:underline" disabled={back.busy} onClick={() => input.current?.click()}>
        {back.busy ? 'comparing …' : 'import it mended'}
      </button>
      <input
        ref={input}
        type="file"
        accept="audio/*"
        aria-label="The side, mended in another program"
        className="sr-only"
        tabIndex={-1}
        onChange={({ target }) => {
          const [file] = target.files ?? []
          target.value = ''
          if (file) back.run(file)
        }}
      />
    </p>
  )
}
