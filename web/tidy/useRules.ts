import { useQuery } from '@tanstack/react-query'
import { toast } from 'sonner'
import type { DismissalOrder } from '../../contract/tidyRules'
import { NO_RULES, type TidyRules } from '../../core/tidy/rules'
import { get, put, remove } from '../api/client'

const said = (error: Error) => void toast.error(error.message)

/** What the newsroom settled about tidying; all browsers hear of it when it changes. */
export function useRules() {
  const { data: rules = NO_RULES } = useQuery({ queryKey: ['tidyRules'], queryFn: () => get<TidyRules>('/tidy') })
  return {
    rules,
    dismissAlways: (rule: DismissalOrder) => void put(`/tidy/dismissals/${crypto.randomUUID()}`, rule).catch(said),
    offerAgain: (id: string) => void remove(`/tidy/dismissals/${id}`).catch(said),
    /** Null for the usual ones. */
    setPhrases: (language: string, phrases: readonly string[] | null) => void put(`/tidy/phrases/${language}`, { phrases }).catch(said),
  }
}

export type Rules = ReturnType<typeof useRules>
