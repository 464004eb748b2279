import { EntitySchema } from 'typeorm'
import type { DeliveryInfo } from '../../contract/deliveries'
import type { DestinationInfo } from '../../contract/destinations'

/** A destination as it is kept; one that is gone stays for the receipts that name it. */
export interface DestinationRow extends Omit<DestinationInfo, 'hasSecret'> {
  /** Locked: see `secrets.ts`. */
  secret: string
  gone: boolean
}

export const DestinationEntity = new EntitySchema<DestinationRow>({
  name: 'destination',
  columns: {
    id: { type: 'uuid', primary: true },
    name: { type: 'text' },
    kind: { type: 'text' },
    address: { type: 'text' },
    user: { type: 'text' },
    secret: { type: 'text' },
    field: { type: 'text' },
    heedsKey: { type: 'boolean', name: 'heeds_key' },
    sameName: { type: 'text', name: 'same_name' },
    hostKey: { type: 'text', name: 'host_key' },
    gone: { type: 'boolean' },
  },
})

export interface DeliveryRow extends Omit<DeliveryInfo, 'nextTry' | 'until' | 'arrived'> {
  nextTry: Date | null
  until: Date | null
  arrived: Date | null
  /** It is to take the place of another file of its name. */
  replaces: boolean
  /** A try came so far that it may have arrived. */
  beyond: boolean
  /** When somebody last said to be sending it. */
  beat: Date | null
  at: Date
}

export const DeliveryEntity = new EntitySchema<DeliveryRow>({
  name: 'delivery',
  columns: {
    id: { type: 'uuid', primary: true },
    send: { type: 'uuid' },
    destination: { type: 'uuid' },
    to: { type: 'text' },
    fileName: { type: 'text', name: 'file_name' },
    isScript: { type: 'boolean', name: 'is_script' },
    state: { type: 'text' },
    progress: { type: 'real' },
    tries: { type: 'int' },
    nextTry: { type: 'timestamptz', nullable: true, name: 'next_try' },
    until: { type: 'timestamptz', nullable: true },
    error: { type: 'text' },
    proof: { type: 'text', nullable: true },
    replaces: { type: 'boolean' },
    beyond: { type: 'boolean' },
    beat: { type: 'timestamptz', nullable: true },
    arrived: { type: 'timestamptz', nullable: true },
    at: { type: 'timestamptz', default: () => 'now()' },
  },
})

export function toDelivery({
  nextTry,
  until,
  arrived,
  replaces: _,
  beyond: _beyond,
  beat: _beat,
  at: _at,
  ...row
}: DeliveryRow): DeliveryInfo {
  const told = (at: Date | null) => at?.toISOString() ?? null
  return { ...row, nextTry: told(nextTry), until: told(until), arrived: told(arrived) }
}
