import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto'
import { linkSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { Trouble } from './trouble'

/**
 * Passwords of destinations: kept in the database by AES-256-GCM (NIST SP 800-38D), under a key that lies outside of it,
 * in a file that nobody else can read or, where it is set, in `PLAIN_CUT_SECRET_KEY` (32 bytes, base64).
 */
export class Secrets {
  private known: Buffer | null = null

  constructor(private readonly data: string) {}

  private key(): Buffer {
    const given = process.env.PLAIN_CUT_SECRET_KEY
    this.known ??= given ? Buffer.from(given, 'base64') : this.keyOfFile()
    if (this.known.length !== 32) throw new Trouble('refused', 'The key that passwords are locked with is not one of 32 bytes.')
    return this.known
  }

  /** Made when it is first wanted; of two servers that want it at once, one makes it. */
  private keyOfFile(): Buffer {
    const path = join(this.data, 'secrets.key')
    const mine = `${path}.${randomBytes(6).toString('hex')}`
    writeFileSync(mine, randomBytes(32), { mode: 0o600 })
    try {
      linkSync(mine, path)
    } catch {
      // it is there already
    } finally {
      rmSync(mine)
    }
    return readFileSync(path)
  }

  /** `of`: what it is a secret of; it cannot be read as another's. */
  lock(secret: string, of: string): string {
    const start = randomBytes(12)
    const cipher = createCipheriv('aes-256-gcm', this.key(), start).setAAD(Buffer.from(of))
    const locked = Buffer.concat([cipher.update(secret, 'utf8'), cipher.final()])
    return Buffer.concat([start, cipher.getAuthTag(), locked]).toString('base64')
  }

  unlock(locked: string, of: string): string {
    if (!locked) return ''
    const bytes = Buffer.from(locked, 'base64')
    try {
      const decipher = createDecipheriv('aes-256-gcm', this.key(), bytes.subarray(0, 12)).setAAD(Buffer.from(of))
      decipher.setAuthTag(bytes.subarray(12, 28))
      return Buffer.concat([decipher.update(bytes.subarray(28)), decipher.final()]).toString('utf8')
    } catch {
      throw new Trouble('refused', 'Its password can’t be read any more: the key that it was locked with is gone. Enter it again.')
    }
  }
}
