/** A packet of the Real-time Transport Protocol (RFC 3550). */
export interface RtpPacket {
  payloadType: number
  /** Counts packets, 16 bits. */
  sequence: number
  /** Counts samples, 32 bits. */
  timestamp: number
  source: number
  payload: Uint8Array
}

const HEADER = 12

/** Reads a packet; null where it is none. */
export function readRtp(bytes: Uint8Array): RtpPacket | null {
  if (bytes.length < HEADER || bytes[0] >> 6 !== 2) return null
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  let from = HEADER + 4 * (bytes[0] & 0x0f)
  if (bytes[0] & 0x10) {
    if (bytes.length < from + 4) return null
    from += 4 + 4 * view.getUint16(from + 2)
  }
  const padding = bytes[0] & 0x20 ? bytes[bytes.length - 1] : 0
  if (from + padding > bytes.length) return null
  return {
    payloadType: bytes[1] & 0x7f,
    sequence: view.getUint16(2),
    timestamp: view.getUint32(4),
    source: view.getUint32(8),
    payload: bytes.subarray(from, bytes.length - padding),
  }
}

export function writeRtp({ payloadType, sequence, timestamp, source, payload }: RtpPacket): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(HEADER + payload.length)
  const view = new DataView(bytes.buffer)
  bytes[0] = 0x80
  bytes[1] = payloadType
  view.setUint16(2, sequence & 0xffff)
  view.setUint32(4, timestamp >>> 0)
  view.setUint32(8, source)
  bytes.set(payload, HEADER)
  return bytes
}
