import { useState } from 'react'
import type { TapeInfo } from '../../contract/tapes'
import type { Rendition, Side, TapeStep } from '../../core/tape/tape'
import type { Stretch } from '../../core/time'
import { Choice } from '../ui/parts'
import { MendSide } from './MendSide'
import type { Tried } from './useTrying'

interface Props {
  tape: TapeInfo
  /** Who speaks on it, as it is called by now. */
  speaker: string
  sides: readonly Side[]
  /** What was made of its sides, in the order in which it was made. */
  renditions: readonly Rendition[]
  /** What is selected: noise is learnt from it, tone too, and loudness is told by it. */
  selected: Stretch | null
  act: (steps: TapeStep[], label: string) => void
  /** What is set here is heard at once, before it is applied. */
  onTry: (tried: Tried | null) => void
}

const sideName = ({ name }: Side, index: number): string => name || `Side ${index + 1}`

/** Mends a tape, one side at a time. */
export function MendPanel({ sides, ...rest }: Props) {
  const [at, setAt] = useState(0)
  const index = Math.min(at, sides.length - 1)
  return (
    <>
      {sides.length > 1 && (
        <Choice label="Side" value={index} onChange={setAt} options={sides.map((one, i) => [i, sideName(one, i)] as const)} />
      )}
      <MendSide key={index} sides={sides} index={index} {...rest} />
    </>
  )
}
