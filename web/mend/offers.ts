import type { Finding } from '../../core/hearing/findings'
import type { MendStep } from '../../core/mend/chain'
import { STEPS, type Voice } from './steps'

/** What was found on a tape when it came, as steps that would mend it, each with its reason. */
export interface Offer {
  step: MendStep
  reason: string
}

/** A room this far under the voice nobody hears, in dB; one so quiet neither, in dBFS. */
const ROOM_HEARD = 45
const ROOM_QUIET = -72
/** Noise is taken down by what lifts it out of hearing, and by no more than this, in dB. */
const GENTLE = 12
/** Speech is brought to about this, in dBFS. */
const GOOD_SPEECH = -26
const LOW_SPEECH = -38

export function offersFor(findings: readonly Finding[], voice: Voice): Offer[] {
  const offers: Offer[] = []
  const dBFS = (value: number) => `${value.toFixed(0).replace('-', '−')} dBFS`
  const clipped = findings.find(({ what }) => what === 'clipped')
  if (clipped?.what === 'clipped')
    offers.push({ step: STEPS.clipping.usual(voice), reason: `It clips at ${clipped.count} ${clipped.count === 1 ? 'place' : 'places'}.` })
  const hum = findings.find(({ what }) => what === 'hum')
  if (hum?.what === 'hum')
    offers.push({
      step: { kind: 'hum', mains: hum.frequency === 60 ? 60 : 50, harmonics: 10 },
      reason: `Mains hum at ${hum.frequency} Hz, ${dBFS(hum.level)}.`,
    })
  const under = voice.speechLevel - voice.floor
  if (under < ROOM_HEARD && voice.floor > ROOM_QUIET && voice.speechLevel > -90)
    offers.push({
      step: { kind: 'noise', dB: Math.max(4, Math.min(GENTLE, Math.round(ROOM_HEARD - under))) },
      reason: `The room lies only ${under.toFixed(0)} dB under the voice.`,
    })
  if (voice.speechLevel < LOW_SPEECH && voice.speechLevel > -90)
    offers.push({
      step: { kind: 'gain', dB: Math.min(24, Math.round(GOOD_SPEECH - voice.speechLevel)) },
      reason: `The voice is soft: ${dBFS(voice.speechLevel)}.`,
    })
  return offers
}
