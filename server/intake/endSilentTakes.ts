import type { Services } from '../services'
import { allCame, leaveNothing } from './intake'

/** A recorder that is paused is still heard of every few seconds; one that was silent for so long is given up. */
const SILENT = '10 minutes'
/** After a start of the server whoever still records has so long to be heard of again. */
const COME_BACK_MS = 15_000

/**
 * Ends takes whose recorder is gone, with what is there of them: an upload whose length nobody told, and whose
 * sender was not heard of for ten minutes, or not since this server started (`since`). Should it come back, the
 * browser still has all of the take and sends it anew.
 */
export async function endSilentTakes(services: Services, since: Date): Promise<void> {
  const started = Date.now() - since.getTime() > COME_BACK_MS ? since : new Date(0)
  const rows = (await services.database.query(
    `update tape set sender = null where state = 'arriving' and not complete and size = 0
      and (sender < now() - interval '${SILENT}' or sender < $1) returning id`,
    [started],
  )) as [{ id: string }[], number]
  for (const { id } of rows[0]) {
    const bytes = await services.store.size(services.store.upload(id)).catch(() => 0)
    if (bytes) await allCame(services, id, bytes)
    else await leaveNothing(services, id)
  }
}
