import type { Problem } from '../../contract/desk'

/** Something the server refused, in its plain words. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    problem: Partial<Problem>,
  ) {
    super(problem.detail ?? 'The server did not say why.')
  }
}

/** The server could not be reached at all. */
export class Unreachable extends Error {
  constructor() {
    super('Can’t reach the server.')
  }
}

async function ask(path: string, init?: RequestInit): Promise<Response> {
  let response: Response
  try {
    response = await fetch(`/api${path}`, init)
  } catch {
    throw new Unreachable()
  }
  if (response.ok) return response
  if (response.status === 502 || response.status === 504) throw new Unreachable()
  throw new Refused(response.status, (await response.json().catch(() => ({}))) as Partial<Problem>)
}

const withBody = (method: string, body: unknown): RequestInit => ({
  method,
  headers: { 'Content-Type': 'application/json' },
  body: JSON.stringify(body),
})

/** What an answer says; one without anything to say is fine too. */
const answerOf = async <T>(response: Response): Promise<T> => (response.status === 204 ? undefined : await response.json()) as T

export const get = async <T>(path: string): Promise<T> => (await ask(path)).json() as Promise<T>
export const post = async <T>(path: string, body: unknown, signal?: AbortSignal): Promise<T> =>
  answerOf<T>(await ask(path, { ...withBody('POST', body), signal }))
/** Sends a file as it is. */
export const postFile = async <T>(path: string, file: File): Promise<T> =>
  answerOf<T>(await ask(path, { method: 'POST', headers: { 'Content-Type': 'application/octet-stream' }, body: file }))
export const put = async <T>(path: string, body: unknown): Promise<T> => answerOf<T>(await ask(path, withBody('PUT', body)))
export const patch = async <T>(path: string, body: unknown): Promise<T> => (await ask(path, withBody('PATCH', body))).json() as Promise<T>
export const remove = async (path: string): Promise<void> => void (await ask(path, { method: 'DELETE' }))
export const getBytes = async (path: string, signal?: AbortSignal): Promise<ArrayBuffer> => (await ask(path, { signal })).arrayBuffer()
