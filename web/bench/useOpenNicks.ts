import { useMemo, useState } from 'react'
import type { Actuality } from '../../core/edits/actuality'
import { nicks, type Nick } from '../../core/edits/gone'
import { benchLayout } from '../../core/edits/benchLayout'
import type { Frames } from '../../core/time'
import { nickKey } from './benchSheet'

/** What was taken out of a piece, which of it is open to be seen, and how the piece lies on the Bench with it. */
export function useOpenNicks(piece: Actuality) {
  const [opened, setOpened] = useState<ReadonlySet<string>>(new Set())
  const gone = useMemo(() => nicks(piece), [piece])
  const open = useMemo(() => gone.filter((nick) => opened.has(nickKey(nick))), [gone, opened])
  const layout = useMemo(() => benchLayout(piece.spans, open), [piece.spans, open])
  const at = (place: Frames | null): Nick | undefined =>
    place === null ? undefined : gone.find((nick) => nick.at === place || nick.at + nick.held === place)
  const close = (nick: Nick) => setOpened((now) => new Set([...now].filter((key) => key !== nickKey(nick))))
  const toggle = (place: Frames | null) => {
    const nick = at(place)
    if (!nick) return
    if (opened.has(nickKey(nick))) close(nick)
    else setOpened((now) => new Set([...now, nickKey(nick)]))
  }
  return { gone, opened, open, layout, at, close, toggle }
}
