import { generateKeyPairSync } from 'node:crypto'
import { constants } from 'node:fs'
import { open, rm, type FileHandle } from 'node:fs/promises'
import ssh2, { type Server, type SFTPWrapper } from 'ssh2'
import type { Inbox } from './inbox'

const { STATUS_CODE } = ssh2.utils.sftp

/** A stand-in for a server of SFTP (version 3): the part of it that putting a file there takes. Its key is made anew each time. */
export function sftpDoor(inbox: Inbox, key: string = newKey()): Server {
  return new ssh2.Server({ hostKeys: [key] }, (client) => {
    client.on('error', () => undefined)
    // the types do not know it
    const line = client as unknown as { setNoDelay: () => void }
    line.setNoDelay()
    client.on('authentication', (asked) => {
      if (asked.method === 'password' && inbox.lets(asked.username, asked.password)) asked.accept()
      else asked.reject(['password'])
    })
    client.on('session', (accept) => {
      accept().on('sftp', (welcome) => serve(welcome(), inbox, () => client.end()))
    })
  })
}

export const newKey = (): string =>
  generateKeyPairSync('rsa', { modulusLength: 2048 }).privateKey.export({ type: 'pkcs1', format: 'pem' }).toString()

function serve(sftp: SFTPWrapper, inbox: Inbox, hangUp: () => void): void {
  const files = new Map<number, FileHandle>()
  let count = 0
  const fileOf = (handle: Buffer) => files.get(handle.readUInt32BE(0))!
  const attributes = (size: number, folder = false) => ({
    size,
    mode: folder ? constants.S_IFDIR | 0o755 : constants.S_IFREG | 0o644,
    uid: 0,
    gid: 0,
    atime: 0,
    mtime: 0,
  })
  // a line that breaks leaves nothing open
  sftp.on('close', () => files.forEach((file) => void file.close()))
  /** Answers, or says that it failed. */
  const doing = (request: number, act: () => Promise<unknown>) =>
    void act().catch((error: { code?: string }) =>
      sftp.status(request, error.code === 'ENOENT' ? STATUS_CODE.NO_SUCH_FILE : STATUS_CODE.FAILURE),
    )

  sftp.on('OPEN', (request, name, flags) =>
    doing(request, async () => {
      const reading = (flags & ssh2.utils.sftp.OPEN_MODE.WRITE) === 0
      if (reading && inbox.faults.closed) return sftp.status(request, STATUS_CODE.PERMISSION_DENIED)
      if (!reading && inbox.faults.full) return sftp.status(request, STATUS_CODE.FAILURE)
      const handle = Buffer.alloc(4)
      handle.writeUInt32BE(++count)
      files.set(count, await open(inbox.at(name), reading ? 'r' : 'w'))
      sftp.handle(request, handle)
    }),
  )
  sftp.on('WRITE', (request, handle, offset, data) =>
    doing(request, async () => {
      await fileOf(handle).write(data, 0, data.length, offset)
      await inbox.pace(data.length)
      sftp.status(request, STATUS_CODE.OK)
    }),
  )
  sftp.on('READ', (request, handle, offset, length) =>
    doing(request, async () => {
      const { bytesRead, buffer } = await fileOf(handle).read(Buffer.alloc(length), 0, length, offset)
      if (bytesRead) sftp.data(request, buffer.subarray(0, bytesRead))
      else sftp.status(request, STATUS_CODE.EOF)
    }),
  )
  sftp.on('CLOSE', (request, handle) =>
    doing(request, async () => {
      await fileOf(handle).close()
      files.delete(handle.readUInt32BE(0))
      sftp.status(request, STATUS_CODE.OK)
    }),
  )
  const tell = (request: number, name: string) => {
    if (/^\.?\/?(in)?\/?\.?$/.test(name)) return sftp.attrs(request, attributes(0, true))
    const size = inbox.size(name)
    if (size === null) sftp.status(request, STATUS_CODE.NO_SUCH_FILE)
    else sftp.attrs(request, attributes(size))
  }
  sftp.on('STAT', tell)
  sftp.on('LSTAT', tell)
  sftp.on('FSTAT', (request, handle) =>
    doing(request, async () => void sftp.attrs(request, attributes((await fileOf(handle).stat()).size))),
  )
  sftp.on('REALPATH', (request) => sftp.name(request, [{ filename: '/in', longname: '/in', attrs: attributes(0, true) }]))
  sftp.on('REMOVE', (request, name) =>
    doing(request, async () => {
      await rm(inbox.at(name))
      sftp.status(request, STATUS_CODE.OK)
    }),
  )
  sftp.on('RENAME', (request, from, to) =>
    doing(request, async () => {
      const done = await inbox.name('SFTP', from, to, false)
      if (inbox.faults.mute) hangUp()
      else sftp.status(request, done ? STATUS_CODE.OK : STATUS_CODE.FAILURE)
    }),
  )
}
