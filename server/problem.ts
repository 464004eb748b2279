import type { ErrorRequestHandler, Response } from 'express'
import { ValidationError } from 'yup'
import type { Problem } from '../contract/desk'
import { diskFault, isDiskFault } from './disk'
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

export const notFound = (what: string) =>
  new Refusal(404, 'Not there', `${what} is not there. It may have been removed, or the address is wrong.`)

function answer(response: Response, status: number, title: string, detail: string): void {
  const problem: Problem = { type: 'about:blank', title, status, detail }
  response.status(status).type('application/problem+json').send(JSON.stringify(problem))
}

/** PostgreSQL's classes for data that is wrong and constraints that do not hold. */
const WRONG_VALUE = /^(22|23)/
const AWAY =
  /ECONNREFUSED|ECONNRESET|Connection terminated|terminating connection|the database system is|connection error|Client has encountered/i

/** Whether the database cannot be reached now. */
export const isAway = (error: unknown): boolean => {
  const { message = '', code = '', driverError } = (error ?? {}) as { message?: string; code?: string; driverError?: { code?: string } }
  return AWAY.test(String(message)) || AWAY.test(String(code)) || /^(57P0|08)/.test(String(driverError?.code ?? code))
}

/** Turns whatever was thrown into problem details (RFC 9457). */
export const problems: ErrorRequestHandler = (error, request, response, _next) => {
  if (response.headersSent) {
    response.destroy()
    return
  }
  if (error instanceof Refusal) return answer(response, error.status, error.title, error.message)
  if (error instanceof ValidationError)
    return answer(response, 400, 'Not understood', `What was sent does not make sense: ${error.errors.slice(0, 3).join('; ')}.`)
  if (error?.type === 'entity.too.large')
    return answer(response, 413, 'Too large', 'That is more than can be sent at once. Nothing was changed.')
  if (error?.status === 400 || error instanceof SyntaxError || error instanceof URIError)
    return answer(response, 400, 'Not understood', 'What was sent could not be read. Nothing was changed.')
  // what went through a schema and still does not fit the database was not meant
  if (WRONG_VALUE.test(String(error?.driverError?.code ?? '')))
    return answer(response, 400, 'Not understood', 'What was sent could not be stored. Nothing was changed.')
  if (isDiskFault(error) || isDiskFault(error?.driverError))
    return answer(
      response,
      507,
      'No room',
      `${diskFault(isDiskFault(error) ? error : error.driverError)} Nothing was changed; try again once there is room.`,
    )
  if (isAway(error) || /Cannot use a pool after calling end/.test(String(error?.message)))
    return answer(response, 503, 'Starting again', 'The database is being started again. Try again in a moment.')
  // a request itself counts as destroyed once its body was read
  if (request.socket.destroyed) return void response.destroy()
  log.error({ error, path: request.path }, 'unexpected')
  answer(response, 500, 'Something broke', 'Something went wrong on the server. What was saved before is safe; please try again.')
}
