import type { Rendition, Side } from './tape'

/**
 * Which rendition of a side sounds. That is told by the side: on the tape for what is pulled from now on, and in each piece.
 */

/** What must be known of a tape to tell what sounds: renditions that are made. */
interface Sounding {
  id: string
  renditions?: readonly string[]
  tone: { sound: string }
}

/** The rendition of a side that is heard; null where it is heard as recorded, also because its rendition is not made yet. */
export const heardRendition = ({ renditions }: Pick<Sounding, 'renditions'>, { rendition }: Pick<Side, 'rendition'>): string | null =>
  rendition && renditions?.includes(rendition) ? rendition : null

/** The sound that a side is heard from. */
export function soundOf(tape: Pick<Sounding, 'id' | 'renditions'>, side: Pick<Side, 'rendition'>): string {
  const rendition = heardRendition(tape, side)
  return rendition ? `${tape.id}.${rendition}` : tape.id
}

/** The sound that a side's room is heard from: its own, or tone that was made of it where the tape has no quiet. */
export function toneOf(tape: Sounding, side: Pick<Side, 'rendition'>): string {
  const rendition = heardRendition(tape, side)
  if (!rendition) return tape.tone.sound
  return tape.tone.sound === tape.id ? `${tape.id}.${rendition}` : `${tape.id}.${rendition}-tone`
}

/** The tape that a sound is of. */
export const tapeOf = (sound: string): string => sound.split('.', 1)[0]

/** The rendition that a sound is, or is the room tone of; null where it is what was recorded. */
export function renditionIn(sound: string): string | null {
  const [, made] = sound.split('.')
  return made && made !== 'tone' ? made.replace(/-tone$/, '') : null
}

/** Whether a sound is room tone that was made: its frames are none of its tape. */
export const isMadeTone = (sound: string): boolean => sound.endsWith('tone')

type Made = Pick<Rendition, 'id' | 'channels' | 'piece'>

/** Those that a tape, or a piece of it, may be heard from: what was made for one piece is for no other. */
export const madeFor = <M extends Pick<Made, 'piece'>>(renditions: readonly M[], piece?: string): M[] =>
  renditions.filter((one) => one.piece === undefined || one.piece === piece)

const sameChannels = (a: Side, { channels }: Made): boolean => a.channels.join() === channels.join()

/** Sides as recorded where one of them is heard treated, else each with its newest rendition: before and after. */
export function switched(sides: readonly Side[], renditions: readonly Made[]): Side[] {
  const treated = sides.some(({ rendition }) => rendition)
  return sides.map((side) => {
    const { rendition: _, ...plain } = side
    const newest = treated ? undefined : renditions.findLast((one) => sameChannels(side, one))
    return newest ? { ...plain, rendition: newest.id } : plain
  })
}
