import { describe, expect, it } from 'vitest'
import { readRtp, writeRtp } from './rtp'
import { answer, caller, header, method, readSdp, readSip, status, writeSdp, writeSip } from './sip'

const INVITE = [
  'INVITE sip:newsroom@127.0.0.1 SIP/2.0',
  'v: SIP/2.0/UDP 127.0.0.1:5062;branch=z9hG4bK1',
  'From: "Harbour office" <sip:office@brackle>;tag=a',
  'To: <sip:newsroom@127.0.0.1>',
  'i: 77@brackle',
  'CSeq: 1 INVITE',
  'Subject: ferry',
  ' times',
  'Content-Type: application/sdp',
].join('\r\n')
const body = writeSdp(
  '127.0.0.1',
  [
    { port: 4000, payloadTypes: [0, 8], label: 'near' },
    { port: 4002, payloadTypes: [8], label: 'far' },
  ],
  'sendonly',
)
const bytes = (text: string) => new TextEncoder().encode(text)

describe('messages of a call', () => {
  const invite = readSip(bytes(`${INVITE}\r\n\r\n${body}`))!

  it('are read, with short names and folded lines', () => {
    expect([method(invite), status(invite), caller(invite)]).toEqual(['INVITE', 0, 'Harbour office'])
    expect(header(invite, 'call-id')).toBe('77@brackle')
    expect(header(invite, 'subject')).toBe('ferry times')
    expect(readSdp(invite.body)).toEqual([
      { port: 4000, payloadTypes: [0, 8], label: 'near' },
      { port: 4002, payloadTypes: [8], label: 'far' },
    ])
  })

  it('are answered with what they came with', () => {
    const back = readSip(writeSip(answer(invite, 'SIP/2.0 180 Ringing', 'b')))!
    expect(status(back)).toBe(180)
    expect([header(back, 'via'), header(back, 'cseq'), header(back, 'to')]).toEqual([
      header(invite, 'via'),
      '1 INVITE',
      '<sip:newsroom@127.0.0.1>;tag=b',
    ])
    expect(header(back, 'content-length')).toBe('0')
  })

  it.each(['', 'hello', 'INVITE\r\n\r\n', 'GET / HTTP/1.1\r\n\r\n', 'SIP/2.0 OK\r\n\r\n'])('that are none are passed by: %j', (text) => {
    expect(readSip(bytes(text))).toBeNull()
  })
})

describe('packets of sound', () => {
  const packet = { payloadType: 0, sequence: 65_535, timestamp: 0xfffffff0, source: 7, payload: Uint8Array.of(1, 2, 3) }

  it('are read as they were written', () => {
    expect(readRtp(writeRtp(packet))).toEqual(packet)
  })

  it('may hold contributors, an extension and padding', () => {
    const plain = writeRtp(packet)
    const full = Uint8Array.of(0x80 | 0x20 | 0x10 | 1, ...plain.subarray(1, 12), 0, 0, 0, 9, 0, 0, 0, 1, 1, 1, 1, 1, 1, 2, 3, 0, 2)
    expect(readRtp(full)?.payload).toEqual(Uint8Array.of(1, 2, 3))
  })

  it('that are broken are none', () => {
    expect(readRtp(new Uint8Array(5))).toBeNull()
    expect(readRtp(Uint8Array.of(0x00, ...writeRtp(packet).subarray(1)))).toBeNull()
    expect(readRtp(Uint8Array.of(0xb0, ...writeRtp(packet).subarray(1, 12)))).toBeNull()
    expect(readRtp(Uint8Array.of(0xa0, ...writeRtp(packet).subarray(1, 12), 200))).toBeNull()
  })
})
