import { milliseconds, type Frames, type Stretch } from '../time'
import { bridge } from './bridge'
import { withoutLowEnd } from './lowEnd'

/**
 * Repairs at one spot of one side: of a click, of a hole, of a thump. Each is made of the frames around it alone, with nothing
 * but sums and products, so that browser and server come to the same bits; nothing outside of its stretch changes.
 */
export interface Repair extends Stretch {
  how: RepairKind
}

/** A click and a hole are bridged from both sides; of a thump the low end goes. */
export const REPAIR_KINDS = ['bridge', 'lowEnd'] as const
export type RepairKind = (typeof REPAIR_KINDS)[number]

/** No bridge is longer, and no thump: what is longer is another sound, and a matter for a patch. */
export const LONGEST_REPAIR: Readonly<Record<RepairKind, Frames>> = { bridge: milliseconds(100), lowEnd: milliseconds(600) }
/** A repair looks at so many frames on either side of its stretch. */
export const REPAIR_REACH: Frames = milliseconds(60)

/** A side with more repairs, in the order of the tape, each once. */
export function withRepairs<T extends { repairs?: Repair[] }>(side: T, more: readonly Repair[]): T {
  const all = new Map([...(side.repairs ?? []), ...more].map((one) => [`${one.how} ${one.from} ${one.to}`, one]))
  return all.size ? { ...side, repairs: [...all.values()].sort((a, b) => a.from - b.from || a.to - b.to) } : side
}

/** A side without one of its repairs. */
export function withoutRepair<T extends { repairs?: Repair[] }>(side: T, { how, from, to }: Repair): T {
  const { repairs = [], ...rest } = side
  const left = repairs.filter((one) => one.how !== how || one.from !== from || one.to !== to)
  return (left.length ? { ...rest, repairs: left } : rest) as T
}

/** Repairs of one sound that touch `[from, to)`. */
export const repairsWithin = (repairs: readonly Repair[] | undefined, from: Frames, to: Frames): Repair[] | undefined => {
  const within = repairs?.filter((one) => one.from < to && one.to > from)
  return within?.length ? within : undefined
}

/**
 * A stretch of sound, repaired. `read` gives the frames `[from, to)` as recorded; what it gives may be used again by it. Each
 * repair is made of what was recorded, never of what another one made, so that it comes to the same whatever is asked for.
 */
export function repaired(
  read: (from: Frames, to: Frames) => Float32Array,
  repairs: readonly Repair[],
  from: Frames,
  to: Frames,
): Float32Array {
  const out = read(from, to).slice()
  // of what is bridged nothing is left, so it comes first
  for (const how of REPAIR_KINDS) for (const one of repairs) if (one.how === how) lay(out, from, read, one)
  return out
}

function lay(out: Float32Array, at: Frames, read: (from: Frames, to: Frames) => Float32Array, { how, from, to }: Repair): void {
  const start = from - REPAIR_REACH
  const recorded = read(start, to + REPAIR_REACH).slice()
  const made = recorded.slice()
  if (how === 'bridge') bridge(made, from - start, to - start)
  else withoutLowEnd(made, from - start, to - start)
  for (let frame = Math.max(at, from); frame < Math.min(at + out.length, to); frame++) {
    if (how === 'bridge') out[frame - at] = made[frame - start]
    else out[frame - at] += made[frame - start] - recorded[frame - start]
  }
}
