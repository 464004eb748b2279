import { parentPort } from 'node:worker_threads'
import mammoth from 'mammoth'
import { readText, readTranscript, textOf, Unreadable, type ReadWord } from '../../core/transcript/read'
import { unpackedSize } from './unpacked'

/** Reads a file of words in a thread of its own, whose memory and time are limited: whatever is in the file, the server goes on. */
export interface ReadWordsOrder {
  name: string
  file: Uint8Array
}

export type ReadWordsReport = { words: ReadWord[] } | { unreadable: string }

/** A Word file that unpacks to more than this is no transcript, in bytes. */
const MOST_UNPACKED = 60 << 20

async function read({ name, file }: ReadWordsOrder): Promise<ReadWord[]> {
  if (!/\.docx$/i.test(name))
    return readTranscript(
      name,
      textOf(file, (bytes, encoding, fatal) => new TextDecoder(encoding, { fatal }).decode(bytes)),
    )
  const size = unpackedSize(file)
  if (size === null) throw new Unreadable('That Word file is damaged.')
  if (size > MOST_UNPACKED) throw new Unreadable('That Word file unpacks to far more than a transcript.')
  const { value } = await mammoth.extractRawText({ buffer: Buffer.from(file) })
  const words = readText(value)
  if (!words.length) throw new Unreadable('There are no words in that file.')
  return words
}

/** What the thread does. */
export async function run(order: ReadWordsOrder): Promise<void> {
  const say = (report: ReadWordsReport) => parentPort!.postMessage(report)
  try {
    say({ words: await read(order) })
  } catch (error) {
    say({ unreadable: error instanceof Unreadable ? error.message : 'That file could not be read.' })
  }
  parentPort!.unref()
}
