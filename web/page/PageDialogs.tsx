import { lazy, Suspense } from 'react'
import type { PieceRow } from '../../contract/desk'
import type { TapeInfo } from '../../contract/tapes'
import { tapesOf } from '../../core/edits/editList'
import type { Block, BlockKind, Unrecorded } from '../../core/page/story'
import { soundingLanes } from '../../core/page/onlyLane'
import type { Stretch } from '../../core/time'
import { PlanFiguresDialog } from '../levels/PlanFiguresDialog'
import { SendDialog } from '../send/SendDialog'
import type { Under } from '../story/layUnder'
import { TapeChoices } from '../story/TapeChoices'
import { Dialog } from '../ui/parts'
import { LayUnderDialog } from './lanes/LayUnderDialog'
import { PiecePicker } from './PiecePicker'
import type { usePage } from './laid/usePage'

const TidySeveral = lazy(async () => ({ default: (await import('../tidy/TidySeveral')).TidySeveral }))

/** What is asked on a page: one thing at a time. */
export type PageDialog =
  | { ask: 'piece'; kind: 'actuality' | 'full' }
  /** The voice track of a line. */
  | { ask: 'track'; block: Block }
  | { ask: 'under' }
  | { ask: 'exchange' }
  | { ask: 'figures' }
  /** Pieces, by their ids. */
  | { ask: 'tidy'; pieces: readonly string[] }
  | { ask: 'send' }

interface Props {
  story: string
  page: ReturnType<typeof usePage>
  dialog: PageDialog | null
  onClose: () => void
  /** Where what lies under will lie, in words. */
  where: string
  /** What is chosen on the page, in frames of what plays. */
  chosenStretch: Stretch | null
  /** Several blocks that are chosen, in frames of the file; null where they are not in it. */
  chosenInFile: Stretch | null
  unrecorded: { copy: number; value: Unrecorded; onChange: (value: Unrecorded) => void }
  onAdd: (kind: BlockKind, piece: string) => void
  onTrack: (block: Block, piece: string) => void
  onUnder: (tape: TapeInfo, under: Under) => void
  /** Lays a piece in a lane at the playhead. */
  onUnderPiece: (piece: PieceRow) => void
  /** Another tape in place of the chosen sound's. */
  onExchange: (tape: TapeInfo) => void
}

export function PageDialogs({
  story,
  page,
  dialog,
  onClose,
  where,
  chosenStretch,
  chosenInFile,
  unrecorded,
  onAdd,
  onTrack,
  onUnder,
  onUnderPiece,
  onExchange,
}: Props) {
  if (!dialog) return null
  const { plan, facts, rows, head, output } = page
  switch (dialog.ask) {
    case 'piece':
    case 'track':
      return (
        <PiecePicker
          line={dialog.ask === 'track' ? dialog.block : null}
          story={story}
          rows={rows}
          spine={page.spine}
          onClose={onClose}
          onPick={(piece) => {
            onClose()
            if (dialog.ask === 'track') onTrack(dialog.block, piece)
            else onAdd(dialog.kind, piece)
          }}
        />
      )
    case 'under':
      return (
        <LayUnderDialog
          own={facts?.tapes.map((tape) => tape.id) ?? []}
          voiced={new Set(rows.flatMap(({ body }) => (body.line ? tapesOf(body.spans) : [])))}
          where={where}
          onClose={onClose}
          pieces={rows.filter(({ aside, body }) => !aside && !body.line)}
          onPiece={(piece) => {
            onClose()
            onUnderPiece(piece)
          }}
          onPick={(tape, under) => {
            onClose()
            onUnder(tape, under)
          }}
        />
      )
    case 'exchange':
      return (
        <Dialog open title="Exchange the sound" describe="Edges, level and pan stay as they are." onClose={onClose}>
          <TapeChoices
            rank={(tape) => (tape.hasWords ? 2 : 0) + (facts?.tapes.some(({ id }) => id === tape.id) ? 1 : 0)}
            testId="exchange-tapes"
            onPick={(tape) => {
              onClose()
              onExchange(tape)
            }}
          />
        </Dialog>
      )
    case 'figures':
      return plan && <PlanFiguresDialog plan={plan} selected={chosenStretch} noun="the page" onClose={onClose} />
    case 'tidy':
      return (
        <Suspense>
          <TidySeveral
            kind="piece"
            all={dialog.pieces.map((id) => ({ id, name: page.known.get(id)?.slug || 'Untitled' }))}
            onClose={onClose}
          />
        </Suspense>
      )
    case 'send':
      return (
        <SendDialog
          target={{ kind: 'story', id: story, output: output.id, ...chosenInFile }}
          title={head.slug}
          programme={output.client}
          unrecorded={unrecorded}
          lanes={soundingLanes(page.file)}
          onClose={onClose}
        />
      )
  }
}
