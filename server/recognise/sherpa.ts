import { existsSync, readdirSync } from 'node:fs'
import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { wordsOfTokens, type TokenAnswer } from '../../core/recognise/tokens'
import type { Recogniser } from './recogniser'

/**
 * A folder with a model for sherpa-onnx (github.com/k2-fsa/sherpa-onnx), as such models are given
 * away: `tokens.txt` beside `encoder*.onnx`, `decoder*.onnx` and `joiner*.onnx` of a transducer, or
 * `model*.onnx` of a CTC model. It runs in threads of its own.
 */

interface Stream {
  acceptWaveform(sound: { samples: Float32Array; sampleRate: number }): void
}
interface Model {
  createStream(): Stream
  decodeAsync(stream: Stream): Promise<TokenAnswer>
}
interface Sherpa {
  OfflineRecognizer: { createAsync(config: object): Promise<Model> }
}

/**
 * The model's files, by what they are; the smaller, whole-number ones first where there are two. Throws where the folder
 * holds no model.
 */
export function modelConfig(folder: string): object {
  const files = existsSync(folder) ? readdirSync(folder).sort((a, b) => Number(b.includes('int8')) - Number(a.includes('int8'))) : []
  const file = (start: string) => {
    const found = files.find((name) => name.startsWith(start) && name.endsWith('.onnx'))
    return found ? join(folder, found) : null
  }
  const [encoder, decoder, joiner, ctc] = [file('encoder'), file('decoder'), file('joiner'), file('model')]
  if (!files.includes('tokens.txt') || !(ctc || (encoder && decoder && joiner)))
    throw new Error(
      `There is no model for recognising speech in ${folder}: it wants tokens.txt with encoder, decoder and joiner, or with model.`,
    )
  const kind = encoder && decoder && joiner ? { transducer: { encoder, decoder, joiner } } : { zipformerCtc: { model: ctc } }
  return {
    featConfig: { sampleRate: 16_000, featureDim: 80 },
    modelConfig: { ...kind, tokens: join(folder, 'tokens.txt'), numThreads: 1, provider: 'cpu' },
  }
}

export function sherpa(folder: string): Recogniser {
  const config = modelConfig(folder)
  let model: Promise<Model> | null = null
  const load = async () =>
    ((await import('sherpa-onnx-node' as string)) as { default: Sherpa }).default.OfflineRecognizer.createAsync(config)
  return {
    name: `The model in ${folder}`,
    languages: ['en'],
    atOnce: 2,
    async hear({ path, seconds }, signal) {
      const loaded = await (model ??= load())
      const bytes = await readFile(path)
      const samples = Float32Array.from({ length: bytes.length >> 1 }, (_, i) => bytes.readInt16LE(i * 2) / 32_768)
      const stream = loaded.createStream()
      stream.acceptWaveform({ samples, sampleRate: 16_000 })
      const answer = await loaded.decodeAsync(stream)
      signal.throwIfAborted()
      return wordsOfTokens(answer, seconds)
    },
  }
}
