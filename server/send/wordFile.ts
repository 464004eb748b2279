import { Document, HeadingLevel, Packer, Paragraph, Table, TableCell, TableRow, TextRun, WidthType } from 'docx'
import type { ScriptSheet } from '../../core/page/scriptSheet'

/** Of the page's width, in percent: from, block, script, length. */
const WIDTHS = [10, 22, 58, 10]

/** A script or a cue sheet as a Word file: the page's table, with times, in and out cues. */
export function wordFile({ title, about, rows, below }: ScriptSheet): Promise<Buffer> {
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
  const foot = below.flatMap((line) => [text(''), text(line)])
  return Packer.toBuffer(new Document({ title, creator: 'Plain Cut', sections: [{ children: [...head, table, ...foot] }] }))
}
