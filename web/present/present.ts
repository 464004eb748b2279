import { useEffect, useMemo } from 'react'
import { create } from 'zustand'
import type { Presence } from '../../contract/presence'
import { post } from '../api/client'
import { onNotice } from '../api/notices'

/** Who else has something open, and in which line they are. Each browser says so of itself every few seconds. */

const BEAT_MS = 4000
/** Of whom nothing was heard for so long has gone. */
const GONE_MS = 10_000

const me: string = (localStorage.presence ??= crypto.randomUUID())
export const useMyName = create<{ name: string }>(() => ({ name: String(localStorage.myName ?? '') }))
export function setMyName(name: string): void {
  localStorage.myName = name
  useMyName.setState({ name })
}

type Seen = Omit<Presence, 'gone'>
/** When each of them was last heard of. */
const heard = new Map<string, number>()
const keyOf = ({ document, who }: Pick<Presence, 'document' | 'who'>): string => `${document}/${who}`
const useSeen = create<{ seen: readonly Seen[] }>(() => ({ seen: [] }))
const others = (presence: Pick<Presence, 'document' | 'who'>) =>
  useSeen.getState().seen.filter((one) => one.document !== presence.document || one.who !== presence.who)

/** What this page says of itself, while something is open in it. */
let mine: Omit<Presence, 'who' | 'name'> | null = null
const say = (gone = false): void => {
  if (!mine) return
  // who is not heard is seen no more, and that is all
  post('/presence', { ...mine, who: me, name: useMyName.getState().name, ...(gone ? { gone } : {}) }).catch(() => undefined)
}

onNotice((notice) => {
  if (typeof notice === 'string' || notice.about !== 'presence' || notice.who === me) return
  const { document, who, name, line, gone } = notice
  const known = useSeen.getState().seen.find((one) => one.document === document && one.who === who)
  heard.set(keyOf(notice), Date.now())
  // views hear of it only where something is different
  if (gone ? known : known?.name !== name || known.line !== line)
    useSeen.setState({ seen: gone ? others(notice) : [...others(notice), { document, who, name, line }] })
  // somebody who has just come sees at once who is here
  if (!known && !gone && mine?.document === document) say()
})
setInterval(() => {
  const { seen } = useSeen.getState()
  const fresh = seen.filter((one) => Date.now() - (heard.get(keyOf(one)) ?? 0) < GONE_MS)
  if (fresh.length < seen.length) useSeen.setState({ seen: fresh })
}, 2000)
addEventListener('pagehide', () => {
  if (mine)
    navigator.sendBeacon(
      '/api/presence',
      new Blob([JSON.stringify({ ...mine, who: me, name: '', gone: true })], { type: 'application/json' }),
    )
})

/** Says that something is open here, and in which line one is. */
export function usePresence(document: string, line: string | null = null): void {
  const name = useMyName((state) => state.name)
  useEffect(() => {
    mine = { document, line }
    say()
    const timer = setInterval(say, BEAT_MS)
    return () => clearInterval(timer)
  }, [document, line, name])
  useEffect(
    () => () => {
      say(true)
      mine = null
    },
    [document],
  )
}

/** Who else is in it, by name; those without one are numbered. */
export function useOthers(document: string): { who: string; name: string; line: string | null }[] {
  const { seen } = useSeen()
  return useMemo(
    () =>
      seen
        .filter((one) => one.document === document)
        .sort((a, b) => a.who.localeCompare(b.who))
        .map(({ who, name, line }, i) => ({ who, name: name || `Colleague ${i + 1}`, line })),
    [seen, document],
  )
}
