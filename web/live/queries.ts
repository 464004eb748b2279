import { useQuery } from '@tanstack/react-query'
import type { BoardRow, Play } from '../../contract/boards'
import { get } from '../api/client'
import { waitingPlays } from './playLog'

export const useBoards = () => useQuery({ queryKey: ['boards'], queryFn: () => get<BoardRow[]>('/boards') })

/** What was played on a board, the newest first: what the server has, and what still waits here. */
export const usePlays = (board: string) =>
  useQuery({
    queryKey: ['plays', board],
    queryFn: async () => {
      const waiting = await waitingPlays(board)
      const kept = await get<Play[]>(`/boards/${board}/plays`).catch(() => [])
      const known = new Set(kept.map(({ id }) => id))
      return [...waiting.filter(({ id }) => !known.has(id)), ...kept]
    },
    retry: false,
    staleTime: 0,
  })
