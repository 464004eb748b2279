import { create } from 'zustand'

/** Whether calls record by themselves as they are picked up, as this browser was asked to. */
export const useCallsByThemselves = create<{ on: boolean }>(() => ({ on: localStorage.callsByThemselves === 'yes' }))

export function setCallsByThemselves(on: boolean): void {
  localStorage.callsByThemselves = on ? 'yes' : 'no'
  useCallsByThemselves.setState({ on })
}
