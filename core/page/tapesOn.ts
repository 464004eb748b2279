import { tapesOf, type EditList } from '../edits/editList'
import { hangersOf, piecesIn, type StoryDocument } from './story'

/** The tapes that sound on a page, in its pieces and beside them, each once. `spansOf`: of a piece that is known. */
export const tapesOn = (body: StoryDocument, spansOf: (piece: string) => EditList | undefined): string[] =>
  [
    ...new Set([
      ...piecesIn(body).flatMap((piece) => tapesOf(spansOf(piece) ?? [])),
      ...hangersOf(body).flatMap(({ plays }) => ('tape' in plays ? plays.tape : [])),
    ]),
  ].sort()
