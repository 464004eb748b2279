import { Refused } from '../api/client'
import { author } from '../documents/waiting'

/** Sends a file of words to be laid on a tape. Throws with what is wrong in plain words. */
export async function sendWords(tape: string, file: File): Promise<void> {
  const response = await fetch(`/api/bringings/${tape}?name=${encodeURIComponent(file.name)}&author=${author}`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/octet-stream' },
    body: file,
  })
  if (!response.ok) throw new Refused(response.status, (await response.json().catch(() => ({}))) as object)
}
