/** How loud a recording is at a place, and in the quietest moment there, both as mean squares. */
export interface Loudness {
  power: number
  quietest: number
}

/** A place at which two recordings were held against each other, how loud each is there, and whether they agree. */
export interface ComparedPlace {
  /** Where it lies in the second, in any unit. */
  at: number
  first: Loudness
  second: Loudness
  agrees: boolean
}

/** Where those that agree lie everywhere, the middle eight of ten of them take up 0.8 of the whole. */
const MOST_ALONG = 0.6
const LEAST_SOUNDING = 5
/** So few of the places elsewhere agree where it was only played in both. */
const MOST_ELSEWHERE = 0.3

/**
 * Whether two recordings agree in one stretch only, and are unlike elsewhere though both sound there: something was
 * played in both, or said again. Where one of them is silent elsewhere, nothing speaks against it. Places in order.
 */
export function onlyInOneStretch(places: readonly ComparedPlace[]): boolean {
  const agreeing = places.filter(({ agrees }) => agrees)
  if (!agreeing.length) return false
  const [early, late] = [0.1, 0.9].map((share) => agreeing[Math.round(share * (agreeing.length - 1))].at)
  if (late - early > MOST_ALONG * (places[places.length - 1].at - places[0].at)) return false
  const [first, second] = [sounding(places.map((place) => place.first)), sounding(places.map((place) => place.second))]
  const elsewhere = places.filter(({ at }, i) => (at < early || at > late) && first[i] && second[i])
  return elsewhere.length >= LEAST_SOUNDING && elsewhere.filter(({ agrees }) => agrees).length < MOST_ELSEWHERE * elsewhere.length
}

/** A place sounds that is so many times the power of the room, which is heard in the pauses between words: 8 dB. */
const OVER_ROOM = 6.3

/** Whether a recording sounds at each place. */
function sounding(places: readonly Loudness[]): boolean[] {
  const quiet = places.map(({ quietest }) => quietest).sort((a, b) => a - b)
  const room = quiet[Math.floor(quiet.length / 10)]
  return places.map(({ power }) => power > OVER_ROOM * room)
}
