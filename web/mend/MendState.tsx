import type { TapeInfo } from '../../contract/tapes'
import { CHANGED_MUCH, CHIRPS, type WhatItDid } from '../../core/mend/whatItDid'
import type { Side } from '../../core/tape/tape'
import { Progress } from '../ui/parts'
import { didInWords } from './didInWords'
import { useTimeLeft } from './useTimeLeft'

/** How far the making of what was applied has come, and what it did. */
export function MendState({ tape, side, name, onCancel }: { tape: TapeInfo; side: Side; name: string; onCancel: () => void }) {
  const made = tape.renditions.find(({ id }) => id === side.rendition)
  const left = useTimeLeft(made?.state === 'working' ? made.progress : null)
  if (made?.state === 'ready')
    return (
      <div role="status" className="pb-1 text-[12.5px] leading-relaxed text-soft" data-testid="mend-state">
        Heard mended: {name}.{made.did && <Did did={made.did} />}
      </div>
    )
  if (made?.state === 'failed')
    return (
      <p role="status" className="pb-1 text-[12.5px] text-cut-ink" data-testid="mend-state">
        {made.error || 'It could not be made.'} The side is heard as recorded.
      </p>
    )
  return (
    <div role="status" className="space-y-1.5 pb-2 text-[12.5px] text-soft" data-testid="mend-state">
      <p>
        Being made{left ? `, ${left} to go` : ''}; the side is heard as recorded until it is there.{' '}
        <button type="button" className="text-tape hover:underline" onClick={onCancel}>
          Cancel
        </button>
      </p>
      <Progress value={made?.progress ?? 0} label="Mending" />
    </div>
  )
}

function Did({ did }: { did: WhatItDid }) {
  return (
    <>
      <span className="block text-faint">{didInWords(did).join(' · ')}</span>
      {(did.chirp ?? 1) > CHIRPS && (
        <span className="block text-cut-ink">What is left of the noise may chirp: take less of it away, or blend.</span>
      )}
      {did.voice > CHANGED_MUCH && <span className="block text-cut-ink">It changes the voice a lot: listen before it goes out.</span>}
    </>
  )
}
