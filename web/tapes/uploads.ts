import { toast } from 'sonner'
import { create } from 'zustand'
import type { Problem } from '../../contract/desk'

/** Files on their way in. */
export interface Upload {
  key: string
  name: string
  size: number
  sent: number
  cancel: () => void
}

export const useUploads = create<{ list: Upload[] }>(() => ({ list: [] }))

const change = (key: string, fields: Partial<Upload> | null) =>
  useUploads.setState(({ list }) => ({ list: fields ? list.map((one) => (one.key === key ? { ...one, ...fields } : one)) : list.filter((one) => one.key !== key) }))

/** Sends a file; resolves to the tape's id, or to null where it was cancelled or refused, which is said. */
export function upload(file: File): Promise<string | null> {
  const key = crypto.randomUUID()
  return new Promise((resolve) => {
    const request = new XMLHttpRequest()
    const end = (id: string | null, reason?: string) => {
      change(key, null)
      if (reason) toast.error(reason, { duration: 10_000 })
      resolve(id)
    }
    request.upload.onprogress = ({ loaded }) => change(key, { sent: loaded })
    request.onload = () => {
      const answer = JSON.parse(request.responseText || '{}') as { id?: string } & Partial<Problem>
      if (request.status === 201 && answer.id) end(answer.id)
      else end(null, answer.detail ?? `“${file.name}” was not taken in. Please try again.`)
    }
    request.onerror = () => end(null, `“${file.name}” did not get through: the server does not answer. Nothing was kept of it; drop it again when it is back.`)
    request.onabort = () => end(null)
    useUploads.setState(({ list }) => ({ list: [...list, { key, name: file.name, size: file.size, sent: 0, cancel: () => request.abort() }] }))
    request.open('POST', `/api/tapes?name=${encodeURIComponent(file.name)}`)
    request.setRequestHeader('Content-Type', 'application/octet-stream')
    request.send(file)
  })
}
