/** The two ways in which telephones write a sample as eight bits (ITU-T G.711): µ-law (`PCMU`) and A-law (`PCMA`). */
export type Law = 'PCMU' | 'PCMA'

function muToSample(byte: number): number {
  const value = ~byte & 0xff
  const size = ((((value & 0x0f) << 3) + 0x84) << ((value & 0x70) >> 4)) - 0x84
  return value & 0x80 ? -size : size
}

function aToSample(byte: number): number {
  const value = byte ^ 0x55
  const exponent = (value & 0x70) >> 4
  const mantissa = (value & 0x0f) << 4
  const size = exponent === 0 ? mantissa + 8 : (mantissa + 0x108) << (exponent - 1)
  return value & 0x80 ? size : -size
}

const table = (toSample: (byte: number) => number): Int16Array => Int16Array.from({ length: 256 }, (_, byte) => toSample(byte))

/** Samples of 16 bits by byte. */
export const SAMPLES: Record<Law, Int16Array> = { PCMU: table(muToSample), PCMA: table(aToSample) }

/** The byte whose sample lies nearest, by samples of 16 bits. */
function nearest(samples: Int16Array): Uint8Array {
  const order = Array.from({ length: 256 }, (_, byte) => byte).sort((a, b) => samples[a] - samples[b])
  const bytes = new Uint8Array(65_536)
  let at = 0
  for (let sample = -32_768; sample < 32_768; sample++) {
    while (at < 255 && Math.abs(samples[order[at + 1]] - sample) <= Math.abs(samples[order[at]] - sample)) at++
    bytes[sample + 32_768] = order[at]
  }
  return bytes
}

const BYTES: Record<Law, Uint8Array> = { PCMU: nearest(SAMPLES.PCMU), PCMA: nearest(SAMPLES.PCMA) }

/** Samples, -1 to 1, as a telephone writes them. */
export const encode = (law: Law, samples: Float32Array): Uint8Array<ArrayBuffer> =>
  Uint8Array.from(samples, (sample) => BYTES[law][Math.max(0, Math.min(65_535, Math.round(sample * 32_768) + 32_768))])
