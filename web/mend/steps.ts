import type { MendStep } from '../../core/mend/chain'

/** What each step of mending is called, what it is for, and how it begins. */
export const STEPS: Record<MendStep['kind'], { name: string; why: string; usual: MendStep }> = {
  lowCut: { name: 'Low cut', why: 'rumble, wind, handling', usual: { kind: 'lowCut', hertz: 80, slope: 12 } },
  highCut: { name: 'High cut', why: 'hiss above what speech needs', usual: { kind: 'highCut', hertz: 12_000, slope: 12 } },
  lowShelf: { name: 'Low shelf', why: 'too close to the microphone', usual: { kind: 'lowShelf', hertz: 200, dB: -4 } },
  highShelf: { name: 'High shelf', why: 'dull, or too sharp', usual: { kind: 'highShelf', hertz: 5000, dB: 3 } },
  dip: { name: 'Dip', why: 'a room that rings', usual: { kind: 'dip', hertz: 400, dB: -5, width: 0.5 } },
  hum: { name: 'Hum', why: 'mains and its harmonics', usual: { kind: 'hum', mains: 50, harmonics: 10 } },
  gain: { name: 'Gain', why: 'too soft, or too loud', usual: { kind: 'gain', dB: 3 } },
}

export const STEP_KINDS = Object.keys(STEPS) as MendStep['kind'][]

/** A step in a few words: `80 Hz, 12 dB an octave`. */
export function inShort(step: MendStep): string {
  const dB = (value: number) => `${value > 0 ? '+' : ''}${value} dB`.replace('-', '−')
  switch (step.kind) {
    case 'lowCut':
    case 'highCut':
      return `${step.hertz} Hz, ${step.slope} dB an octave`
    case 'hum':
      return `${step.mains} Hz, ${step.harmonics} harmonics`
    case 'gain':
      return dB(step.dB)
    default:
      return `${step.hertz} Hz, ${dB(step.dB)}`
  }
}
