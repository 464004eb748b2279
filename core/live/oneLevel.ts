import { SILENCE } from '../hearing/ear'

/** No clip is made louder or softer by more than this, in dB: what is further off is a fault that one should hear. */
const MOST = 12
/** Nor so loud that its peaks go beyond this, in dBTP. */
const CEILING = -1

/** By how many dB a clip is turned up or down so that it is as loud as the others: `level` in LUFS. */
export function gainTo(level: number, { integrated, truePeak }: { integrated: number; truePeak: number }): number {
  if (!Number.isFinite(integrated) || integrated <= SILENCE) return 0
  const wanted = Math.max(-MOST, Math.min(MOST, level - integrated))
  return wanted <= 0 ? wanted : Math.max(0, Math.min(wanted, CEILING - truePeak))
}
