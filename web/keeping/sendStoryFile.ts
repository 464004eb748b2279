import type { DetailedError } from 'tus-js-client'
import { Unreachable } from '../api/client'

/** A server or a line that is gone is tried again after so long, for some ten minutes; what has arrived stays there. */
const AGAIN_MS = [500, 1000, 2000, 4000, ...Array.from({ length: 60 }, () => 10_000)]

/** Sends a story file to be brought back. `note` is told how much of it is there. */
export async function sendStoryFile(file: File, note: (share: number) => void, signal: AbortSignal): Promise<void> {
  const { Upload } = await import('tus-js-client')
  return new Promise((done, fail) => {
    const upload = new Upload(file, {
      endpoint: '/api/storyFiles',
      metadata: { filename: file.name },
      chunkSize: 8 * 2 ** 20,
      storeFingerprintForResuming: false,
      retryDelays: AGAIN_MS,
      onProgress: (sent, total) => note(total ? sent / total : 0),
      onSuccess: () => done(),
      onError: (error) => {
        const said = 'originalResponse' in error ? (error as DetailedError).originalResponse?.getBody() : ''
        fail(said && said.length < 300 ? new Error(said.trim()) : new Unreachable())
      },
    })
    signal.addEventListener('abort', () => {
      // what is there of it goes too
      void upload.abort(true)
      fail(signal.reason as Error)
    })
    upload.start()
  })
}
