import { useCallback, useEffect, useRef, useState } from 'react'
import { toast } from 'sonner'
import { confirmed, corrected, placeFor } from '../../core/transcript/corrected'
import type { SaidWord, Transcript } from '../../core/transcript/transcript'
import { toFrames, type Frames, type Stretch } from '../../core/time'
import { useCommands } from '../commands/commands'
import type { LiveDocument } from '../documents/liveDocument'
import { player } from '../sound/player'

/** The words that are being written over: a run of one voice. */
export interface Correcting {
  first: number
  count: number
  /** Where words go that stand for none, and what is heard while one writes. */
  place: Stretch
}

/** What is heard around the words while one writes. */
const AROUND = toFrames(0.5)

interface Setup {
  owner: string
  live: LiveDocument<'transcript'>
  transcript: Transcript
  length: Frames
  selected: Stretch | null
  place: () => Frames
  playFrom: (from: Frames, to?: Frames, again?: boolean) => void
  stopAt: (frame: Frames) => void
}

/** At least half of a word lies in a stretch. */
const mostly = (word: Stretch, { from, to }: Stretch): boolean =>
  2 * (Math.min(word.to, to) - Math.max(word.from, from)) >= word.to - word.from

/** The run of words of one voice that a stretch covers, at least half of each. */
function covered(words: readonly SaidWord[], { from, to }: Stretch): { first: number; count: number } | null {
  let first = -1
  let last = -1
  for (let i = 0; i < words.length && words[i].from < to; i++) {
    if (!mostly(words[i], { from, to })) continue
    if (first < 0) first = i
    else if (words[i].voice !== words[first].voice) break
    last = i
  }
  return first < 0 ? null : { first, count: last - first + 1 }
}

/** Writing over a tape's words, on its Sheet. */
export function useCorrecting({ owner, live, transcript, length, selected, place, playFrom, stopAt }: Setup) {
  const [now, setNow] = useState<Correcting | null>(null)
  const { words } = transcript

  const at = useCallback(
    (first: number, count: number): Correcting => {
      const run = words.slice(first, first + count)
      return { first, count, place: { from: run[0].from, to: run[run.length - 1].to } }
    },
    [words],
  )

  const begin = () => {
    const here = place()
    const found = covered(words, selected ?? { from: here, to: here + 1 }) ?? (selected ? null : wordAt(words, here))
    const next: Correcting = found
      ? at(found.first, found.count)
      : { first: placeFor(transcript, selected?.from ?? here), count: 0, place: selected ?? { from: here, to: here } }
    setNow(next)
  }

  // the sound around the words, again and again, until they are kept
  const from = now && Math.max(0, now.place.from - AROUND)
  const to = now && Math.min(length, now.place.to + AROUND)
  const hear = useRef(playFrom)
  hear.current = playFrom
  useEffect(() => {
    if (from === null || to === null) return
    hear.current(from, to, true)
    return () => void (player.owner === owner && player.stop())
  }, [from, to, owner])

  /** Keeps what was written; gives how many words stand there now. */
  const keep = (text: string): number => {
    if (!now) return 0
    const step = corrected(transcript, now.first, now.count, text, now.place, words[now.first - 1]?.voice ?? words[now.first]?.voice)
    if (step) live.act([step], { label: 'correct words' })
    return now.count + (step?.type === 'words' ? step.in.length - step.out.length : 0)
  }

  const leave = () => {
    if (now) stopAt(now.place.from)
    setNow(null)
  }

  /** Keeps what was written and goes on to the word after, or before. */
  const onwards = (text: string, by: 1 | -1) => {
    if (!now) return
    const count = keep(text)
    const { words: after } = live.body
    const next = by > 0 ? now.first + count : now.first - 1
    if (!after[next]) return setNow(null)
    setNow({ first: next, count: 1, place: { from: after[next].from, to: after[next].to } })
  }

  const check = () => {
    const here = wordAt(words, place())
    // all voices in the selection
    const chosen = selected ? words.flatMap((word, i) => (mostly(word, selected) ? [i] : [])) : here ? [here.first] : []
    if (!chosen.length) return void toast('Select the words that you have checked by ear.')
    const right = chosen.some((i) => !words[i].checked)
    const step = confirmed(transcript, chosen, right)
    if (!step) return
    const many = chosen.length === 1 ? 'One word is' : `${chosen.length} words are`
    live.act([step], { label: right ? 'checked words' : 'words a guess again' })
    toast(right ? `${many} checked.` : `${many} unchecked.`, { duration: 2000 })
  }

  useCommands({ 'words.correct': begin, 'words.check': check })

  // another speaker's change may move the words from under the hand
  useEffect(
    () =>
      live.onSteps((steps) => {
        setNow((current) => {
          if (!current) return current
          let { first } = current
          for (const step of steps) {
            if (step.type !== 'words') continue
            if (step.at + step.out.length <= first) first += step.in.length - step.out.length
          }
          return first === current.first ? current : { ...current, first }
        })
      }),
    [live],
  )

  const text = now
    ? words
        .slice(now.first, now.first + now.count)
        .map((word) => word.text)
        .join(' ')
    : ''
  return {
    now,
    text,
    keep: (written: string) => {
      keep(written)
      leave()
    },
    leave,
    onwards,
  }
}

function wordAt(words: readonly SaidWord[], frame: Frames): { first: number; count: number } | null {
  const found = words.findIndex((word) => word.from <= frame && word.to > frame)
  return found < 0 ? null : { first: found, count: 1 }
}
