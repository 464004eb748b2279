import { createSocket, type RemoteInfo, type Socket } from 'node:dgram'
import { randomUUID } from 'node:crypto'
import { In } from 'typeorm'
import { answer, caller, header, method, readSdp, readSip, status, writeSdp, writeSip, type Media, type SipMessage } from './sip'
import { CallEntity } from '../entities'
import { log } from '../log'
import { tell } from '../notices'
import type { Services } from '../services'
import { allCame, beginTape } from '../intake/intake'
import { CallRecording } from './recording'

const LOOK_MS = 150
const RING_MS = 60_000
/** A line on which nothing came for so long has been left. */
const SILENT_MS = 20_000
const AGAIN_MS = 500
const AGAIN_MOST = 10
const HERE = '127.0.0.1'

interface Call {
  id: string
  invite: SipMessage
  peer: RemoteInfo
  tag: string
  since: number
  /** What was last answered, for whoever asks again. */
  said: Uint8Array | null
  acknowledged: boolean
  recording: CallRecording | null
}

/**
 * The newsroom's end of a telephone line: takes calls by SIP over UDP and records both sides of them
 * apart, as a recorder that a telephone system sends its calls to (the idea of RFC 7866: a stream a
 * side, labelled). It listens only; who speaks uses their telephone. One call at a time.
 */
export class PhoneLine {
  private readonly socket: Socket = createSocket('udp4')
  private call: Call | null = null
  private timer: ReturnType<typeof setInterval> | undefined
  private looking = false

  constructor(private readonly services: Services) {}

  /** False where another server has the line. */
  async open(port: number): Promise<boolean> {
    const bound = await new Promise<boolean>((resolve) => {
      this.socket.once('error', () => resolve(false))
      this.socket.bind(port, HERE, () => resolve(true))
    })
    if (!bound) return false
    this.socket.on('error', (error) => log.error({ error }, 'phone'))
    this.socket.on('message', (bytes, peer) => void this.hear(bytes, peer).catch((error: unknown) => log.error({ error }, 'phone')))
    await this.clearUp()
    this.timer = setInterval(() => void this.look(), LOOK_MS)
    return true
  }

  /** Calls that an end of the server cut off: what was recorded of them is a tape. */
  private async clearUp(): Promise<void> {
    const { database, store } = this.services
    for (const { id, tape } of await database.manager.findBy(CallEntity, {
      state: In(['ringing', 'answering', 'on', 'ending', 'declining']),
    })) {
      await this.note(id, tape ? 'over' : 'missed')
      if (tape)
        await allCame(this.services, tape, await store.size(store.upload(tape)).catch(() => 0)).catch((error: unknown) =>
          log.error({ error }, 'phone'),
        )
    }
  }

  private async note(id: string, state: 'ringing' | 'on' | 'over' | 'missed' | 'declined', tape?: string): Promise<void> {
    await this.services.database.manager.update(CallEntity, { id }, { state, ...(tape ? { tape } : {}) })
    await tell(this.services.database, { about: 'call', id })
  }

  private send(message: SipMessage, { address, port }: RemoteInfo): Uint8Array {
    const bytes = writeSip(message)
    this.socket.send(bytes, port, address)
    return bytes
  }

  private async hear(bytes: Uint8Array, peer: RemoteInfo): Promise<void> {
    const message = readSip(bytes)
    if (!message || status(message)) return
    const { call } = this
    const same = call && header(call.invite, 'call-id') === header(message, 'call-id')
    switch (method(message)) {
      case 'INVITE':
        if (same) return void (call.said && this.socket.send(call.said, peer.port, peer.address))
        if (call) return void this.send(answer(message, 'SIP/2.0 486 Busy Here', randomUUID()), peer)
        return this.ring(message, peer)
      case 'ACK':
        if (same) call.acknowledged = true
        return
      case 'CANCEL':
        this.send(answer(message, 'SIP/2.0 200 OK', call?.tag ?? randomUUID()), peer)
        if (!same || call.recording) return
        this.send(answer(call.invite, 'SIP/2.0 487 Request Terminated', call.tag), peer)
        return this.end('missed')
      case 'BYE':
        this.send(answer(message, 'SIP/2.0 200 OK', call?.tag ?? randomUUID()), peer)
        if (same) await this.end('over')
        return
      default:
        this.send(answer(message, method(message) === 'OPTIONS' ? 'SIP/2.0 200 OK' : 'SIP/2.0 501 Not Implemented', randomUUID()), peer)
    }
  }

  private async ring(invite: SipMessage, peer: RemoteInfo): Promise<void> {
    const call: Call = {
      id: randomUUID(),
      invite,
      peer,
      tag: randomUUID().slice(0, 8),
      since: Date.now(),
      said: null,
      acknowledged: false,
      recording: null,
    }
    this.call = call
    call.said = this.send(answer(invite, 'SIP/2.0 180 Ringing', call.tag), peer)
    await this.services.database.manager.insert(CallEntity, {
      id: call.id,
      caller: caller(invite).slice(0, 200),
      state: 'ringing',
      tape: null,
    })
    await tell(this.services.database, { about: 'call', id: call.id })
  }

  /** Sees what was decided about the call, by whichever server was asked, and whether it still goes on. */
  private async look(): Promise<void> {
    const { call } = this
    if (!call || this.looking) return
    this.looking = true
    try {
      const row = await this.services.database.manager.findOneBy(CallEntity, { id: call.id })
      if (row?.state === 'answering') await this.pickUp(call)
      else if (row?.state === 'declining') {
        call.said = this.send(answer(call.invite, 'SIP/2.0 603 Decline', call.tag), call.peer)
        await this.end('declined')
      } else if (row?.state === 'ending') await this.hangUp(call)
      else if (row?.state === 'ringing' && Date.now() - call.since > RING_MS) {
        this.send(answer(call.invite, 'SIP/2.0 480 Temporarily Unavailable', call.tag), call.peer)
        await this.end('missed')
      } else if (row?.state === 'on' && call.recording) {
        if (call.recording.silentFor() > SILENT_MS) await this.hangUp(call)
        else await call.recording.seeTo()
      }
    } catch (error) {
      log.error({ error }, 'phone')
    } finally {
      this.looking = false
    }
  }

  private async pickUp(call: Call): Promise<void> {
    const offered = readSdp(call.invite.body).slice(0, 2)
    if (!offered.length) {
      this.send(answer(call.invite, 'SIP/2.0 488 Not Acceptable Here', call.tag), call.peer)
      return this.end('missed')
    }
    const tape = randomUUID()
    const who = caller(call.invite)
    const names = offered.map(({ label }, i) => ({ near: 'near end', far: who })[label] ?? (i ? `side ${i + 1}` : who))
    const { recording, ports } = await CallRecording.begin(this.services, tape, offered.length)
    call.recording = recording
    await beginTape(this.services, tape, `Call, ${who}.wav`, 0, {
      name: `Call, ${who}`,
      speaker: who,
      sides: names.map((name, i) => ({ name, channels: [i] })),
    })
    await this.note(call.id, 'on', tape)
    const media = offered.map((one, i): Media => ({
      ...one,
      port: ports[i],
      payloadTypes: one.payloadTypes.filter((type) => type === 0 || type === 8),
    }))
    const said = answer(
      call.invite,
      'SIP/2.0 200 OK',
      call.tag,
      [
        ['Contact', `<sip:plain-cut@${HERE}:${this.socket.address().port}>`],
        ['Content-Type', 'application/sdp'],
      ],
      writeSdp(HERE, media, 'recvonly'),
    )
    // said again until it is heard, as UDP may lose it
    for (let i = 0; i < AGAIN_MOST && this.call === call && !call.acknowledged; i++) {
      call.said = this.send(said, call.peer)
      await new Promise((done) => setTimeout(done, AGAIN_MS / 5))
      if (!call.acknowledged) await new Promise((done) => setTimeout(done, (AGAIN_MS * 4) / 5))
    }
    if (!call.acknowledged) await this.end('over')
  }

  private async hangUp(call: Call): Promise<void> {
    const contact = /<sip:([^>]+)>/.exec(header(call.invite, 'contact'))?.[1] ?? 'caller'
    this.send(
      {
        first: `BYE sip:${contact} SIP/2.0`,
        headers: [
          ['Via', `SIP/2.0/UDP ${HERE}:${this.socket.address().port};branch=z9hG4bK${randomUUID().slice(0, 8)}`],
          ['From', `${header(call.invite, 'to')};tag=${call.tag}`],
          ['To', header(call.invite, 'from')],
          ['Call-ID', header(call.invite, 'call-id')],
          ['CSeq', '1 BYE'],
          ['Max-Forwards', '70'],
        ],
        body: '',
      },
      call.peer,
    )
    await this.end('over')
  }

  private async end(as: 'over' | 'missed' | 'declined'): Promise<void> {
    const { call } = this
    if (!call) return
    this.call = null
    await call.recording?.finish()
    await this.note(call.id, as)
  }

  async close(): Promise<void> {
    clearInterval(this.timer)
    if (this.call?.recording) await this.hangUp(this.call)
    this.socket.close()
  }
}
