import { create } from 'zustand'
import type { PlanLoudness } from '../../../core/render/meter'

type Turned = PlanLoudness['turned']

/** Where the file on the page is turned down for safety: known to whoever measures it, drawn beside the blocks. */
export const useTurned = create<{ turned: Turned }>(() => ({ turned: [] }))

export const setTurned = (turned: Turned): void => {
  if (turned.length || useTurned.getState().turned.length) useTurned.setState({ turned })
}
