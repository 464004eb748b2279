import { beyond, phraseStarts, speakerStarts } from '../../core/tape/marks'
import type { Mark } from '../../core/tape/tape'
import type { Word } from '../../core/tape/words'
import { toFrames, type Frames, type Stretch } from '../../core/time'

interface OnTape {
  words: readonly Word[]
  /** The same words as they are shown. */
  shown: readonly { phraseEnd: boolean }[]
  marks: readonly Mark[]
  speech: readonly Stretch[]
  playing: boolean
  place: () => Frames
  goTo: (frame: Frames) => void
}

/** While it plays, going back from just after a place leads to the one before it. */
const JUST_AFTER: Frames = toFrames(0.8)

/** From phrase to phrase, from speaker to speaker, from mark to mark. */
export function useSteps({ words, shown, marks, speech, playing, place, goTo }: OnTape) {
  const step = (places: Frames[], by: 1 | -1) => {
    const next = beyond(places, place(), by, playing ? JUST_AFTER : 0)
    if (next !== null) goTo(next)
  }
  // without words, by where somebody begins to speak after a pause
  const phrases = () => (words.length ? phraseStarts(words, (i) => shown[i].phraseEnd) : speech.map(({ from }) => from))
  const marked = () => marks.map(({ at }) => at)
  return {
    'play.phraseBack': () => step(phrases(), -1),
    'play.phraseOn': () => step(phrases(), 1),
    'play.speakerBack': () => step(speakerStarts(words), -1),
    'play.speakerOn': () => step(speakerStarts(words), 1),
    'play.markBack': () => step(marked(), -1),
    'play.markOn': () => step(marked(), 1),
  }
}
