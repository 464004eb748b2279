import { firstWhere } from '../search'
import type { Frames, Stretch } from '../time'

/** Frames that are covered, as stretches in order that neither overlap nor touch: asked and added to in logarithmic time. */
export class Coverage {
  private readonly list: { from: Frames; to: Frames }[] = []

  /** Index of the first stretch that ends at a frame or after it. */
  private at(frame: Frames): number {
    return firstWhere(this.list.length, (i) => this.list[i].to >= frame)
  }

  add({ from, to }: Stretch): void {
    if (to <= from) return
    const first = this.at(from)
    let last = first
    const joined = { from, to }
    while (last < this.list.length && this.list[last].from <= to) {
      joined.from = Math.min(joined.from, this.list[last].from)
      joined.to = Math.max(joined.to, this.list[last].to)
      last++
    }
    this.list.splice(first, last - first, joined)
  }

  /** The parts of a stretch that are not covered, in order. */
  less({ from, to }: Stretch): Stretch[] {
    const parts: Stretch[] = []
    let start = from
    for (let i = this.at(from); i < this.list.length && this.list[i].from < to; i++) {
      if (this.list[i].from > start) parts.push({ from: start, to: this.list[i].from })
      start = Math.max(start, this.list[i].to)
    }
    if (to > start) parts.push({ from: start, to })
    return parts
  }
}
