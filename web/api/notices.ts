import type { QueryClient } from '@tanstack/react-query'
import type { Notice } from '../../contract/desk'
import type { TapeInfo } from '../../contract/tapes'

type Heard = Notice | 'missed' | 'opened'
type Listener = (heard: Heard) => void

const listeners = new Set<Listener>()
let connected = false

/**
 * Hears what the server tells; `missed` after a time without it, when all may have changed; `opened` when it
 * first can be heard: of what came between the first asking and this nobody was told.
 */
export function onNotice(listener: Listener): () => void {
  listeners.add(listener)
  return () => void listeners.delete(listener)
}

const handOn = (heard: Heard) => listeners.forEach((listener) => listener(heard))

/** Opens the stream and keeps what was asked of the server fresh by it. */
export function listen(queries: QueryClient): void {
  if (connected) return
  connected = true
  const stream = new EventSource('/api/events')
  let lost = false
  stream.onmessage = ({ data }) => handOn(JSON.parse(data as string) as Notice)
  stream.addEventListener('missed', () => handOn('missed'))
  stream.onerror = () => (lost = true)
  let opened = false
  stream.onopen = () => {
    if (lost) handOn('missed')
    else if (!opened) handOn('opened')
    opened = true
    lost = false
  }
  onNotice((notice) => {
    if (notice === 'missed') void queries.invalidateQueries()
    else if (notice === 'opened') for (const queryKey of [['calls'], ['cards']]) void queries.invalidateQueries({ queryKey })
    else if (notice.about === 'tape' && notice.grown) {
      const grown = (tape: TapeInfo): TapeInfo => ({ ...tape, ...notice.grown })
      queries.setQueryData<TapeInfo>(['tape', notice.id], (tape) => tape && grown(tape))
      queries.setQueryData<TapeInfo[]>(['tapes'], (tapes) => tapes?.map((tape) => (tape.id === notice.id ? grown(tape) : tape)))
    } else if (notice.about === 'tape') {
      void queries.invalidateQueries({ queryKey: ['tapes'] })
      void queries.invalidateQueries({ queryKey: ['tape', notice.id] })
      // what could not be sent while it arrived can be now
      void queries.invalidateQueries({ queryKey: ['sends', 'preview'] })
    } else if (notice.about === 'send') void queries.invalidateQueries({ queryKey: ['sends'] })
    else if (notice.about === 'destinations')
      for (const queryKey of [['destinations'], ['programmes']]) void queries.invalidateQueries({ queryKey })
    else if (notice.about === 'treatments') void queries.invalidateQueries({ queryKey: ['treatments'] })
    else if (notice.about === 'plays') void queries.invalidateQueries({ queryKey: ['plays', notice.id] })
    else if (notice.about === 'keepings') for (const queryKey of [['keepings'], ['keepRules']]) void queries.invalidateQueries({ queryKey })
    else if (notice.about === 'presence') return
    else if (notice.about === 'call') void queries.invalidateQueries({ queryKey: ['calls'] })
    else if (notice.about === 'cards') void queries.invalidateQueries({ queryKey: ['cards'] })
    else if (notice.about === 'lineUp') void queries.invalidateQueries({ queryKey: ['lineUp', notice.id] })
    else if (notice.about === 'bringing') void queries.invalidateQueries({ queryKey: ['bringing', notice.tape] })
    else if (notice.about === 'voicing') void queries.invalidateQueries({ queryKey: ['voicings', notice.story] })
    else if (notice.about === 'recognition') void queries.invalidateQueries({ queryKey: ['recognition', notice.tape] })
    else if (notice.about === 'tidyRules') void queries.invalidateQueries({ queryKey: ['tidyRules'] })
    else if (notice.about === 'listening') void queries.invalidateQueries({ queryKey: ['listening', notice.tape] })
    else if (notice.kind === 'transcript') {
      void queries.invalidateQueries({ queryKey: ['words', notice.tape] })
      void queries.invalidateQueries({ queryKey: ['find'] })
    } else {
      void queries.invalidateQueries({ queryKey: ['desk'] })
      if (notice.kind === 'board') void queries.invalidateQueries({ queryKey: ['boards'] })
      if (notice.kind === 'actuality') {
        void queries.invalidateQueries({ queryKey: ['pieces'] })
        void queries.invalidateQueries({ queryKey: ['uses'] })
        void queries.invalidateQueries({ queryKey: ['tapes', 'library'] })
      }
      if (notice.kind === 'tape') {
        void queries.invalidateQueries({ queryKey: ['tapes'] })
        void queries.invalidateQueries({ queryKey: ['tape', notice.id] })
      }
    }
  })
}
