import { Covering } from '../stretches'
import type { Suggestion } from '../tape/suggestion'
import type { Stretch } from '../time'
import type { Found } from './finder'

/** Of what is found, what is still open: not decided on, not gone already, and not off the record. */

const goesOf = (found: Found): Stretch => ('goes' in found.proposes ? found.proposes.goes : found)

/**
 * `decided`: what was decided on of the same kind. `gone`: what is out already. What was decided is known by its place, so that
 * it is not offered again where a setting moves an edge.
 */
export function openOf(
  found: readonly Found[],
  decided: readonly Suggestion[],
  gone: readonly Stretch[],
  off: readonly Stretch[],
): Found[] {
  const sides = new Map<number | null, Suggestion[]>()
  for (const one of decided) sides.set(one.side, [...(sides.get(one.side) ?? []), one])
  const decidedOn = new Map([...sides].map(([side, all]) => [side, new Covering(all)]))
  const [out, masked] = [new Covering(gone), new Covering(off)]
  return found.filter((place) => {
    const goes = goesOf(place)
    return !decidedOn.get(place.side ?? null)?.of(place) && !masked.of(place) && 2 * out.of(goes) <= goes.to - goes.from
  })
}
