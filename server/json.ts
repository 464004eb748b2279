import express, { type RequestHandler } from 'express'
import { isStorable } from '../core/storable'
import { Refusal } from './problem'

/** JSON that came from outside, refused in plain words where it could hurt: too deep, or text that cannot be stored. */

/** Nothing that is sent here is nested deeper. */
const DEEPEST = 120
const [OPEN, CLOSE] = [new Set('[{'), new Set(']}')]

/** How deep brackets go in a JSON text; those within its strings do not count. */
export function depthOf(text: string): number {
  let [depth, most] = [0, 0]
  let inString = false
  for (let i = 0; i < text.length; i++) {
    const sign = text[i]
    if (inString) {
      if (sign === '\\') i++
      else if (sign === '"') inString = false
    } else if (sign === '"') inString = true
    else if (OPEN.has(sign)) most = Math.max(most, ++depth)
    else if (CLOSE.has(sign)) depth--
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
      if (depthOf(bytes.toString('utf8')) > DEEPEST)
        throw new Refusal(400, 'Not understood', 'What was sent is nested too deeply. Nothing was changed.')
    },
  }),
  (request, _response, next) => {
    storable(request.body)
    storable(request.query)
    next()
  },
]
