import type { TapeInfo } from '../../contract/tapes'
import type { TapeFigures } from '../../core/hearing/ear'
import type { MendStep } from '../../core/mend/chain'
import { shifted } from '../../core/mend/sameVoice'
import { renditionsOf, tapeHead, type Rendition, type Side } from '../../core/tape/tape'
import { get } from '../api/client'
import { liveDocument } from '../documents/useDocument'
import { learntFrom } from './learn'
import { USUAL_VOICE, type Voice } from './steps'

/** One voice on several tapes: what mends it on one of them is put on the others, each by its own levels and its own noise. */
export interface VoiceOn {
  tape: TapeInfo
  side: number
}

/** Whose voice a side is, by its name, or by the tape's where it has one side; empty where nobody knows. */
const nameOf = ({ speaker, sides }: TapeInfo, { name }: Side): string => name || (sides.length === 1 ? speaker : '')

/** The same voice on other tapes that are whole. */
export function elsewhere(tapes: readonly TapeInfo[], tape: TapeInfo, name: string): VoiceOn[] {
  if (!name) return []
  return tapes
    .filter(({ id, state }) => id !== tape.id && state === 'ready')
    .flatMap((other) => other.sides.flatMap((one, i) => (nameOf(other, one) === name ? [{ tape: other, side: i }] : [])))
}

/** The levels of a voice on a tape. */
export const voiceOn = async ({ tape, side }: VoiceOn): Promise<Voice> =>
  (await get<TapeFigures | null>(`/tapes/${tape.id}/figures`))?.channels[tape.sides[side].channels[0]] ?? USUAL_VOICE

/** Steps that were set for a voice as they suit it on another tape: noise is learnt from its own quiet, and followed where it has none. */
export async function suited(steps: readonly MendStep[], from: Voice, to: VoiceOn): Promise<MendStep[]> {
  const list = shifted(steps, from, await voiceOn(to))
  const { tape } = to
  const quiet = tape.tone.made ? [] : tape.tone.quiet
  const longest = [...quiet].sort((a, b) => b.to - b.from - (a.to - a.from))[0]
  return Promise.all(
    list.map(async (step, i): Promise<MendStep> => {
      if (step.kind !== 'noise' || !step.learnt) return step
      const { learnt: _, ...plain } = step
      const learnt = longest && (await learntFrom(tape, tape.sides[to.side], longest, list.slice(0, i)).catch(() => undefined))
      return learnt ? { ...plain, learnt } : plain
    }),
  )
}

/** The steps that a voice is mended by on a tape; null where it is heard as recorded. */
export async function stepsOn({ tape, side }: VoiceOn): Promise<readonly MendStep[] | null> {
  const { body } = await liveDocument(tape.id, 'tape')
  const { rendition } = tapeHead(body).sides[side] ?? {}
  const treatment = renditionsOf(body).find(({ id }) => id === rendition)?.treatment
  return treatment?.kind === 'chain' ? treatment.steps : null
}

/** Mends a voice on another tape as well; one act there, which is undone there. */
export async function mendAlso(steps: readonly MendStep[], name: string, from: VoiceOn, to: VoiceOn): Promise<void> {
  const own = await suited(steps, await voiceOn(from), to)
  const live = await liveDocument(to.tape.id, 'tape')
  const { sides } = tapeHead(live.body)
  const record: Rendition = {
    id: crypto.randomUUID(),
    kind: 'rendition',
    channels: sides[to.side].channels,
    name,
    treatment: { kind: 'chain', steps: own },
  }
  const next = sides.map((side, i) => (i === to.side ? { ...side, rendition: record.id } : side))
  live.act(
    [
      { type: 'put', record },
      { type: 'set', id: 'tape', key: 'sides', value: next },
    ],
    { label: 'apply a treatment' },
  )
}
