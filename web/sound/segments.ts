/** Which place of the plan the frame of a counter is; a later one of a list holds from its counter on. */
export interface Segment {
  counter: number
  position: number
  /** Frames of the plan to one that is heard. */
  speed: number
}

/** Adds a segment, and forgets those that no frame from `read` on belongs to. */
export function withSegment(segments: readonly Segment[], segment: Segment, read: number): Segment[] {
  const all = [...segments, segment]
  let first = all.length - 1
  while (first > 0 && ((read - all[first].counter) | 0) < 0) first--
  return all.slice(first)
}

/** The place of a frame; of one before all of them, where the first begins. */
export function placeAt(segments: readonly Segment[], counter: number): number {
  const found = segments.findLast((segment) => ((counter - segment.counter) | 0) >= 0) ?? segments[0]
  return found.position + Math.max(0, (counter - found.counter) | 0) * found.speed
}
