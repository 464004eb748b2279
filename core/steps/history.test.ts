import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { actualityType, type Actuality, type ActualityStep } from '../edits/actuality'
import { drawnAct, drawSteps, piece } from '../edits/arbitrary'
import { takeOut } from '../edits/acts'
import { applyAll, applyAndInvert } from './document'
import { stacks, takingBack, type Entry } from './history'

type Log = Entry<ActualityStep>[]

/** A document with its log, as the server keeps it. */
class Desk {
  log: Log = []
  constructor(public document: Actuality) {}

  add(author: string, steps: ActualityStep[], undoes?: string): void {
    const { document, inverse } = applyAndInvert(actualityType, this.document, steps)
    this.document = document
    this.log.push({ id: `e${this.log.length}`, author, label: '', steps, inverse, undoes })
  }
  back(author: string, which: 'undo' | 'redo'): boolean {
    const target = stacks(this.log, author)[which].at(-1)
    const steps = target && takingBack(actualityType, this.log, target)
    if (!steps) return false
    this.add(author, steps, target.id)
    return true
  }
}

describe('history', () => {
  it('undoes and redoes without end', () =>
    fc.assert(
      fc.property(piece, fc.array(drawnAct, { minLength: 1, maxLength: 8 }), (start, history) => {
        const desk = new Desk(start)
        for (const drawn of history) {
          const steps = drawSteps(desk.document, drawn)
          if (applyAll(actualityType, desk.document, steps).spans.length) desk.add('me', steps)
        }
        const end = desk.document
        for (let round = 0; round < 2; round++) {
          while (desk.back('me', 'undo'));
          expect(desk.document).toEqual(start)
          while (desk.back('me', 'redo'));
          expect(desk.document).toEqual(end)
        }
      }),
    ))

  const start: Actuality = {
    kind: 'actuality',
    slug: '',
    speaker: '',
    role: '',
    story: null,
    head: 0,
    tail: 0,
    spans: [{ tape: 'a', from: 0, to: 10_000, sound: 'tape' }],
  }

  it('takes back only what is one’s own, wherever others have moved it', () => {
    const desk = new Desk(start)
    desk.add('me', takeOut(desk.document, { from: 8000, to: 9000 }))
    desk.add('you', takeOut(desk.document, { from: 1000, to: 2000 }))
    desk.back('me', 'undo')
    expect(desk.document).toEqual(applyAll(actualityType, start, takeOut(start, { from: 1000, to: 2000 })))
    desk.back('me', 'redo')
    desk.back('you', 'undo')
    expect(desk.document).toEqual(applyAll(actualityType, start, takeOut(start, { from: 8000, to: 9000 })))
  })

  it('takes back a step from under an undone pair that another hand reached into', () => {
    const desk = new Desk(start)
    desk.add('me', takeOut(desk.document, { from: 8000, to: 9000 }))
    desk.add('me', takeOut(desk.document, { from: 7000, to: 9000 }))
    desk.add('you', takeOut(desk.document, { from: 1000, to: 2000 }))
    desk.back('me', 'undo')
    desk.back('me', 'undo')
    expect(desk.document).toEqual(applyAll(actualityType, start, takeOut(start, { from: 1000, to: 2000 })))
  })

  it('refuses where somebody has changed the same place since', () => {
    const desk = new Desk(start)
    desk.add('me', takeOut(desk.document, { from: 8000, to: 9000 }))
    desk.add('you', takeOut(desk.document, { from: 7500, to: 8500 }))
    expect(desk.back('me', 'undo')).toBe(false)
    expect(desk.back('you', 'undo')).toBe(true)
    expect(desk.back('me', 'undo')).toBe(true)
    expect(desk.document).toEqual(start)
  })

  it('lets marks of having heard alone', () => {
    const desk = new Desk(start)
    desk.add('me', [{ type: 'set', key: 'slug', value: 'Till six' }])
    desk.log.push({ ...desk.log[0], id: 'quiet', quiet: true })
    expect(stacks(desk.log, 'me').undo.map((entry) => entry.id)).toEqual(['e0'])
  })
})
