import fc from 'fast-check'
import { expect, it } from 'vitest'
import { clipLength, mapPosition } from '../../core/edits/actuality'
import { drawnAct, drawSteps, piece, shareOf } from '../../core/edits/arbitrary'
import { listLength } from '../../core/edits/editList'
import { remapOf, remapped } from './remap'

it('agrees with the steps', () =>
  fc.assert(
    fc.property(piece, drawnAct, shareOf, (document, drawn, share) => {
      const steps = drawSteps(document, drawn)
      const position = Math.floor(clipLength(document) * share)
      const remap = remapOf(steps, clipLength(document))
      // what plays runs on through what takes its place, rather than staying at its share of it
      let [mapped, apart] = [position, 0]
      for (const step of steps) {
        const there = mapPosition(step, mapped)
        if (step.type === 'replace' && mapped > step.from && mapped < step.to) apart = Math.max(apart, listLength(step.insert))
        mapped = there
      }
      expect(Math.abs(remapped(remap, position) - mapped)).toBeLessThanOrEqual(apart)
    }),
    { numRuns: 1000 },
  ))
