import { SILENCE, type TapeFigures } from '../../core/hearing/ear'
import { outputsOf, USUAL_LOUDNESS, type StoryDocument } from '../../core/page/story'
import { voiceGain } from '../../core/page/voiceLevel'

/**
 * What brings a voice track to the level of all speakers on a page, in dB: the loudness that its first output is brought to, by
 * that of the tape (gated: its pauses do not count). Null where nothing is heard on the tape.
 */
export function houseLevel(figures: TapeFigures | null, story: StoryDocument): number | null {
  const { integrated } = figures?.loudness ?? { integrated: SILENCE }
  if (integrated <= SILENCE) return null
  return voiceGain(integrated, outputsOf(story)[0].loudness ?? USUAL_LOUDNESS)
}
