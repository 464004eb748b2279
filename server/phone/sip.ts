import sdp from 'sdp-transform'

/** Messages of the Session Initiation Protocol (RFC 3261), as much of it as a call needs that comes in or goes out over one hop. */
export interface SipMessage {
  /** `INVITE sip:…` or `SIP/2.0 200 OK`. */
  first: string
  headers: [name: string, value: string][]
  body: string
}

/** Short forms of header names. */
const SHORT = new Map([
  ['v', 'via'],
  ['f', 'from'],
  ['t', 'to'],
  ['i', 'call-id'],
  ['m', 'contact'],
  ['c', 'content-type'],
  ['l', 'content-length'],
])

export function readSip(bytes: Uint8Array): SipMessage | null {
  const text = new TextDecoder().decode(bytes)
  const end = text.indexOf('\r\n\r\n')
  if (end < 0) return null
  const [first, ...lines] = text
    .slice(0, end)
    .replace(/\r\n[ \t]+/g, ' ')
    .split('\r\n')
  if (!/^([A-Z]+ \S+ SIP\/2\.0|SIP\/2\.0 \d{3}.*)$/.test(first)) return null
  const headers = lines.flatMap((line): [string, string][] => {
    const at = line.indexOf(':')
    return at > 0 ? [[line.slice(0, at).trim(), line.slice(at + 1).trim()]] : []
  })
  return { first, headers, body: text.slice(end + 4) }
}

export function writeSip({ first, headers, body }: SipMessage): Uint8Array<ArrayBuffer> {
  const bytes = new TextEncoder().encode(body)
  const lines = [first, ...headers.map(([name, value]) => `${name}: ${value}`), `Content-Length: ${bytes.length}`]
  return new TextEncoder().encode(`${lines.join('\r\n')}\r\n\r\n${body}`)
}

const full = (name: string): string => SHORT.get(name.toLowerCase()) ?? name.toLowerCase()

export const header = (message: SipMessage, name: string): string =>
  message.headers.find(([key]) => full(key) === name.toLowerCase())?.[1] ?? ''
export const method = (message: SipMessage): string => /^([A-Z]+) /.exec(message.first)?.[1] ?? ''
export const status = (message: SipMessage): number => Number(/^SIP\/2\.0 (\d{3})/.exec(message.first)?.[1] ?? 0)
/** Who calls, as they say it: `"Harbour office" <sip:…>` or the address alone. */
export const caller = (message: SipMessage): string => {
  const from = header(message, 'from')
  return /^"?([^"<]+?)"?\s*</.exec(from)?.[1] ?? /sip:([^@;>]+)/.exec(from)?.[1] ?? 'unknown'
}

/** An answer to a request: what it came with goes back with it. */
export function answer(request: SipMessage, first: string, tag: string, more: [string, string][] = [], body = ''): SipMessage {
  const same = request.headers.filter(([name]) => ['via', 'from', 'call-id', 'cseq'].includes(full(name)))
  const to = header(request, 'to')
  return { first, headers: [...same, ['To', to.includes('tag=') ? to : `${to};tag=${tag}`], ...more], body }
}

/** One stream of sound that is offered or answered (RFC 8866), with the port that it is sent to. */
export interface Media {
  port: number
  payloadTypes: number[]
  /** Which side of the call it is (RFC 4574), as recorders of calls are told. */
  label: string
}

/** The streams of sound in a session description; none where it cannot be read. */
export function readSdp(body: string): Media[] {
  const { media = [] } = sdp.parse(body)
  return media
    .filter(({ type, protocol }) => type === 'audio' && protocol === 'RTP/AVP')
    .map(({ port, payloads = '', label = '' }: Offered) => ({
      port,
      payloadTypes: String(payloads).trim().split(/\s+/).map(Number),
      label: String(label),
    }))
}

/** As it is read; labels (RFC 4574) are known to the library, and not to its types. */
type Offered = Pick<sdp.MediaDescription, 'port' | 'payloads'> & { label?: string | number }

export const writeSdp = (address: string, media: readonly Media[], direction: 'sendonly' | 'recvonly'): string =>
  sdp.write({
    version: 0,
    origin: { username: '-', sessionId: 1, sessionVersion: 1, netType: 'IN', ipVer: 4, address },
    name: '-',
    connection: { version: 4, ip: address },
    timing: { start: 0, stop: 0 },
    media: media.map(({ port, payloadTypes, label }) => ({
      type: 'audio',
      port,
      protocol: 'RTP/AVP',
      payloads: payloadTypes.join(' '),
      rtp: payloadTypes.map((payload) => ({ payload, codec: payload === 8 ? 'PCMA' : 'PCMU', rate: 8000 })),
      fmtp: [],
      ...(label ? { label } : {}),
      direction,
    })),
  })
