import { closeSync, openSync, readSync, writeSync } from 'node:fs'

/**
 * An MP3 file tells in its first frame (Xing and LAME tag) how many samples of its first and last frames are not sound, so that what
 * is decoded is exactly as long as what was encoded. Where the encoder had to flush one frame more, libavformat 59 counts that
 * frame's samples as sound: up to 46 of them would be heard too many. Here the tag says what is so.
 */

const SAMPLES_A_FRAME = 1152
/** From the tag's beginning: flags, then frames, bytes, a table of contents and a quality, all of which are there. */
const [FRAMES_AT, LAME_AT] = [8, 120]
const PADDING_AT = LAME_AT + 21
/** The tag's own checksum covers this much of the first frame, and stands behind it. */
const CHECKED = 190

/** Puts right how long a file says it is: `samples` at its own rate. Leaves a file alone that has no such tag. */
export function declareLength(path: string, samples: number): void {
  const file = openSync(path, 'r+')
  try {
    const head = Buffer.alloc(65_536)
    const size = readSync(file, head, 0, head.length, 0)
    const tag = Math.max(head.indexOf('Info'), head.indexOf('Xing'))
    if (tag < 0 || tag + PADDING_AT + 3 > size || (head[tag + 7] & 1) === 0) return
    const frames = head.readUInt32BE(tag + FRAMES_AT)
    const at = tag + PADDING_AT
    const delay = (head[at] << 4) | (head[at + 1] >> 4)
    const padding = frames * SAMPLES_A_FRAME - delay - samples
    if (padding < 0 || padding > 0xfff || padding === (((head[at + 1] & 15) << 8) | head[at + 2])) return
    const start = frameStart(head, tag)
    const sum = start < 0 ? -1 : start + CHECKED
    // a checksum that was never right is no checksum
    const checked = sum >= 0 && head.readUInt16BE(sum) === crc16(head.subarray(start, sum))
    head[at + 1] = (head[at + 1] & 0xf0) | (padding >> 8)
    head[at + 2] = padding & 0xff
    if (checked) head.writeUInt16BE(crc16(head.subarray(start, sum)), sum)
    writeSync(file, head, 0, size, 0)
  } finally {
    closeSync(file)
  }
}

/** Where the frame begins that holds the tag: its header stands 13, 21 or 36 bytes before it, by version and channels. */
function frameStart(head: Buffer, tag: number): number {
  const found = [36, 21, 13].find((before) => tag >= before && head[tag - before] === 0xff && (head[tag - before + 1] & 0xe0) === 0xe0)
  return found === undefined ? -1 : tag - found
}

/** CRC-16 with polynomial 0x8005, as LAME reckons it. */
export function crc16(bytes: Uint8Array): number {
  let crc = 0
  for (const byte of bytes) {
    crc ^= byte
    for (let bit = 0; bit < 8; bit++) crc = crc & 1 ? (crc >> 1) ^ 0xa001 : crc >> 1
  }
  return crc
}
