/** Channels as bytes of 32-bit floats, frame by frame. */
export function interleaved(channels: readonly Float32Array[]): Uint8Array {
  if (channels.length === 1)
    return new Uint8Array(channels[0].buffer.slice(channels[0].byteOffset, channels[0].byteOffset + channels[0].byteLength))
  const out = new Float32Array(channels[0].length * channels.length)
  for (let c = 0; c < channels.length; c++)
    for (let i = 0, at = c; i < channels[c].length; i++, at += channels.length) out[at] = channels[c][i]
  return new Uint8Array(out.buffer)
}
