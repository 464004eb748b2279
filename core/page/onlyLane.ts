import type { PageLayout } from './lay'
import { BLOCK_KINDS } from './story'

/** What is said and read, what is played from tape, or one lane by its id. */
export type LaneOf = 'voice' | 'tape' | (string & {})

/** A page of which one lane alone sounds, as long as the whole page: what is silent in it keeps its time. */
export function onlyLane(layout: PageLayout, lane: LaneOf): PageLayout {
  const sounds = (kind: keyof typeof BLOCK_KINDS) => lane === (BLOCK_KINDS[kind].written ? 'voice' : 'tape')
  return {
    ...layout,
    placed: layout.placed.map((row) => (sounds(row.block.kind) ? row : { ...row, sound: 'silent' as const })),
    hangers: layout.hangers.filter((one) => one.lane.id === lane),
  }
}

/** The lanes of a page in which something sounds, with their names; what is muted does not. */
export function soundingLanes({ placed, hangers }: PageLayout): { lane: LaneOf; name: string }[] {
  const kinds = placed.flatMap(({ block, sound }) => (sound === 'silent' ? [] : [BLOCK_KINDS[block.kind].written]))
  const heard = hangers.filter(({ lane, from, to }) => !lane.muted && to > from).map(({ lane }) => lane)
  const lanes = [...new Map(heard.map((lane) => [lane.id, lane])).values()].sort((a, b) => (a.order < b.order ? -1 : 1))
  return [
    ...(kinds.includes(true) ? [{ lane: 'voice', name: 'Voice' }] : []),
    ...(kinds.includes(false) ? [{ lane: 'tape', name: 'Tape' }] : []),
    ...lanes.map(({ id, name }) => ({ lane: id, name })),
  ]
}
