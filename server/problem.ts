import type { ErrorRequestHandler, Response } from 'express'
import { ValidationError } from 'yup'
import type { Problem } from '../contract/desk'
import { log } from './log'

/** Something to be told to the person at the other end, in plain words. */
export class Refusal extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    detail: string,
  ) {
    super(detail)
  }
}

export const notFound = (what: string) => new Refusal(404, 'Not there', `${what} is not there. It may have been removed, or the address is wrong.`)

function answer(response: Response, status: number, title: string, detail: string): void {
  const problem: Problem = { type: 'about:blank', title, status, detail }
  response.status(status).type('application/problem+json').send(JSON.stringify(problem))
}

/** Turns whatever was thrown into problem details (RFC 9457). */
export const problems: ErrorRequestHandler = (error, request, response, _next) => {
  if (response.headersSent) {
    response.destroy()
    return
  }
  if (error instanceof Refusal) return answer(response, error.status, error.title, error.message)
  if (error instanceof ValidationError) return answer(response, 400, 'Not understood', `What was sent does not make sense: ${error.errors.slice(0, 3).join('; ')}.`)
  if (error?.type === 'entity.too.large') return answer(response, 413, 'Too large', 'That is more than can be taken in one go. Nothing was changed.')
  if (error?.status === 400) return answer(response, 400, 'Not understood', 'What was sent could not be read. Nothing was changed.')
  log.error({ error, path: request.path }, 'unexpected')
  answer(response, 500, 'Something broke', 'The server stumbled over this. What was saved before is safe; please try again.')
}
