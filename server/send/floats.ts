import { readSamples } from '../../core/sound/pcm'

/** What a program writes as interleaved 32 bit floats, a run a channel; chunks may end anywhere within a frame. */
export async function* floats(chunks: AsyncIterable<Buffer>, channels: number): AsyncGenerator<Float32Array[]> {
  const frameBytes = 4 * channels
  let rest: Buffer = Buffer.alloc(0)
  for await (const chunk of chunks) {
    const bytes = rest.length ? Buffer.concat([rest, chunk]) : chunk
    const count = Math.floor(bytes.length / frameBytes)
    rest = bytes.subarray(count * frameBytes)
    if (!count) continue
    const out = Array.from({ length: channels }, () => new Float32Array(count))
    readSamples(bytes.subarray(0, count * frameBytes), { channels, float: true, plain: true, sampleBytes: 4 }, out)
    yield out
  }
}
