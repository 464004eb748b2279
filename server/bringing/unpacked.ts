/** How much a ZIP archive (a Word file is one) unpacks to, by its own table of contents: APPNOTE 6.3, sections 4.3.12 and 4.3.16. */

const END = 0x06054b50
const ENTRY = 0x02014b50
const END_SIZE = 22
const LONGEST_COMMENT = 0xffff

/** In bytes; null where the table of contents cannot be read. Sizes that stand in a 64-bit field count as without end. */
export function unpackedSize(file: Uint8Array): number | null {
  const view = new DataView(file.buffer, file.byteOffset, file.byteLength)
  let end = file.length - END_SIZE
  while (end >= 0 && end >= file.length - END_SIZE - LONGEST_COMMENT && view.getUint32(end, true) !== END) end--
  if (end < 0 || end < file.length - END_SIZE - LONGEST_COMMENT) return null
  const count = view.getUint16(end + 10, true)
  let at = view.getUint32(end + 16, true)
  let total = 0
  for (let i = 0; i < count; i++) {
    if (at + 46 > file.length || view.getUint32(at, true) !== ENTRY) return null
    const size = view.getUint32(at + 24, true)
    total += size === 0xffffffff ? Infinity : size
    at += 46 + view.getUint16(at + 28, true) + view.getUint16(at + 30, true) + view.getUint16(at + 32, true)
  }
  return total
}
