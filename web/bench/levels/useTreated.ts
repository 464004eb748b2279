import { madeFor, switched } from '../../../core/tape/renditions'
import type { TapeInfo } from '../../../contract/tapes'
import type { Bench } from '../bench'

/** Before and after: a piece as it was recorded, or as what was done to the sound of its tapes. */
export function useTreated({ live, act }: Bench, tapes: readonly TapeInfo[]) {
  const made = (tape: TapeInfo) => madeFor(tape.renditions, live.id)
  const treated = tapes.filter((tape) => made(tape).length)
  return {
    'voice.treated': {
      unable: treated.length ? null : 'Nothing was done to the sound of its tapes.',
      run: () => {
        const { sides = {} } = live.body
        const now = treated.map((tape) => [tape.id, switched(sides[tape.id] ?? tape.sides, made(tape))] as const)
        const heard = now.some(([, some]) => some.some(({ rendition }) => rendition))
        act(
          [{ type: 'set', key: 'sides', value: { ...sides, ...Object.fromEntries(now) } }],
          heard ? 'hear as treated' : 'hear as recorded',
        )
      },
    },
  }
}
