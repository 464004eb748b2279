import { readFileSync, writeFileSync } from 'node:fs'
import type { Fit } from '../../contract/lineups'
import { LOOK } from '../../core/hearing/levels'

/**
 * The looks (mean squares of 20 ms) of recordings that were compared, on the clock of the first: kept in a file, so
 * that what would be muted can be told at once, however often a decision changes. A file of rows of 32-bit floats,
 * after the number of rows and their length.
 */

/** Where the earliest of them begins, in looks of the first one's clock. */
export const firstLook = (fits: readonly Fit[]): number => Math.floor(Math.min(0, ...fits.map(({ offset }) => offset)) / LOOK)

/** Each row begins where the earliest recording does. */
export function onOneClock(looks: readonly Float32Array[], fits: readonly Fit[]): Float32Array[] {
  const first = firstLook(fits)
  const place = (i: number, look: number) => Math.round(fits[i].offset / LOOK + look * (1 + fits[i].drift)) - first
  const count = Math.max(...looks.map((own, i) => place(i, own.length) + 1))
  return looks.map((own, i) => {
    const row = new Float32Array(count)
    own.forEach((power, look) => (row[place(i, look)] = power))
    return row
  })
}

export function keepLooks(path: string, rows: readonly Float32Array[]): void {
  const all = new Float32Array(2 + rows.length * rows[0].length)
  all.set([rows.length, rows[0].length])
  rows.forEach((row, i) => all.set(row, 2 + i * row.length))
  writeFileSync(path, new Uint8Array(all.buffer))
}

/** Throws where the file is gone. */
export function readLooks(path: string): Float32Array[] {
  const bytes = readFileSync(path)
  const all = new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length))
  return Array.from({ length: all[0] }, (_, i) => all.subarray(2 + i * all[1], 2 + (i + 1) * all[1]))
}
