import type { Problem } from '../../contract/desk'
import { Refused, Unreachable } from '../api/client'

/** Sends a story file to be brought back. `note` is told how much of it is there; `fetch` does not tell that. */
export function sendStoryFile(file: File, note: (share: number) => void, signal: AbortSignal): Promise<void> {
  return new Promise((done, fail) => {
    const request = new XMLHttpRequest()
    request.open('POST', '/api/keepings/back')
    request.setRequestHeader('Content-Type', 'application/zip')
    request.setRequestHeader('X-File-Name', encodeURIComponent(file.name))
    request.upload.onprogress = ({ loaded, total }) => note(total ? loaded / total : 0)
    request.onload = () => {
      if (request.status < 300) return done()
      let problem: Partial<Problem> = {}
      try {
        problem = JSON.parse(request.responseText) as Problem
      } catch {
        // it did not say why
      }
      fail(new Refused(request.status, problem))
    }
    request.onerror = () => fail(new Unreachable())
    request.onabort = () => fail(signal.reason as Error)
    signal.addEventListener('abort', () => request.abort())
    request.send(file)
  })
}
