import { create } from 'zustand'
import { COMMAND_IDS, type CommandId } from './table'

/** Commands and speeds that somebody wants within reach, in the order in which they were chosen; kept in this browser. */
interface Favourites {
  commands: readonly CommandId[]
  speeds: readonly number[]
}

export const FAVOURITE_SPEEDS = [0.7, 0.8, 0.9, 1, 1.2, 1.5, 1.8, 2, 2.5, 3] as const

function read(): Favourites {
  try {
    const { commands, speeds } = JSON.parse(localStorage.favourites ?? '{}') as { commands?: unknown; speeds?: unknown }
    const among = <T>(list: unknown, all: readonly T[]): T[] =>
      Array.isArray(list) ? list.filter((one): one is T => all.includes(one as T)) : []
    return { commands: among(commands, COMMAND_IDS), speeds: among(speeds, FAVOURITE_SPEEDS) }
  } catch {
    return { commands: [], speeds: [] }
  }
}

export const useFavourites = create<Favourites>(read)

const toggled = <T>(list: readonly T[], one: T): T[] => (list.includes(one) ? list.filter((other) => other !== one) : [...list, one])

function keep(favourites: Favourites): void {
  localStorage.favourites = JSON.stringify(favourites)
  useFavourites.setState(favourites)
}
export const toggleCommand = (id: CommandId): void =>
  keep({ ...useFavourites.getState(), commands: toggled(useFavourites.getState().commands, id) })
export const toggleSpeed = (speed: number): void =>
  keep({ ...useFavourites.getState(), speeds: toggled(useFavourites.getState().speeds, speed).sort((a, b) => a - b) })
