/** More than this is not a voice that is too soft, but one that is not there; in dB. */
const [LEAST, MOST] = [-40, 24]

/** What brings a voice to the level of all speakers, in dB, to a tenth; both in LUFS. */
export const voiceGain = (loudness: number, target: number): number =>
  Math.max(LEAST, Math.min(MOST, Math.round((target - loudness) * 10) / 10))
