import type { Plan } from '../../core/render/plan'
import { RATE, type Frames } from '../../core/time'
import { player } from '../sound/player'

/** Plays across a join of what `plan` sounds like: from 2 s before it to somewhat after it. */
export function playAcross(owner: string, plan: Plan, at: Frames): void {
  player.load(owner, plan)
  void player.play(Math.max(0, at - 2 * RATE), Math.min(plan.length, at + 1.5 * RATE))
}
