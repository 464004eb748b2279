import { startTransition, useEffect, useRef, useState, type CSSProperties, type ReactNode } from 'react'
import type { Block } from '../../../core/page/story'
import type { Frames } from '../../../core/time'
import { ROOM, secondOf, tall } from './tall'

/** A page of so many blocks is there with all its rows; of a longer one those far from the view only keep their place. */
const ALL = 60
/** How far from the view a row is made, in pixels above and below. */
const NEAR = 1200
/** So long a row stays that has gone out of reach, in ms: one who zooms or scrolls back at once finds it there. */
const STAYS = 3000
/** About how tall the script is of a row that has not been seen yet, in pixels. */
const ABOUT = 120

interface Props {
  block: Block
  /** How long its words are. */
  words: Frames
  /** How many blocks the page has. */
  count: number
  /** It is there wherever it lies: somebody works on it. */
  always: boolean
  children: () => ReactNode
}

/**
 * A row of a long page, made when it comes near the view. Without it its place is as tall as its time asks for, and at least as its
 * script was: so a page is as long after it was zoomed as before, whatever has been in view meanwhile.
 */
export function NearRow({ block, words, count, always, children }: Props) {
  const { id, kind, gap } = block
  const [near, setNear] = useState(false)
  const script = useRef(ABOUT)
  const lazy = count > ALL && !always
  const there = !lazy || near
  useEffect(() => {
    const row = lazy ? globalThis.document.getElementById(`block-${id}`) : null
    if (!row) return
    let leaves: ReturnType<typeof setTimeout> | undefined
    const watch = new IntersectionObserver(
      (entries) => {
        const { isIntersecting, boundingClientRect, target } = entries[entries.length - 1]
        if (there) script.current = scriptOf(target, boundingClientRect.height, script.current)
        clearTimeout(leaves)
        // what is made or taken away beyond the view can wait for what moves in it
        const change = () => startTransition(() => setNear(isIntersecting))
        if (isIntersecting === there) return
        if (isIntersecting) change()
        else leaves = setTimeout(change, STAYS)
      },
      { root: row.closest('[data-testid=page]'), rootMargin: `${NEAR}px 0px` },
    )
    watch.observe(row)
    return () => {
      clearTimeout(leaves)
      watch.disconnect()
    }
  }, [id, lazy, there])
  if (there) return children()
  return (
    <section
      id={`block-${id}`}
      data-block={kind}
      className="tall border-b border-rule"
      style={{ ...tall(words, gap), '--script': `${script.current}px` } as CSSProperties}
    />
  )
}

/** How tall the script of a row is, which is so tall, as far as that tells; `known` is what was known of it before. */
function scriptOf(row: Element, height: number, known: number): number {
  if (row.closest('[data-far]')) return known
  const byTime = parseFloat(getComputedStyle(row).getPropertyValue('--long')) * secondOf(row) + ROOM
  return height > byTime + 1 ? height : Math.min(known, height)
}
