import { useEffect } from 'react'
import { useSearchParams } from 'react-router'

/** Whoever comes to a block of the page has it chosen. */
export function useComingToBlock(choose: (block: string) => void): void {
  const [params, setParams] = useSearchParams()
  const block = params.get('block')
  useEffect(() => {
    if (block === null) return
    choose(block)
    setParams(
      (now) => {
        now.delete('block')
        return now
      },
      { replace: true },
    )
    // once, on coming here
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [block])
}
