import { toast } from 'sonner'
import type { TapeInfo } from '../../contract/tapes'
import type { MendStep } from '../../core/mend/chain'
import { alike } from '../../core/mend/sameVoice'
import { useTapes } from '../api/queries'
import { useOnce } from '../api/useOnce'
import { Button, Menu, MenuItem } from '../ui/parts'
import { elsewhere, mendAlso, stepsOn, suited, voiceOn, type VoiceOn } from './elsewhere'

interface Props {
  tape: TapeInfo
  /** Whose voice it is; empty where nobody knows. */
  speaker: string
  side: number
  /** What it is mended by, and what that is called; null: it is heard as recorded. */
  applied: { steps: readonly MendStep[]; name: string } | null
  /** Tries steps on this side. */
  onTry: (steps: readonly MendStep[]) => void
}

/** The same voice on other tapes: its treatment is taken over from there, or put on them too. */
export function SameVoice({ tape, speaker, side, applied, onTry }: Props) {
  const others = elsewhere(useTapes().data ?? [], tape, speaker)
  const mended = others.find((one) => one.tape.sides[one.side].rendition)
  const also = useOnce(async (all: readonly VoiceOn[]) => {
    for (const to of all) await mendAlso(applied!.steps, applied!.name, { tape, side }, to)
    toast.success(all.length === 1 ? `“${all[0].tape.name}” is mended alike.` : `${all.length} tapes are mended alike.`)
  })
  const asThere = useOnce(async (from: VoiceOn) => {
    const steps = await stepsOn(from)
    if (!steps) return
    const there = await voiceOn(from)
    onTry(await suited(steps, there, { tape, side }))
    if (!alike(there, await voiceOn({ tape, side })))
      toast(`The room lies otherwise behind the voice than on “${from.tape.name}”: listen closely.`)
  })
  if (!applied)
    return mended ? (
      <p className="flex items-baseline gap-2 border-b border-rule py-2">
        <span className="flex-1 text-soft">This voice is mended on “{mended.tape.name}”.</span>
        <button type="button" className="text-tape hover:underline" onClick={() => asThere.run(mended)}>
          try it here
        </button>
      </p>
    ) : null
  if (!others.length) return null
  return (
    <div className="pb-2">
      <Menu label="Same voice elsewhere" trigger={<Button disabled={also.busy}>Same voice elsewhere …</Button>}>
        {others.length > 1 && (
          <MenuItem onSelect={() => also.run(others)}>
            <span className="flex-1">On all {others.length} other tapes</span>
          </MenuItem>
        )}
        {others.map((one) => (
          <MenuItem key={`${one.tape.id} ${one.side}`} onSelect={() => also.run([one])}>
            <span className="flex-1">{one.tape.name}</span>
            {one.tape.sides[one.side].rendition && <span className="text-faint">mended already: replaces that</span>}
          </MenuItem>
        ))}
      </Menu>
    </div>
  )
}
