import { createHash } from 'node:crypto'
import ssh2, { type CipherAlgorithm, type SFTPWrapper, type Stats } from 'ssh2'
import type { Place } from './place'
import { existsAlready, Trouble, troubleOnTheWay } from './trouble'

/** What a server is known by: once it was reached, only who has the same key is taken for it. */
export interface HostKey {
  /** SHA-256 of its key, base64; empty where it was never reached. */
  known: string
  remember: (fingerprint: string) => Promise<void>
}

/** Of the protocol (draft-ietf-secsh-filexfer-02). */
/** Ciphers that this runtime works out by itself come before one that is written out in JavaScript. */
const FAST: CipherAlgorithm[] = ['aes128-gcm@openssh.com', 'aes256-gcm@openssh.com', 'aes128-ctr']
/** All servers take parts of this size. */
const PART = 32_768
const OUTSTANDING = 16
const [NO_SUCH_FILE, DENIED, FAILURE] = [2, 3, 4]

/** A server of SFTP. A password that begins as a private key does is one. */
export async function openSftp(address: string, user: string, secret: string, hostKey: HostKey, patience: number): Promise<Place> {
  const url = new URL(address)
  const client = new ssh2.Client()
  let other = ''
  let seen = ''
  const sftp = await new Promise<SFTPWrapper>((done, fail) => {
    client.on('connect', () => client.setNoDelay())
    client.on('ready', () => client.sftp((error, session) => (error ? fail(new Trouble('refused', 'It has no SFTP.')) : done(session))))
    client.on('error', (error: Error & { level?: string }) => {
      if (other) fail(new Trouble('refused', `It is not the machine that it was: its key is another (${other}).`))
      else if (error.level === 'client-authentication') fail(new Trouble('refused', 'It refuses the user or the password.'))
      else fail(troubleOnTheWay(error))
    })
    client.on('close', () => fail(new Trouble('again', 'The connection broke.')))
    client.connect({
      host: url.hostname.replace(/^\[|\]$/g, ''),
      port: Number(url.port || 22),
      username: user,
      algorithms: { cipher: { prepend: FAST, append: [], remove: [] } },
      readyTimeout: patience,
      hostVerifier: (key: Buffer) => {
        seen = createHash('sha256').update(key).digest('base64')
        if (!hostKey.known || hostKey.known === seen) return true
        other = seen
        return false
      },
      ...keyOrPassword(secret),
    })
  }).catch((error: unknown) => {
    client.end()
    throw error
  })
  if (!hostKey.known) await hostKey.remember(seen)
  const folder = decodeURIComponent(url.pathname).replace(/\/$/, '')
  const at = (name: string) => `${folder || '.'}/${name}`
  /** What is asked and not answered yet ends with the connection. */
  const asked = new Set<(error: Trouble) => void>()
  client.on('close', () => asked.forEach((fail) => fail(new Trouble('again', 'The connection broke.'))))
  const call = <T = void>(act: (done: (error: Error | null | undefined, result: T) => void) => void): Promise<T> =>
    new Promise<T>((done, fail) => {
      asked.add(fail)
      act((error, result) => {
        asked.delete(fail)
        if (error) fail(error)
        else done(result)
      })
    })
  const plainly = async <T>(act: Promise<T>): Promise<T> => {
    try {
      return await act
    } catch (error) {
      throw plain(error)
    }
  }
  const size = async (name: string): Promise<number | null> => {
    try {
      return (await call<Stats>((done) => sftp.stat(at(name), done))).size
    } catch (error) {
      if (codeOf(error) === NO_SUCH_FILE) return null
      throw plain(error)
    }
  }
  if (folder && (await size('.')) === null) {
    client.end()
    throw new Trouble('again', 'The folder is not there.', true)
  }
  return {
    size,
    async hash(name, moved) {
      const bytes = (await size(name)) ?? 0
      const hash = createHash('sha256')
      try {
        await onFile(name, 'r', async (file) => {
          const ahead = new Ahead<Buffer>((part) => {
            hash.update(part)
            moved()
          })
          for (let from = 0; from < bytes; from += PART) await ahead.add(readAt(file, from, Math.min(PART, bytes - from)))
          await ahead.end()
        })
        return hash.digest('hex')
      } catch (error) {
        if (codeOf(error) === DENIED) return null
        throw plain(error)
      }
    },
    write: (name, content) =>
      plainly(
        onFile(name, 'w', async (file) => {
          const ahead = new Ahead()
          let to = 0
          for await (const chunk of content) {
            for (let from = 0; from < (chunk as Buffer).length; from += PART) {
              const part = (chunk as Buffer).subarray(from, from + PART)
              await ahead.add(call((done) => sftp.write(file, part, 0, part.length, to, done)))
              to += part.length
            }
          }
          await ahead.end()
        }),
      ),
    async rename(from, to, replaces) {
      if (replaces) return plainly(call((done) => sftp.ext_openssh_rename(at(from), at(to), done)).catch(() => replace(from, to)))
      try {
        // in this version of the protocol a name that is there is never taken
        await call((done) => sftp.rename(at(from), at(to), done))
      } catch (error) {
        if (codeOf(error) === FAILURE && (await size(to)) !== null) throw existsAlready()
        throw plain(error)
      }
    },
    remove: (name) => plainly(call((done) => sftp.unlink(at(name), done)).catch(notThere)),
    close: async () => void client.end(),
  }

  async function onFile(name: string, flags: 'r' | 'w', act: (file: Buffer) => Promise<void>): Promise<void> {
    const file = await call<Buffer>((done) => sftp.open(at(name), flags, done))
    await act(file)
    await call((done) => sftp.close(file, done))
  }

  async function readAt(file: Buffer, from: number, bytes: number): Promise<Buffer> {
    const part = Buffer.allocUnsafe(bytes)
    let got = 0
    while (got < bytes) {
      const count = await call<number>((done) => sftp.read(file, part, got, bytes - got, from + got, done))
      if (!count) break
      got += count
    }
    return part.subarray(0, got)
  }

  async function replace(from: string, to: string): Promise<void> {
    await call((done) => sftp.unlink(at(to), done)).catch(notThere)
    await call((done) => sftp.rename(at(from), at(to), done))
  }
}

/** Has several answers outstanding at once, and takes them in their order: a slow line is not waited for after each part. */
class Ahead<T = void> {
  private readonly asked: Promise<T>[] = []

  constructor(private readonly take: (answer: T) => void = () => undefined) {}

  async add(answer: Promise<T>): Promise<void> {
    answer.catch(() => undefined) // it is seen when its turn comes
    this.asked.push(answer)
    if (this.asked.length >= OUTSTANDING) this.take(await this.asked.shift()!)
  }

  async end(): Promise<void> {
    for (const answer of this.asked) this.take(await answer)
  }
}

const keyOrPassword = (secret: string) => (secret.startsWith('-----BEGIN ') ? { privateKey: secret } : { password: secret })

const codeOf = (error: unknown): number => Number((error as { code?: unknown }).code)

function notThere(error: unknown): void {
  if (codeOf(error) !== NO_SUCH_FILE) throw error
}

function plain(error: unknown): Trouble {
  const code = codeOf(error)
  if (code === DENIED) return new Trouble('refused', 'It does not allow files to be put there.')
  if (code === NO_SUCH_FILE) return new Trouble('again', 'The folder is not there.')
  if (code === FAILURE) return new Trouble('again', 'It can’t take the file now; it may be full.')
  return troubleOnTheWay(error)
}
