import type { DragEvent } from 'react'

/** What is carried from the lists beside a page to its lanes and rows. */
export type Carried = { piece: string } | { tape: string } | { files: true }

const TYPES = { piece: 'application/x-plain-cut-piece', tape: 'application/x-plain-cut-tape' } as const

/** Begins to carry a piece or a tape. */
export const carry =
  (kind: keyof typeof TYPES, id: string) =>
  ({ dataTransfer }: DragEvent): void => {
    dataTransfer.effectAllowed = 'copy'
    dataTransfer.setData(TYPES[kind], id)
  }

/** Whether something is carried that a page takes; what it is, a browser tells only once it is let go. */
export const isCarried = ({ dataTransfer: { types } }: DragEvent, files = true): boolean =>
  types.includes(TYPES.piece) || types.includes(TYPES.tape) || (files && types.includes('Files'))

/** What was let go; null where it is nothing that a page takes. */
export function carriedIn({ dataTransfer }: DragEvent): Carried | null {
  const [piece, tape] = [dataTransfer.getData(TYPES.piece), dataTransfer.getData(TYPES.tape)]
  if (piece) return { piece }
  if (tape) return { tape }
  return dataTransfer.types.includes('Files') ? { files: true } : null
}
