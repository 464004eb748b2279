import * as yup from 'yup'
import type { FieldsOf } from './shapes'

/** Where files are sent to. */
export const DESTINATION_KINDS = ['folder', 'sftp', 'ftp', 'put', 'form'] as const
export type DestinationKind = (typeof DESTINATION_KINDS)[number]

/** What an address of each begins with. */
export const SCHEMES: Record<DestinationKind, readonly string[]> = {
  folder: ['/'],
  sftp: ['sftp://'],
  ftp: ['ftp://', 'ftps://'],
  put: ['http://', 'https://'],
  form: ['http://', 'https://'],
}

/** It waits for a person, takes the other's place, or gets a name beside it. */
export const SAME_NAME = ['ask', 'replace', 'beside'] as const
export type SameName = (typeof SAME_NAME)[number]

/** What one tells of a destination. `secret` is its password: it goes in and never comes back; left out, it stays as it was. */
export interface DestinationOrder {
  name: string
  kind: DestinationKind
  /** A folder's path, or an address with the folder in it: `sftp://playout.example:22/in`. */
  address: string
  user: string
  secret?: string
  /** Of a form: what its field for the file is called. */
  field: string
  /** Of a form: it takes a sending that it has had before, by its `Idempotency-Key`, for the same. */
  heedsKey: boolean
  /** What becomes of a file whose name is taken there. */
  sameName: SameName
}

/** What is known of one. */
export interface DestinationInfo extends Omit<DestinationOrder, 'secret'> {
  id: string
  hasSecret: boolean
  /** Of SFTP: by which key the other side was known first (SHA-256); empty until it was reached. */
  hostKey: string
}

const plainAddress = (kind: DestinationKind, address: string): boolean => {
  if (!SCHEMES[kind].some((scheme) => address.startsWith(scheme))) return false
  if (kind === 'folder') return !address.includes('\0')
  try {
    const url = new URL(address)
    // a password in an address would be shown wherever the address is
    return Boolean(url.hostname) && !url.username && !url.password
  } catch {
    return false
  }
}

export const destinationSchema = yup
  .object({
    name: yup.string().trim().min(1, 'it needs a name').max(80).required('it needs a name'),
    kind: yup.string().oneOf(DESTINATION_KINDS).required(),
    address: yup.string().max(500).required('it needs an address'),
    user: yup.string().max(100).defined(),
    secret: yup.string().max(10_000).optional(),
    field: yup.string().max(80).defined(),
    heedsKey: yup.boolean().required(),
    sameName: yup.string().oneOf(SAME_NAME).required(),
  } satisfies FieldsOf<DestinationOrder>)
  .noUnknown()
  .test('address', 'the address does not fit its kind, or holds a password', ({ kind, address }) =>
    Boolean(kind && address && plainAddress(kind, address)),
  )
