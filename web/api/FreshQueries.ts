import { QueryClient, type InvalidateQueryFilters, type InvalidateOptions } from '@tanstack/react-query'

/**
 * Asks anew also for what is only just being asked for the first time. QueryClient by itself lets that first
 * asking stand, though the server may have read its answer before what has changed since.
 */
export class FreshQueries extends QueryClient {
  override invalidateQueries(filters?: InvalidateQueryFilters, options?: InvalidateOptions): Promise<void> {
    const first = this.getQueryCache()
      .findAll({ ...filters, fetchStatus: 'fetching' })
      .filter(({ state }) => state.data === undefined)
    const others = super.invalidateQueries(filters, options)
    const again = first.map(async ({ promise, queryKey }) => {
      await promise?.catch(() => undefined) // who asked is told
      await super.invalidateQueries({ ...filters, queryKey, exact: true }, options)
    })
    return Promise.all([others, ...again]).then(() => undefined)
  }
}
