import { toast } from 'sonner'
import { overlaps, without } from '../../core/stretches'
import type { OffRecord, Strike, TapeDocument, TapeStep } from '../../core/tape/tape'
import type { Frames, Stretch } from '../../core/time'

interface OnTape {
  body: TapeDocument
  strikes: readonly Strike[]
  /** All that is selected. */
  passages: readonly Stretch[]
  place: () => Frames
  select: (selection: null) => void
  act: (steps: TapeStep[], label: string) => void
}

/** Striking what is not needed, and what was said off the record. */
export function useStrikeActs({ body, strikes, passages, place, select, act }: OnTape) {
  const strike = () => {
    if (!passages.length) return void toast('Select a passage first: drag over the sound or the words.')
    act(
      passages.map((stretch): TapeStep => ({ type: 'put', record: { id: crypto.randomUUID(), kind: 'strike', ...stretch } })),
      passages.length > 1 ? `strike ${passages.length} passages` : 'strike',
    )
    select(null)
  }
  const unstrike = () => {
    const over = passages.length ? passages : [{ from: place(), to: place() + 1 }]
    const touched = strikes.filter((strike) => over.some((at) => overlaps(strike, at)))
    const steps = touched.flatMap((strike): TapeStep[] => [
      { type: 'drop', id: strike.id },
      ...without(strike, passages.length ? passages : [strike]).map((rest): TapeStep => ({
        type: 'put',
        record: { id: crypto.randomUUID(), kind: 'strike', ...rest },
      })),
    ])
    act(steps, 'bring back')
  }

  const setOffRecord = () => {
    if (!passages.length) return void toast('Select the passage that is off the record.')
    const touched = Object.values(body.records).filter(
      (record): record is OffRecord => record.kind === 'off' && passages.some((at) => overlaps(record, at)),
    )
    if (!touched.length)
      act(
        passages.map((stretch): TapeStep => ({ type: 'put', record: { id: crypto.randomUUID(), kind: 'off', ...stretch } })),
        'off the record',
      )
    else
      act(
        touched.flatMap((record): TapeStep[] => [
          { type: 'drop', id: record.id },
          ...without(record, passages).map((rest): TapeStep => ({
            type: 'put',
            record: { id: crypto.randomUUID(), kind: 'off', ...rest },
          })),
        ]),
        'on the record',
      )
    toast(touched.length ? 'Back on the record.' : 'Off the record: it can be played here, but not pulled, exported or sent.')
  }
  return { strike, unstrike, setOffRecord }
}
