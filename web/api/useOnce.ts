import { useRef, useState } from 'react'
import { toast } from 'sonner'

/**
 * Something that is done at the server, once at a time: while it is on its way a second press does nothing,
 * and what goes wrong is said.
 */
export function useOnce<Given extends unknown[]>(
  act: (...given: Given) => Promise<unknown>,
): { run: (...given: Given) => void; busy: boolean } {
  const going = useRef(false)
  const [busy, setBusy] = useState(false)
  const run = async (...given: Given) => {
    if (going.current) return
    going.current = true
    setBusy(true)
    try {
      await act(...given)
    } catch (error) {
      toast.error((error as Error).message)
    } finally {
      going.current = false
      setBusy(false)
    }
  }
  return { run: (...given) => void run(...given), busy }
}
