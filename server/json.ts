import express, { type RequestHandler } from 'express'
import { isStorable } from '../core/storable'
import { Refusal } from './problem'

/** JSON that came from outside, refused in plain words where it could hurt: too deep, or text that cannot be stored. */

/** Nothing that is sent here is nested deeper. */
const DEEPEST = 120
const [QUOTE, ESCAPE] = [0x22, 0x5c]
const opens = (byte: number): boolean => byte === 0x5b || byte === 0x7b
const closes = (byte: number): boolean => byte === 0x5d || byte === 0x7d

/** How deep brackets go in a JSON text, as UTF-8; those within its strings do not count. */
export function depthOf(text: Uint8Array): number {
  let [depth, most] = [0, 0]
  let inString = false
  for (let i = 0; i < text.length; i++) {
    const byte = text[i]
    if (inString) {
      if (byte === ESCAPE) i++
      else if (byte === QUOTE) inString = false
    } else if (byte === QUOTE) inString = true
    else if (opens(byte)) most = Math.max(most, ++depth)
    else if (closes(byte)) depth--
  }
  return most
}

/** Refuses text that cannot be stored, wherever in a value it stands, and names. */
export function storable<T>(value: T): T {
  if (typeof value === 'string' && !isStorable(value))
    throw new Refusal(400, 'Not understood', 'Some of the text holds characters that can’t be stored. Nothing was changed.')
  if (value === null || typeof value !== 'object') return value
  for (const [name, inner] of Object.entries(value)) {
    storable(name)
    storable(inner)
  }
  return value
}

/** Reads JSON bodies of requests. */
export const json = (limit: string): RequestHandler[] => [
  express.json({
    limit,
    verify: (_request, _response, bytes) => {
      if (depthOf(bytes) > DEEPEST) throw new Refusal(400, 'Not understood', 'What was sent is nested too deeply. Nothing was changed.')
    },
  }),
  (request, _response, next) => {
    storable(request.body)
    storable(request.query)
    next()
  },
]
