import { useSyncExternalStore } from 'react'
import { clamp } from '../../core/time'
import { run, useCommands } from '../commands/commands'
import { player } from './player'

/** How fast it plays, the pitch as it is; for the person, wherever they listen. */

export const SLOWEST = 0.5
export const FASTEST = 3
const STEP = 0.1
const SHUTTLE = [1, 1.5, 2, 3]
/** Where nobody chose a speed yet, a log is listened through at this. */
const FIRST = 1.5

const lastUsed = (): number => clamp(Number(localStorage.speed) || FIRST, SLOWEST, FASTEST)

/** Sets how fast it plays, within what can be followed. */
export function setSpeed(speed: number): void {
  const tidy = Math.round(clamp(speed, SLOWEST, FASTEST) * 10) / 10
  if (tidy !== 1) localStorage.speed = String(tidy)
  player.setSpeed(tidy)
}

/** The next speed of the shuttle in a direction, 1 or -1. */
function shuttle(direction: 1 | -1): void {
  const now = player.playing && Math.sign(player.speed) === direction ? Math.abs(player.speed) : 0
  player.setSpeed(direction * (SHUTTLE.find((speed) => speed > now) ?? SHUTTLE[SHUTTLE.length - 1]))
  if (!player.playing) run('play.toggle')
}

/** How fast it plays at this moment. */
export const useSpeedNow = (): number => useSyncExternalStore(player.subscribe, () => player.speed)

export function useSpeed(): { speed: number; hurrying: boolean } {
  const speed = useSpeedNow()
  const hurrying = useSyncExternalStore(player.subscribe, () => player.hurrying)
  useCommands({
    'play.speed': () => setSpeed(player.speed === 1 ? lastUsed() : 1),
    'play.hurry': () => player.setHurrying(!player.hurrying),
    'play.slower': () => setSpeed(player.speed - STEP),
    'play.faster': () => setSpeed(player.speed + STEP),
    'play.shuttleOn': () => shuttle(1),
    'play.shuttleBack': () => shuttle(-1),
    'play.shuttleStop': () => {
      if (player.playing) run('play.toggle')
      player.setSpeed(1)
    },
  })
  return { speed, hurrying }
}
