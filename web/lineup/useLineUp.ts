import { useQuery } from '@tanstack/react-query'
import type { LineUpInfo, MadeOf } from '../../contract/lineups'
import { get } from '../api/client'

export const useLineUp = (id: string | null) =>
  useQuery({ queryKey: ['lineUp', id], enabled: id !== null, queryFn: () => get<LineUpInfo>(`/lineups/${id}`) }).data
export const useMadeOf = (tape: string) =>
  useQuery({ queryKey: ['madeOf', tape], queryFn: () => get<MadeOf[]>(`/lineups/of/${tape}`) }).data
