import { useEffect, useState } from 'react'
import { PLACES } from '../../core/live/board'

/** What is printed on the keys of a board, as far as the browser tells; else as on most keyboards. */

const SIGNS: Record<string, string> = { Semicolon: ';', Comma: ',', Period: '.', Slash: '/' }
const usual = (key: string): string => SIGNS[key] ?? key.replace(/^(Digit|Key)/, '')

type WithKeyboard = Navigator & { keyboard?: { getLayoutMap?: () => Promise<ReadonlyMap<string, string>> } }

let known: ReadonlyMap<string, string> | null = null

export const keyName = (key: string): string => (known?.get(key) ?? usual(key)).toUpperCase()

/** The names, once they are known. */
export function useKeyNames(): (key: string) => string {
  const [, setAsked] = useState(known !== null)
  useEffect(() => {
    if (known) return
    const { keyboard } = navigator as WithKeyboard
    void keyboard
      ?.getLayoutMap?.()
      .then((layout) => {
        known = new Map(PLACES.flatMap((key) => (layout.has(key) ? [[key, layout.get(key)!] as const] : [])))
        setAsked(true)
      })
      .catch(() => undefined)
  }, [])
  return keyName
}
