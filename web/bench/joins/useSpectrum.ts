import { useState } from 'react'

/** Whether the close-up of a join shows the spectrum, which is kept for all joins. */
export function useSpectrum(): [shown: boolean, change: () => void] {
  const [shown, setShown] = useState(() => localStorage.spectrum === 'yes')
  const change = () => {
    localStorage.spectrum = shown ? 'no' : 'yes'
    setShown(!shown)
  }
  return [shown, change]
}
