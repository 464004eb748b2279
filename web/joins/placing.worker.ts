import { judgeCut, placeCut, soundAround, type CutOrder, type EdgeOrder, type Heard } from '../../core/cuts/cut'
import { planOf, type TapeFacts } from '../../core/render/plan'
import { renderer } from '../../core/render/render'
import type { Word } from '../../core/tape/words'
import type { Frames } from '../../core/time'
import { SoundCache } from '../sound/soundCache'

/** Places cuts and judges joins, with the sound of both sides at hand. */

export interface PlacingSide {
  facts: TapeFacts
  words: readonly Word[]
}
export interface PlacingOrder {
  id: number
  act: 'place' | 'judge'
  order: CutOrder
  /** Room tone that was added at the join, where it is judged. */
  room?: Frames
  left: PlacingSide
  right: PlacingSide
}
export type PlacingAnswer = { id: number; took: number } & (
  | { placed: ReturnType<typeof placeCut> }
  | { judged: ReturnType<typeof judgeCut> }
  | { failed: string }
)

const cache = new SoundCache()

/** What is heard of a tape around an edge, its sides together as they are set. */
async function heard(edge: EdgeOrder, { facts, words }: PlacingSide): Promise<Heard> {
  const { from, to } = soundAround(edge, facts.frames)
  const pulled = renderer(
    planOf([{ tape: facts.id, from, to, sound: 'tape' }], () => facts),
    cache.read,
  )
  await Promise.all(pulled.needs(0, to - from).map((need) => cache.ensure(need.sound, need.channel, need.from, need.to)))
  const out = Array.from({ length: pulled.plan.channels }, () => new Float32Array(to - from))
  pulled.pull(0, out)
  if (out[1]) for (let i = 0; i < out[0].length; i++) out[0][i] = (out[0][i] + out[1][i]) / 2
  return { words, sound: out[0], start: from }
}

self.onmessage = async ({ data }: MessageEvent<PlacingOrder>) => {
  const { id, act, order } = data
  try {
    const [left, right] = await Promise.all([heard(order.left, data.left), heard(order.right, data.right)])
    const began = performance.now()
    const done = act === 'place' ? { placed: placeCut(order, left, right) } : { judged: judgeCut(order, left, right, data.room) }
    postMessage({ id, took: performance.now() - began, ...done } satisfies PlacingAnswer)
  } catch (error) {
    postMessage({ id, took: 0, failed: String(error) } satisfies PlacingAnswer)
  }
}
