import fc from 'fast-check'
import { expect, it } from 'vitest'
import { clipLength, mapPosition } from '../../core/edits/actuality'
import { drawnAct, drawSteps, piece, shareOf } from '../../core/edits/arbitrary'
import { remapOf, remapped } from './remap'

it('agrees with the steps, but never runs into what was put in', () =>
  fc.assert(
    fc.property(piece, drawnAct, shareOf, (document, drawn, share) => {
      const steps = drawSteps(document, drawn)
      const position = Math.floor(clipLength(document) * share)
      const remap = remapOf(steps, clipLength(document))
      const mapped = steps.reduce((at, step) => mapPosition(step, at), position)
      expect(Math.abs(remapped(remap, position) - mapped)).toBeLessThanOrEqual(0)
    }),
    { numRuns: 300 },
  ))
