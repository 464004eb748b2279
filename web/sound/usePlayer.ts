import { useEffect, useRef, useSyncExternalStore } from 'react'
import { player } from './player'

export const usePlaying = (owner: unknown): boolean =>
  useSyncExternalStore(player.subscribe, () => player.playing && player.owner === owner)

/** It is to play, and its sound has not come yet. */
export const useWaiting = (): boolean => useSyncExternalStore(player.subscribe, () => player.waiting)

/** Runs once a frame while `running`, and otherwise once after each render: what stands still costs nothing. */
export function useFrames(act: () => void, running: boolean): void {
  const latest = useRef(act)
  latest.current = act
  useEffect(() => {
    if (!running) return
    let handle = requestAnimationFrame(function frame() {
      latest.current()
      handle = requestAnimationFrame(frame)
    })
    return () => cancelAnimationFrame(handle)
  }, [running])
  useEffect(() => {
    if (running) return
    const handle = requestAnimationFrame(() => latest.current())
    return () => cancelAnimationFrame(handle)
  })
}
