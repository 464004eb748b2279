import { In } from 'typeorm'
import type { Proof } from '../../contract/deliveries'
import type { DestinationInfo, DestinationOrder } from '../../contract/destinations'
import { notFound, Refusal } from '../problem'
import type { Services } from '../services'
import { deliverAsFile, type Before } from './byFile'
import { deliverByForm, deliverByPut, greet } from './byHttp'
import { openFolder } from './folder'
import { openFtp } from './ftp'
import type { Notes, Parcel, Place } from './place'
import { DestinationEntity, type DestinationRow } from './rows'
import { Secrets } from './secrets'
import { openSftp } from './sftp'
import { troubleOnTheWay } from './trouble'

/** Where files go, as it is kept and as it is reached. */

export const toDestination = ({ secret, gone: _, ...row }: DestinationRow): DestinationInfo => ({ ...row, hasSecret: secret !== '' })

export async function destinations({ database }: Services): Promise<DestinationInfo[]> {
  const rows = await database.manager.find(DestinationEntity, { where: { gone: false }, order: { name: 'ASC' } })
  return rows.map(toDestination)
}

/** Those of these ids that are still there; refuses one that is not. */
export async function chosenDestinations({ database }: Services, ids: readonly string[]): Promise<DestinationRow[]> {
  if (!ids.length) return []
  const rows = await database.manager.findBy(DestinationEntity, { id: In([...ids]), gone: false })
  if (rows.length < new Set(ids).size) throw new Refusal(422, 'Not there', 'A destination that was chosen is not there any more.')
  return rows
}

/** Makes one or changes it. A password belongs to an address: it does not go along to another machine. */
export async function keepDestination({ database, config }: Services, id: string, order: DestinationOrder): Promise<DestinationInfo> {
  const { secret, ...rest } = order
  const before = await database.manager.findOneBy(DestinationEntity, { id })
  const sameMachine = before?.kind === order.kind && machineOf(before.address) === machineOf(order.address)
  const locked =
    secret === undefined ? (sameMachine ? (before?.secret ?? '') : '') : secret === '' ? '' : new Secrets(config.data).lock(secret, id)
  const hostKey = sameMachine && before ? before.hostKey : ''
  const row: DestinationRow = { ...rest, id, secret: locked, hostKey, gone: false }
  await database.manager.upsert(DestinationEntity, row, ['id'])
  return toDestination(row)
}

/** An address without the folder. */
const machineOf = (address: string): string => (address.startsWith('/') ? '' : new URL(address).host)

export async function removeDestination({ database }: Services, id: string): Promise<void> {
  const { affected } = await database.manager.update(DestinationEntity, { id, gone: false }, { gone: true, secret: '' })
  if (!affected) throw notFound('That destination')
}

/** Takes the key that the other side has by now for its own: a person said that it was changed. */
export async function forgetHostKey({ database }: Services, id: string): Promise<void> {
  await database.manager.update(DestinationEntity, { id }, { hostKey: '' })
}

/** Sends a file there. */
export async function carry(services: Services, to: DestinationRow, parcel: Parcel, before: Before, notes: Notes): Promise<Proof> {
  const { kind, address, user, field, heedsKey } = to
  if (kind === 'put' || kind === 'form') {
    const secret = new Secrets(services.config.data).unlock(to.secret, to.id)
    const target = { address, user, secret, field, heedsKey }
    return (kind === 'put' ? deliverByPut : deliverByForm)(target, parcel, before, notes)
  }
  const place = await openPlace(services, to)
  // whatever is under way ends with the connection
  const end = () => void place.close()
  notes.signal.addEventListener('abort', end)
  try {
    return await deliverAsFile(place, parcel, before, notes)
  } finally {
    notes.signal.removeEventListener('abort', end)
    await place.close()
  }
}

/** Says in plain words why a destination cannot be reached; leaves nothing there. */
export async function reach(services: Services, to: DestinationRow): Promise<void> {
  try {
    if (to.kind === 'put' || to.kind === 'form') await greet(to.address, AbortSignal.timeout(services.config.patience))
    else await (await openPlace(services, to)).close()
  } catch (error) {
    throw new Refusal(422, 'Not reached', troubleOnTheWay(error).message)
  }
}

async function openPlace({ database, config }: Services, to: DestinationRow): Promise<Place> {
  const { id, kind, address, user } = to
  if (kind === 'folder') return openFolder(address)
  const secret = new Secrets(config.data).unlock(to.secret, id)
  if (kind === 'ftp') return openFtp(address, user, secret, config.patience)
  const remember = async (hostKey: string) => void (await database.manager.update(DestinationEntity, { id }, { hostKey }))
  return openSftp(address, user, secret, { known: to.hostKey, remember }, config.patience)
}
