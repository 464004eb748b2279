import type { Kind, StepOf } from '../../contract/documents'
import type { Entry } from '../../core/steps/history'
import type { WaitingActs } from './waiting'

/**
 * Acts from the browser's own storage, without those that do not read as acts: what an older program or a damaged disk left
 * is checked like what crosses the wire. The schemas are loaded only where there is something to check.
 */
export async function checkedActs<K extends Kind>(kind: K, { entries }: WaitingActs): Promise<Entry<StepOf<K>>[]> {
  const { checkedSteps } = await import('../../contract/documents')
  return entries.filter(({ steps, inverse }): boolean => {
    try {
      return checkedSteps(kind, steps).length > 0 && checkedSteps(kind, inverse).length > 0
    } catch {
      return false
    }
  }) as Entry<StepOf<K>>[]
}
