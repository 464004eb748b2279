import { readFile } from 'node:fs/promises'
import * as yup from 'yup'
import { wavHeader } from '../../core/sound/wav'
import { isFiller, type HeardWord } from '../../core/recognise/heard'
import type { Recogniser } from './recogniser'

/**
 * A service that recognises speech for the newsroom. It is sent a WAV file (16 kHz, 16 bit, one
 * channel) by POST, and answers with JSON: `{"words": [{"text", "start", "end", "confidence"?}]}`,
 * times in seconds from the file's start.
 */

const answerSchema = yup.object({
  words: yup
    .array(
      yup.object({
        text: yup.string().trim().min(1).max(80).required(),
        start: yup.number().min(0).required(),
        end: yup.number().required(),
        confidence: yup.number().min(0).max(1).default(0.5),
      }),
    )
    .required(),
})

const LIMIT_MS = 10 * 60_000

export const service = (address: string): Recogniser => ({
  name: `The service at ${new URL(address).host}`,
  languages: ['en'],
  atOnce: 2,
  async hear({ path }, signal) {
    const samples = await readFile(path)
    const body = Buffer.concat([wavHeader(samples.length >> 1, 1, 16_000, 16), samples])
    const response = await fetch(address, {
      method: 'POST',
      headers: { 'Content-Type': 'audio/wav' },
      body,
      signal: AbortSignal.any([signal, AbortSignal.timeout(LIMIT_MS)]),
    })
    if (!response.ok) throw new Error(`the service answered ${response.status}`)
    const { words } = await answerSchema.validate(await response.json())
    return words
      .filter(({ start, end }) => end > start)
      .map(({ text, start, end, confidence }): HeardWord => ({
        text,
        from: start,
        to: end,
        sure: confidence,
        ...(isFiller(text.toLowerCase()) ? { what: 'filler' as const } : {}),
      }))
  },
})
