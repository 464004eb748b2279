import { request as plainRequest, type IncomingMessage, type OutgoingHttpHeaders } from 'node:http'
import { request as secureRequest } from 'node:https'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import type { Proof } from '../../contract/deliveries'
import type { Before } from './byFile'
import { hashOf } from './hashing'
import type { Notes, Parcel } from './place'
import { existsAlready, mayHaveArrived, Trouble, troubleOnTheWay } from './trouble'

/** An address that takes files by HTTP (RFC 9110). */
export interface HttpTarget {
  address: string
  user: string
  secret: string
  /** Of a form: its field for the file, and whether a second sending by the same key is taken for the same. */
  field: string
  heedsKey: boolean
}

const digestOf = ({ sha256 }: Parcel): string => `sha-256=:${Buffer.from(sha256, 'hex').toString('base64')}:`
const sizeOf = ({ headers }: IncomingMessage): number | null => (headers['content-length'] ? Number(headers['content-length']) : null)

/** A PUT of the file at its own address; done twice it comes to the same. What is there is asked before and after. */
export async function deliverByPut(target: HttpTarget, parcel: Parcel, before: Before, notes: Notes): Promise<Proof> {
  const url = new URL(`${target.address.replace(/\/$/, '')}/${encodeURIComponent(parcel.name)}`)
  const found = await whatIsThere(url, target, parcel, notes)
  if (found === 'hash' || (found === 'size' && before.beyond)) return found
  if (found && !before.replaces) throw existsAlready()
  const headers = { 'Content-Type': 'application/octet-stream', ...(before.replaces ? {} : { 'If-None-Match': '*' }) }
  const answer = await ask('PUT', url, target, notes, { ...labels(parcel), ...headers }, bodyOf(parcel, notes), parcel.bytes)
  const now = answer.statusCode === 412 || isGood(answer) ? await whatIsThere(url, target, parcel, notes) : null
  if (now === 'hash' || (now === 'size' && isGood(answer))) return now
  if (answer.statusCode === 412) throw existsAlready()
  if (!isGood(answer)) throw refusal(answer)
  // it said yes; some addresses can only be written to
  if (now === null) return 'answer'
  throw new Trouble('again', 'What is there is not what was sent.', true)
}

/** A form with the file in it (RFC 7578). Where the other side does not heed the key, no try follows one that may have arrived. */
export async function deliverByForm(target: HttpTarget, parcel: Parcel, before: Before, notes: Notes): Promise<Proof> {
  if (before.beyond && !target.heedsKey) throw mayHaveArrived('It was cut off before it was confirmed.')
  const edge = `plain-cut-${parcel.id}`
  const field = target.field || 'file'
  const head = Buffer.from(
    `--${edge}\r\nContent-Disposition: form-data; name="${field}"; filename="${parcel.name}"\r\n` +
      'Content-Type: application/octet-stream\r\n\r\n',
  )
  const tail = Buffer.from(`\r\n--${edge}--\r\n`)
  const headers = { ...labels(parcel), 'Content-Type': `multipart/form-data; boundary=${edge}` }
  let beyond = before.beyond
  const noted: Notes = {
    ...notes,
    beyond: async () => {
      await notes.beyond()
      beyond = true
    },
  }
  let answer: IncomingMessage
  try {
    const bytes = head.length + parcel.bytes + tail.length
    answer = await ask('POST', new URL(target.address), target, noted, headers, bodyOf(parcel, noted, head, tail), bytes)
  } catch (error) {
    if (!beyond || target.heedsKey) throw error
    throw mayHaveArrived('All of it was sent, and no answer came.')
  }
  if (isGood(answer)) return 'answer'
  const between = answer.statusCode === 502 || answer.statusCode === 504
  if (between && !target.heedsKey) throw mayHaveArrived('Something between here and there gave up waiting.')
  throw answer.statusCode === 409 || answer.statusCode === 412 ? existsAlready() : refusal(answer)
}

const isGood = ({ statusCode = 0 }: IncomingMessage): boolean => statusCode >= 200 && statusCode < 300

/** By which a second sending is known for the same, and what it must come to (RFC 9530). */
const labels = (parcel: Parcel): OutgoingHttpHeaders => ({ 'Idempotency-Key': `"${parcel.id}"`, 'Repr-Digest': digestOf(parcel) })

/** Whether it is there: by its hash, by its size alone, as `another`, or, as far as one can tell, not at all. */
async function whatIsThere(url: URL, target: HttpTarget, parcel: Parcel, notes: Notes): Promise<'hash' | 'size' | 'another' | null> {
  const head = await ask('HEAD', url, target, notes, { 'Want-Repr-Digest': 'sha-256=1' })
  if (!isGood(head)) return null
  const digest = head.headers['repr-digest']
  if (digest) return digest === digestOf(parcel) ? 'hash' : 'another'
  const size = sizeOf(head)
  if (size !== null && size !== parcel.bytes) return 'another'
  const whole = await ask('GET', url, target, notes)
  if (!isGood(whole)) {
    whole.resume()
    return size === null ? null : 'size'
  }
  return (await hashOf(whole, () => notes.sent(parcel.bytes))) === parcel.sha256 ? 'hash' : 'another'
}

/** The bytes of a sending. Its last ones are held back until it is kept that, from then on, it may have arrived. */
function bodyOf(parcel: Parcel, notes: Notes, head: Buffer = Buffer.alloc(0), tail: Buffer = Buffer.alloc(0)): Readable {
  return Readable.from(
    (async function* () {
      if (head.length) yield head
      let sent = 0
      let held: Buffer | null = null
      for await (const chunk of parcel.open()) {
        if (held) yield held
        held = chunk as Buffer
        sent += held.length
        notes.sent(sent)
      }
      await notes.beyond()
      if (held) yield held
      if (tail.length) yield tail
    })(),
    { objectMode: false },
  )
}

/** Whether anybody answers at an address, whatever they say. */
export async function greet(address: string, signal: AbortSignal): Promise<void> {
  await ask('HEAD', new URL(address), { user: '', secret: '' }, { signal })
}

/** Resolves with the answer's head; its body is left to be read by whoever wants it, and thrown away otherwise. */
async function ask(
  method: string,
  url: URL,
  { user, secret }: Pick<HttpTarget, 'user' | 'secret'>,
  { signal }: Pick<Notes, 'signal'>,
  headers: OutgoingHttpHeaders = {},
  body?: Readable,
  bytes = 0,
): Promise<IncomingMessage> {
  const make = url.protocol === 'https:' ? secureRequest : plainRequest
  const access = secret ? { Authorization: user ? `Basic ${Buffer.from(`${user}:${secret}`).toString('base64')}` : `Bearer ${secret}` } : {}
  const length = body ? { 'Content-Length': bytes } : {}
  const asked = make(url, { method, headers: { ...access, ...length, ...headers }, signal, agent: false })
  const answered = new Promise<IncomingMessage>((done, fail) => {
    asked.on('response', done)
    asked.on('error', fail)
  })
  answered.catch(() => undefined)
  try {
    if (body) await Promise.race([pipeline(body, asked), answered])
    else asked.end()
    const answer = await answered
    if (method !== 'GET') answer.resume()
    return answer
  } catch (error) {
    throw signal.aborted && signal.reason instanceof Trouble ? signal.reason : troubleOnTheWay(error)
  }
}

function refusal({ statusCode = 0 }: IncomingMessage): Trouble {
  if (statusCode === 401 || statusCode === 403) return new Trouble('refused', 'It refuses the user or the password.')
  if (statusCode === 413) return new Trouble('refused', 'The file is too large for it.')
  if (statusCode === 507) return new Trouble('again', 'It is full.', true)
  if (statusCode === 404) return new Trouble('refused', 'There is nothing at that address.')
  if (statusCode >= 500 || statusCode === 408 || statusCode === 425 || statusCode === 429)
    return new Trouble('again', `It can’t take the file now (${statusCode}).`, true)
  return new Trouble('refused', `It refuses the file (${statusCode}).`)
}
