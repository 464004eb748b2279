import type { AddressInfo } from 'node:net'
import { ftpDoor } from './ftpDoor'
import { httpDoor } from './httpDoor'
import type { Inbox } from './inbox'
import { sftpDoor } from './sftpDoor'

/** A stand-in for a playout system: one folder, into which one comes by HTTP, FTP, SFTP, or as a folder. */
export interface Playout {
  addresses: Record<'folder' | 'sftp' | 'ftp' | 'put' | 'form', string>
  close: () => void
}

/** Opens its doors on loopback; `ports` are those of HTTP, FTP and SFTP, any where they are 0. */
export async function openPlayout(inbox: Inbox, ports: readonly [number, number, number] = [0, 0, 0], key?: string): Promise<Playout> {
  const doors = [httpDoor(inbox), ftpDoor(inbox), sftpDoor(inbox, key)] as const
  const [http, ftp, sftp] = await Promise.all(
    doors.map(
      (door, i) =>
        new Promise<string>((done, fail) => {
          door.on('error', fail)
          door.listen(ports[i], '127.0.0.1', () => done(`127.0.0.1:${(door.address() as AddressInfo).port}`))
        }),
    ),
  )
  return {
    addresses: {
      folder: inbox.folder,
      sftp: `sftp://${sftp}/in`,
      ftp: `ftp://${ftp}/in`,
      put: `http://${http}/files`,
      form: `http://${http}/form`,
    },
    close: () => doors.forEach((door) => door.close()),
  }
}
