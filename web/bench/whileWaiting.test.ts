import { expect, it } from 'vitest'
import type { ActualityStep } from '../../core/edits/actuality'
import type { LiveDocument } from '../documents/liveDocument'
import { followPlace, inTurn } from './whileWaiting'

it('a place goes along with what is edited while something is waited for, until it is asked for', () => {
  const hearers = new Set<(steps: ActualityStep[]) => void>()
  const live = {
    onSteps: (hear: (steps: ActualityStep[]) => void) => (hearers.add(hear), () => hearers.delete(hear)),
  } as unknown as LiveDocument<'actuality'>
  const tell = (...steps: ActualityStep[]) => hearers.forEach((hear) => hear(steps))
  const placeNow = followPlace(live, 1000)
  tell({ type: 'replace', from: 0, to: 300, insert: [], after: null })
  tell({ type: 'replace', from: 100, to: 100, insert: [{ tape: 't', from: 0, to: 50, sound: 'tape' }], after: null })
  expect(placeNow()).toBe(750)
  tell({ type: 'replace', from: 0, to: 100, insert: [], after: null })
  expect(hearers.size).toBe(0)
})

it('what waits is done one after the other, and one that fails holds up none', async () => {
  const turns = inTurn()
  const done: number[] = []
  const wait = (ms: number) => new Promise((ready) => setTimeout(ready, ms))
  const all = [20, 5, 1].map((ms, i) =>
    turns(async () => {
      await wait(ms)
      if (i === 1) throw new Error('its sound did not come')
      done.push(i)
    }).catch(() => undefined),
  )
  await Promise.all(all)
  expect(done).toEqual([0, 2])
})
