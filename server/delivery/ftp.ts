import { Client, FTPError } from 'basic-ftp'
import { hashing } from './hashing'
import type { Place } from './place'
import { existsAlready, Trouble, troubleOnTheWay } from './trouble'

/** A server of FTP (RFC 959), or of FTP over TLS (RFC 4217). */
export async function openFtp(address: string, user: string, password: string, patience: number): Promise<Place> {
  const url = new URL(address)
  const client = new Client(patience)
  const plainly = async <T>(act: () => Promise<T>): Promise<T> => {
    try {
      return await act()
    } catch (error) {
      throw plain(error)
    }
  }
  const size = async (name: string): Promise<number | null> => {
    try {
      return await client.size(name)
    } catch (error) {
      if (!(error instanceof FTPError)) throw plain(error)
      // not there; or a server that tells no sizes, but lists them
      if (error.code === 550) return null
      const listed = await plainly(() => client.list())
      return listed.find((one) => one.name === name)?.size ?? null
    }
  }
  try {
    await client.access({
      host: url.hostname,
      port: Number(url.port || 21),
      user: user || 'anonymous',
      password: password || (user ? '' : 'guest'),
      secure: url.protocol === 'ftps:',
    })
    const folder = decodeURIComponent(url.pathname)
    if (folder !== '/' && folder !== '') await client.cd(folder)
  } catch (error) {
    client.close()
    if (error instanceof FTPError && error.code === 550) throw new Trouble('again', 'The folder is not there.', true)
    throw plain(error)
  }
  return {
    size,
    async hash(name, moved) {
      const { into, digest } = hashing(moved)
      try {
        await client.downloadTo(into, name)
        return digest()
      } catch (error) {
        // a place that one may only put things into
        if (error instanceof FTPError && error.code === 550) return null
        throw plain(error)
      }
    },
    write: (name, content) => plainly(async () => void (await client.uploadFrom(content, name))),
    async rename(from, to, replaces) {
      // what a server does with a name that is there is not said anywhere: most take its place
      const there = await size(to)
      if (there !== null && !replaces) throw existsAlready()
      try {
        await client.rename(from, to)
      } catch (error) {
        if (there === null || !(error instanceof FTPError)) throw plain(error)
        await plainly(() => client.remove(to))
        await plainly(() => client.rename(from, to))
      }
    },
    remove: (name) => plainly(async () => void ((await size(name)) === null || (await client.remove(name)))),
    close: async () => client.close(),
  }
}

function plain(error: unknown): Trouble {
  if (!(error instanceof FTPError)) return troubleOnTheWay(error)
  const { code } = error
  if (code === 530 || code === 332 || code === 331) return new Trouble('refused', 'It refuses the user or the password.')
  if (code === 452 || code === 552) return new Trouble('again', 'It is full.', true)
  if (code === 553) return new Trouble('refused', 'It does not allow a file of that name.')
  if (code === 550) return new Trouble('refused', 'It does not allow files to be put there.')
  return code >= 500 ? new Trouble('refused', 'It refuses the file.') : new Trouble('again', 'It can’t take the file now.')
}
