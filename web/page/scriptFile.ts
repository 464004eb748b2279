import type { BlockKind } from '../../core/page/story'

/** A script as a Word file: the page’s table, with times, in and out cues. */

export interface ScriptRow {
  from: string
  kind: BlockKind
  /** What it is, and who says it. */
  block: string
  who: string
  /** Copy, or the cues of a piece. */
  lines: readonly string[]
  length: string
}

export interface ScriptSheet {
  title: string
  /** When it airs, for whom, how long it is. */
  about: readonly string[]
  rows: readonly ScriptRow[]
}

export async function wordFile({ title, about, rows }: ScriptSheet): Promise<Blob> {
  const { Document, HeadingLevel, Packer, Paragraph, Table, TableCell, TableRow, TextRun, WidthType } = await import('docx')
  const WIDTHS = [10, 22, 58, 10]
  const text = (line: string, bold = false) => new Paragraph({ children: [new TextRun({ text: line, bold })] })
  const row = (cells: readonly (readonly string[])[], head = false) =>
    new TableRow({
      tableHeader: head,
      cantSplit: true,
      children: cells.map(
        (lines, i) =>
          new TableCell({
            width: { size: WIDTHS[i], type: WidthType.PERCENTAGE },
            children: lines.map((line, k) => text(line, head || (i === 1 && k === 0))),
          }),
      ),
    })
  const table = new Table({
    width: { size: 100, type: WidthType.PERCENTAGE },
    rows: [
      row([['From'], ['Block'], ['Script'], ['Length']], true),
      ...rows.map(({ from, block, who, lines, length }) => row([[from], [block, who], lines, [length]])),
    ],
  })
  const head = [new Paragraph({ text: title, heading: HeadingLevel.HEADING_1 }), ...about.map((line) => text(line)), text('')]
  return Packer.toBlob(new Document({ title, sections: [{ children: [...head, table] }] }))
}
