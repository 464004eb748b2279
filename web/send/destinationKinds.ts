import type { DestinationKind } from '../../contract/destinations'

/** What each kind of destination is called, and how its address looks. */
export const KINDS: Record<DestinationKind, { name: string; address: string; example: string }> = {
  folder: { name: 'Folder', address: 'Path on this machine', example: '/mnt/playout/in' },
  sftp: { name: 'SFTP', address: 'Address', example: 'sftp://playout.example/in' },
  ftp: { name: 'FTP', address: 'Address', example: 'ftp://playout.example/in' },
  put: { name: 'HTTP, PUT', address: 'Address of the folder', example: 'https://playout.example/files' },
  form: { name: 'HTTP, form', address: 'Address of the form', example: 'https://playout.example/upload' },
}
