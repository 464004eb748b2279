/**
 * Changes of a text, as a walk over it from its start: a number keeps so many characters, `put` inserts,
 * `cut` takes out. What is left at the end stays. Positions are UTF-16 units, as browsers count them.
 * Two changes made to the same text can be brought past each other and end equal (operational
 * transformation of retain, insert and delete: Ellis and Gibbs, 1989).
 */
export type TextPart = number | { put: string } | { cut: string }
export type TextChange = readonly TextPart[]

const isKept = (part: TextPart): part is number => typeof part === 'number'
const isPut = (part: TextPart): part is { put: string } => !isKept(part) && 'put' in part

/** Gathers parts, so that no two of a kind lie beside each other and a `put` comes before a `cut`. */
class Parts {
  readonly list: TextPart[] = []

  keep(count: number): void {
    const last = this.list[this.list.length - 1]
    if (count <= 0) return
    if (last !== undefined && isKept(last)) this.list[this.list.length - 1] = last + count
    else this.list.push(count)
  }

  put(text: string): void {
    if (!text) return
    const last = this.list[this.list.length - 1]
    const before = this.list[this.list.length - 2]
    if (last !== undefined && isPut(last)) this.list[this.list.length - 1] = { put: last.put + text }
    else if (last === undefined || isKept(last)) this.list.push({ put: text })
    else if (before !== undefined && isPut(before)) this.list[this.list.length - 2] = { put: before.put + text }
    else this.list.splice(this.list.length - 1, 0, { put: text })
  }

  cut(text: string): void {
    if (!text) return
    const last = this.list[this.list.length - 1]
    if (last !== undefined && !isKept(last) && !isPut(last)) this.list[this.list.length - 1] = { cut: last.cut + text }
    else this.list.push({ cut: text })
  }

  /** The change; what is kept at its end is not said. */
  get change(): TextChange {
    const last = this.list[this.list.length - 1]
    return last !== undefined && isKept(last) ? this.list.slice(0, -1) : this.list
  }
}

/** The parts of a change one after the other, each to be taken in bites. */
class Walk {
  private at = 0
  private used = 0
  constructor(private readonly change: TextChange) {}

  /** What comes next; past the end, text that is kept without end. */
  get next(): TextPart {
    const part = this.change[this.at]
    if (part === undefined) return Infinity
    if (isKept(part)) return part - this.used
    return isPut(part) ? { put: part.put.slice(this.used) } : { cut: part.cut.slice(this.used) }
  }

  get done(): boolean {
    return this.at >= this.change.length
  }

  skip(count: number): void {
    if (this.done) return
    this.used += count
    if (this.used < sizeOf(this.change[this.at])) return
    this.at++
    this.used = 0
  }
}

const sizeOf = (part: TextPart): number => (isKept(part) ? part : isPut(part) ? part.put.length : part.cut.length)

/** What makes one text the other: the stretch in which they differ gives way. Empty where they are equal. */
export function textChange(before: string, after: string): TextChange {
  let start = 0
  const most = Math.min(before.length, after.length)
  while (start < most && before[start] === after[start]) start++
  let end = 0
  while (end < most - start && before[before.length - 1 - end] === after[after.length - 1 - end]) end++
  const parts = new Parts()
  parts.keep(start)
  parts.put(after.slice(start, after.length - end))
  parts.cut(before.slice(start, before.length - end))
  return parts.change
}

/** The text after a change. Throws RangeError where the change was made for another text. */
export function changedText(text: string, change: TextChange): string {
  let out = ''
  let at = 0
  for (const part of change) {
    if (isPut(part)) out += part.put
    else if (isKept(part)) {
      if (at + part > text.length) throw new RangeError('the text is shorter than that')
      out += text.slice(at, at + part)
      at += part
    } else {
      if (text.slice(at, at + part.cut.length) !== part.cut) throw new RangeError('the text reads otherwise there')
      at += part.cut.length
    }
  }
  return out + text.slice(at)
}

/** The change that leads back. */
export function backwards(change: TextChange): TextChange {
  const parts = new Parts()
  for (const part of change) {
    if (isKept(part)) parts.keep(part)
    else if (isPut(part)) parts.cut(part.put)
    else parts.put(part.cut)
  }
  return parts.change
}

/** Two changes, one after the other, as one. */
export function bothChanges(first: TextChange, second: TextChange): TextChange {
  const [a, b] = [new Walk(first), new Walk(second)]
  const parts = new Parts()
  while (!a.done || !b.done) {
    const [mine, theirs] = [a.next, b.next]
    if (!isKept(mine) && !isPut(mine)) {
      parts.cut(mine.cut)
      a.skip(mine.cut.length)
    } else if (isPut(theirs)) {
      parts.put(theirs.put)
      b.skip(theirs.put.length)
    } else {
      const count = Math.min(sizeOf(mine), sizeOf(theirs))
      if (isKept(theirs)) {
        if (isPut(mine)) parts.put(mine.put.slice(0, count))
        else parts.keep(count)
      } else if (isKept(mine)) parts.cut(theirs.cut.slice(0, count))
      // what the one puts and the other cuts was never there
      a.skip(count)
      b.skip(count)
    }
  }
  return parts.change
}

/**
 * A change as it reads once another, made for the same text, was applied. What both put in is kept; at one
 * place the text that sorts first stands first, so that all agree. What both cut is cut once.
 */
export function changeOver(change: TextChange, over: TextChange): TextChange {
  const [a, b] = [new Walk(change), new Walk(over)]
  const parts = new Parts()
  while (!a.done) {
    const [mine, theirs] = [a.next, b.next]
    if (isPut(mine) && !(isPut(theirs) && theirs.put < mine.put)) {
      parts.put(mine.put)
      a.skip(mine.put.length)
    } else if (isPut(theirs)) {
      parts.keep(theirs.put.length)
      b.skip(theirs.put.length)
    } else {
      const count = Math.min(sizeOf(mine), sizeOf(theirs))
      if (isKept(theirs)) {
        if (isKept(mine)) parts.keep(count)
        else parts.cut((mine as { cut: string }).cut.slice(0, count))
      }
      a.skip(count)
      b.skip(count)
    }
  }
  return parts.change
}

/** Where a caret stands after a change by another speaker; text put in at its place comes after it. */
export function caretAfter(change: TextChange, caret: number): number {
  let at = 0
  let moved = caret
  for (const part of change) {
    if (at > caret || (at === caret && isPut(part))) break
    if (isPut(part)) moved += part.put.length
    else if (isKept(part)) at += part
    else {
      moved -= Math.min(part.cut.length, caret - at)
      at += part.cut.length
    }
  }
  return moved
}
