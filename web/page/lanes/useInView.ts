import { useEffect, useState, type RefObject } from 'react'

/** What is drawn lies so near to the view, in pixels above and below; it is looked at anew after each step. */
const NEAR = 1200
const STEP = 600

/** What of a page is in view or near it, in pixels from its top. */
export function useInView(content: RefObject<HTMLElement | null>): { top: number; bottom: number } {
  const [step, setStep] = useState(0)
  const [height, setHeight] = useState(STEP)
  useEffect(() => {
    const view = content.current
    if (!view) return
    const look = () => setStep(Math.floor(view.scrollTop / STEP))
    const watch = new ResizeObserver(() => setHeight(view.clientHeight))
    look()
    watch.observe(view)
    view.addEventListener('scroll', look, { passive: true })
    return () => {
      watch.disconnect()
      view.removeEventListener('scroll', look)
    }
  }, [content])
  return { top: step * STEP - NEAR, bottom: (step + 1) * STEP + height + NEAR }
}
