import { createSocket, type Socket } from 'node:dgram'
import { randomUUID } from 'node:crypto'
import { LINE_RATE } from '../phone/jitter'
import { writeRtp } from '../phone/rtp'
import { header, method, readSdp, readSip, status, writeSdp, writeSip, answer } from '../phone/sip'
import { encode } from '../../core/sound/g711'
import { random } from '../../core/sound/random'

/**
 * A stand-in for a telephone system: calls the newsroom's line by SIP and, once it is answered, sends
 * both sides of a call as G.711 in RTP packets of 20 ms over UDP, some of them late, crossed or lost,
 * and hangs up at the end.
 */
export interface Caller {
  name: string
  /** Both sides at 8 kHz: the newsroom's own end, and who calls. */
  near: Float32Array
  far: Float32Array
  /** Share of packets that are lost, and how late one may be, in milliseconds. */
  loss: number
  jitter: number
  seed: number
}

const PACKET = LINE_RATE / 50
const HERE = '127.0.0.1'

const bound = (socket: Socket) => new Promise<Socket>((done) => socket.bind(0, HERE, () => done(socket)))

export type CallEnd = 'sent' | 'hungUp' | 'refused'

/** Places the call; resolves once it is over. `onAnswer` is told when it is answered. */
export async function call(
  port: number,
  { name, near, far, loss, jitter, seed }: Caller,
  onAnswer: () => void = () => undefined,
): Promise<CallEnd> {
  const socket = await bound(createSocket('udp4'))
  const media = await Promise.all([bound(createSocket('udp4')), bound(createSocket('udp4'))])
  const own = socket.address().port
  const id = randomUUID()
  const common = (cseq: string): [string, string][] => [
    ['Via', `SIP/2.0/UDP ${HERE}:${own};branch=z9hG4bK${randomUUID().slice(0, 8)}`],
    ['Max-Forwards', '70'],
    ['From', `"${name}" <sip:caller@${HERE}:${own}>;tag=stand-in`],
    ['Call-ID', id],
    ['CSeq', cseq],
    ['Contact', `<sip:caller@${HERE}:${own}>`],
  ]
  const to = `<sip:newsroom@${HERE}:${port}>`
  const send = (first: string, headers: [string, string][], body = '') => socket.send(writeSip({ first, headers, body }), port, HERE)
  let over = false
  try {
    return await new Promise<CallEnd>((resolve) => {
      const offer = writeSdp(
        HERE,
        media.map((one, i) => ({ port: one.address().port, payloadTypes: [0], label: i ? 'far' : 'near' })),
        'sendonly',
      )
      const invite = common('1 INVITE')
      const ring = () =>
        send(`INVITE sip:newsroom@${HERE}:${port} SIP/2.0`, [...invite, ['To', to], ['Content-Type', 'application/sdp']], offer)
      let answered = false
      ring()
      const again = setInterval(() => !answered && ring(), 500)
      const finish = (how: CallEnd) => {
        clearInterval(again)
        over = true
        resolve(how)
      }
      socket.on('message', (bytes, peer) => {
        const message = readSip(bytes)
        if (!message) return
        if (method(message) === 'BYE') {
          socket.send(writeSip(answer(message, 'SIP/2.0 200 OK', 'stand-in')), peer.port, peer.address)
          return finish('hungUp')
        }
        const code = status(message)
        if (!header(message, 'cseq').endsWith('INVITE')) return
        if (code >= 180) clearInterval(again)
        if (code >= 300) return finish('refused')
        if (code !== 200) return
        send(`ACK sip:newsroom@${HERE}:${port} SIP/2.0`, [...common('1 ACK'), ['To', header(message, 'to')]])
        if (answered) return
        answered = true
        onAnswer()
        const ports = readSdp(message.body).map((one) => one.port)
        void Promise.all(
          [near, far].map((sound, i) => stream(media[i], ports[i], sound, { loss, jitter, seed: seed + i }, () => over)),
        ).then(() => {
          if (over) return
          send(`BYE sip:newsroom@${HERE}:${port} SIP/2.0`, [...common('2 BYE'), ['To', header(message, 'to')]])
          finish('sent')
        })
      })
    })
  } finally {
    // what is still late goes its way first
    await new Promise((done) => setTimeout(done, jitter + 50))
    for (const one of [socket, ...media]) one.close()
  }
}

async function stream(
  socket: Socket,
  port: number,
  sound: Float32Array,
  line: Pick<Caller, 'loss' | 'jitter' | 'seed'>,
  over: () => boolean,
): Promise<void> {
  const next = random(line.seed)
  const source = Math.floor(next() * 2 ** 32)
  const begin = Math.floor(next() * 2 ** 32)
  const began = Date.now()
  for (let i = 0; i * PACKET < sound.length && !over(); i++) {
    const due = began + i * 20 - Date.now()
    if (due > 0) await new Promise((done) => setTimeout(done, due))
    const packet = writeRtp({
      payloadType: 0,
      sequence: i,
      timestamp: begin + i * PACKET,
      source,
      payload: encode('PCMU', sound.subarray(i * PACKET, (i + 1) * PACKET)),
    })
    // the first one comes through: it says when the side began
    if (i > 0 && next() < line.loss) continue
    const late = i > 0 ? next() * line.jitter : 0
    setTimeout(() => !over() && socket.send(packet, port, HERE), late)
  }
  await new Promise((done) => setTimeout(done, line.jitter + 20))
}
