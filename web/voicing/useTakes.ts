import { useEffect, useMemo, useState } from 'react'
import type { PieceRow } from '../../contract/desk'
import { tapesOf } from '../../core/edits/editList'
import { pieceWords } from '../../core/edits/pieceWords'
import { piecePlan } from '../../core/page/plan'
import type { Block } from '../../core/page/story'
import { nearness, otherwise, type Otherwise } from '../../core/voicing/asWritten'
import { useFacts, useStoryPieces } from '../api/queries'
import { loudnessOfPiece } from '../levels/voiceLoudness'
import { player } from '../sound/player'

export interface LineTake {
  row: PieceRow
  /** What it says otherwise than its copy; null while its words are not known. */
  otherwise: Otherwise[] | null
  /** It is the one that is on the page. */
  counts: boolean
  /** Of several, the one that is nearest to the copy; of two alike, the later. */
  nearest: boolean
}

/** How loud takes are heard beside each other, in LUFS, whatever they were recorded at. */
const HEARD_AT = -23

/** As they were recorded: along one tape, else the older tape first. They may have come in, and been worked on, in another order. */
const inOrder =
  (added: ReadonlyMap<string, string>) =>
  ({ body: { spans: a } }: PieceRow, { body: { spans: b } }: PieceRow): number => {
    if (a[0].tape === b[0].tape) return a[0].from - b[0].from
    return (added.get(a[0].tape) ?? '') < (added.get(b[0].tape) ?? '') ? -1 : 1
  }

/** The takes of a line, the first first, and how they are heard. */
export function useTakes(story: string, block: Block | null) {
  const all = useStoryPieces(story).data
  const own = useMemo(
    () => (block ? (all ?? []).filter(({ id, aside, body }) => id === block.piece || (body.line === block.id && !aside)) : []),
    [all, block],
  )
  const facts = useFacts(useMemo(() => [...new Set(own.flatMap(({ body }) => tapesOf(body.spans)))].sort(), [own]))
  const rows = useMemo(() => own.toSorted(inOrder(new Map(facts?.tapes.map(({ id, added }) => [id, added])))), [own, facts])
  const takes = useMemo((): LineTake[] => {
    const said = rows.map(({ body }) => (facts ? pieceWords(body.spans, facts.wordsOf, body.sides).map(({ text }) => text) : []))
    const near = said.map((words) => (block && words.length ? nearness(block.text, words) : -1))
    const best = near.lastIndexOf(Math.max(...near))
    return rows.map((row, i) => ({
      row,
      otherwise: block && said[i].length ? otherwise(block.text, said[i]) : null,
      counts: row.id === block?.piece,
      nearest: rows.length > 1 && i === best && near[i] >= 0,
    }))
  }, [rows, facts, block])
  const [at, setAt] = useState<string | null>(null)
  const chosen = takes.find(({ row }) => row.id === at) ?? takes.find(({ counts }) => counts) ?? takes.at(-1) ?? null
  // a line that is gone to begins with the take that counts
  useEffect(() => setAt(null), [block?.id])

  /** Plays a take, as loud as the others. */
  const hear = async ({ row }: LineTake) => {
    if (!facts) return
    setAt(row.id)
    const loudness = await loudnessOfPiece(row.body, facts.factsOf).catch(() => HEARD_AT)
    const gain = Number.isFinite(loudness) ? HEARD_AT - loudness : 0
    player.load(`voicing/${story}`, piecePlan({ ...row.body, gain: (row.body.gain ?? 0) + gain }, facts.factsOf))
    void player.play(0)
  }
  return {
    takes,
    chosen,
    hear,
    step(by: 1 | -1): void {
      const next = takes[(chosen ? takes.indexOf(chosen) : -1) + by]
      if (next) void hear(next)
    },
  }
}
