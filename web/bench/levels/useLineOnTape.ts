import { toast } from 'sonner'
import { slice } from '../../../core/edits/editList'
import { appliedLine } from '../../../core/edits/levelLine'
import { tapeLevel } from '../../../core/tape/tape'
import { liveDocument } from '../../documents/useDocument'
import type { Bench } from '../bench'

/** Copies the level line over what is selected, or all of it, to its tapes, for pieces that are pulled later. */
export function useLineOnTape({ live, selected }: Bench): () => void {
  const copy = async () => {
    const { spans } = live.body
    const part = selected ? slice(spans, selected.from, selected.to) : spans
    const lined = part.filter(({ level, sound }) => level && sound === 'tape')
    if (!lined.length) return void toast('There is no level line here.')
    for (const tape of new Set(lined.map((span) => span.tape))) {
      const document = await liveDocument(tape, 'tape')
      const there = tapeLevel(document.body)
      const points = appliedLine(
        there?.points ?? [],
        lined.filter((span) => span.tape === tape),
      )
      document.act(
        there
          ? [{ type: 'set', id: there.id, key: 'points', value: points }]
          : [{ type: 'put', record: { id: crypto.randomUUID(), kind: 'level', points } }],
        { label: 'level line' },
      )
    }
    toast('Copied to the tape. It applies to new pieces only.')
  }
  return () => void copy()
}
