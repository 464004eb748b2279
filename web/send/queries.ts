import { useQuery } from '@tanstack/react-query'
import type { DestinationInfo } from '../../contract/destinations'
import type { Programme } from '../../contract/programmes'
import type { Receipt } from '../../contract/sends'
import { get } from '../api/client'

export const useDestinations = () => useQuery({ queryKey: ['destinations'], queryFn: () => get<DestinationInfo[]>('/destinations') })
export const useProgrammes = () => useQuery({ queryKey: ['programmes'], queryFn: () => get<Programme[]>('/programmes') })
/** What is on its way, or stands still and wants a person. */
export const useOpenSends = () => useQuery({ queryKey: ['sends', 'open'], queryFn: () => get<Receipt[]>('/deliveries/open') })
/** The newest of all that was sent. */
export const useNewestSends = () => useQuery({ queryKey: ['sends', 'newest'], queryFn: () => get<Receipt[]>('/sends/newest') })
