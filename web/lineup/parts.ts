import type { Fit, Part } from '../../contract/lineups'
import { clock } from '../../core/time'

/** How sure it is where one of them lies, and what was found, in words. */
export function inWords(fit: Fit, first: boolean): string {
  if (!fit.belongs) return `Not recorded together with the first. ${fit.reason}`
  if (first) return 'Its clock is the one that counts.'
  const ppm = Math.round(fit.drift * 1e6)
  const start = fit.offset >= 0 ? `starts ${clock(Math.round(fit.offset))} later` : `starts ${clock(Math.round(-fit.offset))} earlier`
  const pace = ppm === 0 ? 'its clock kept time' : `its clock ran ${Math.abs(ppm)} ppm ${ppm > 0 ? 'slow' : 'fast'}`
  const sure = fit.compared
    ? ` ${sureness(fit)}: ${fit.agree} of ${fit.compared} places agree, to ${Math.max(0.1, fit.spread * 1000).toFixed(1)} ms.`
    : ''
  return `It ${start}, and ${pace}.${sure}`
}

/** Stretches in which only one of them has sound agree on nothing, so that two thirds is much. */
const sureness = ({ agree, compared }: Fit): string =>
  agree / compared > 0.6 && agree > 12 ? 'Sure' : agree / compared > 0.4 ? 'Quite sure' : 'Not very sure: listen'

/** What is proposed for each: all that belong are used, but of several of one speaker's only the clearest. */
export function proposed(fits: readonly Fit[], speakers: ReadonlyMap<string, string>): Part[] {
  return fits.map((fit): Part => {
    const speaker = speakers.get(fit.tape) ?? ''
    return { tape: fit.tape, speaker, mixed: fit.mixed, used: fit.belongs && !clearer(fit, fits, speakers) }
  })
}

/** Another one that caught the same speaker better. */
export function clearer(fit: Fit, fits: readonly Fit[], speakers: ReadonlyMap<string, string>): Fit | undefined {
  const speaker = speakers.get(fit.tape)
  return speaker
    ? fits.find((other) => other !== fit && other.belongs && speakers.get(other.tape) === speaker && other.clarity > fit.clarity)
    : undefined
}
