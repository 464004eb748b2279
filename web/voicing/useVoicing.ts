import { useEffect, useRef, useState } from 'react'
import { toast } from 'sonner'
import type { Block } from '../../core/page/story'
import { post } from '../api/client'
import { orSay } from '../api/orSay'
import { author } from '../documents/waiting'
import { player } from '../sound/player'
import { close, isRunning, listenTo, record, stop, useRecorder } from '../record/recorder'

export const COUNTS = [0, 2, 3] as const

interface Way {
  /** All lines in one recording. */
  whole: boolean
  /** Recording begins as soon as the microphone is open. */
  atOnce: boolean
}

/**
 * Recording lines of copy one after the other, or all in one go, by one key. Takes of a line go to it by themselves; of a
 * recording of the whole script the server finds the lines.
 */
export function useVoicing(story: string, lines: readonly Block[], first: number, { whole, atOnce }: Way) {
  const recorder = useRecorder()
  const running = isRunning(recorder.state)
  const [at, setAt] = useState(first)
  /** Seconds that are still counted in; null where nobody counts. */
  const [counting, setCounting] = useState<number | null>(null)
  const [countIn, setCountIn] = useState(Number(localStorage.countIn ?? 0))
  /** The line was just recorded: the key goes on to the next. */
  const [done, setDone] = useState(false)
  const [ended, setEnded] = useState(false)
  const line = lines[Math.min(at, lines.length - 1)]

  useEffect(() => {
    void listenTo()
    return close
  }, [])

  const takeNow = (block: Block) =>
    record(whole ? 'Script in one go' : `Voice track, ${block.text.split(/\s+/).slice(0, 5).join(' ')}`, {
      story,
      ...(whole ? {} : { line: block.id }),
    })
  const begin = (index = at) => {
    player.stop()
    setAt(index)
    setDone(false)
    if (countIn) setCounting(countIn)
    else takeNow(lines[index])
  }
  useEffect(() => {
    if (counting === null) return
    const tick = setTimeout(() => {
      if (counting > 1) return setCounting(counting - 1)
      setCounting(null)
      takeNow(lines[at])
    }, 1000)
    return () => clearTimeout(tick)
    // of this very count
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [counting])

  // who comes here by the key wants to record: as soon as the microphone is open
  const asked = useRef(false)
  useEffect(() => {
    if (!atOnce || asked.current || recorder.state !== 'listening' || !line) return
    asked.current = true
    begin()
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [recorder.state])

  const end = () => {
    stop()
    if (whole) setEnded(true)
    else setDone(true)
  }
  // its lines are looked for on the tape as soon as the server knows of that
  const tape = ended ? recorder.takes[0]?.tape : null
  const [asking, setAsking] = useState(false)
  useEffect(() => {
    if (!tape || asking) return
    setAsking(true)
    orSay(post(`/voicings/${tape}`, { story, blocks: lines.slice(first).map(({ id }) => id), author }))
    toast('The lines go to their blocks as soon as the recording has been transcribed.', { duration: 6000 })
    // once for each recording
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [tape])

  return {
    recorder,
    running,
    at,
    line,
    counting,
    countIn,
    done,
    /** The whole script is recorded, and its lines are being looked for. */
    sent: ended && asking,
    setCountIn(seconds: number): void {
      localStorage.countIn = String(seconds)
      setCountIn(seconds)
    },
    /** One key: begins, ends, and begins the next line. */
    press(): void {
      if (counting !== null) return setCounting(null)
      if (running) return end()
      if (recorder.state !== 'listening' || ended) return
      if (done && at + 1 < lines.length) return begin(at + 1)
      if (!done) return begin()
      toast('That was the last line.', { duration: 2000 })
    },
    again(): void {
      if (!running && recorder.state === 'listening') begin()
    },
    go(by: 1 | -1): void {
      if (running && !whole) return
      setDone(false)
      setAt(Math.max(0, Math.min(lines.length - 1, at + by)))
    },
  }
}
