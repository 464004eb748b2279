import { describe, expect, it } from 'vitest'
import { drawCaption, drawSheet, drawVeil, type Brush } from './draw'
import { SHAPES, SHEETS } from './shapes'

interface Written {
  text: string
  x: number
  size: number
  width: number
}
interface Filled {
  colour: string
  x: number
  y: number
  width: number
  height: number
}

/** A brush that keeps what is drawn; a letter is half as wide as it is high. */
function keeper() {
  const written: Written[] = []
  const filled: Filled[] = []
  const sizeOf = () => Number(/(\d+)px/.exec(brush.font)![1])
  const widthOf = (text: string) => (text.length * sizeOf()) / 2
  const brush: Brush = {
    fillStyle: '',
    font: '10px none',
    textAlign: 'left',
    textBaseline: 'middle',
    globalAlpha: 1,
    clearRect: () => undefined,
    fillRect: (x, y, width, height) => void filled.push({ colour: String(brush.fillStyle), x, y, width, height }),
    fillText: (text, x) => void written.push({ text, x, size: sizeOf(), width: widthOf(text) }),
    measureText: (text) => ({ width: widthOf(text) }) as TextMetrics,
  }
  return { brush, written, filled }
}

const LONG = 'The council says that the night ferry to Brackle will stop for good at the end of the month, and the island says no'

describe('a picture for online', () => {
  it.each(SHAPES)(
    '%s: a title that is short stands large, and one that is long is made smaller and then cut, within the picture',
    (shape) => {
      const sheet = SHEETS[shape]
      for (const title of ['Tides', LONG]) {
        const { brush, written } = keeper()
        drawSheet(brush, sheet, { title, from: 'Brackle Sound', wave: [] }, null)
        const lines = written.filter(({ text }) => text !== 'Brackle Sound')
        expect(lines.length).toBeLessThanOrEqual(2)
        for (const { x, width } of lines) expect(x + width).toBeLessThanOrEqual(sheet.width)
        if (title === LONG)
          expect(lines[lines.length - 1].text.endsWith('…') || lines.map(({ text }) => text).join(' ') === LONG).toBe(true)
        else expect(lines).toMatchObject([{ text: 'Tides', size: 120 }])
      }
    },
  )

  it('with a still image the title goes below it, beside whom it is for', () => {
    const { brush, written } = keeper()
    const put: unknown[] = []
    drawSheet(brush, SHEETS.wide, { title: 'The night ferry', from: 'Brackle Sound', wave: [] }, (area) => put.push(area))
    expect(put).toEqual([SHEETS.wide.still])
    expect(written.map(({ text }) => text).sort()).toEqual(['Brackle Sound', 'The night ferry'])
  })

  it('a wave goes from edge to edge, as high as it is loud, and silence is still a line', () => {
    const { brush, filled } = keeper()
    const { wave: area } = SHEETS.wide
    drawSheet(brush, SHEETS.wide, { title: '', from: '', wave: [0, 0, 0.5, 0.25] }, null)
    const bars = filled.filter(({ colour, y }) => colour === '#0f6b6b' && y >= area.y)
    expect(bars.length).toBeGreaterThan(200)
    expect(bars[bars.length - 1].x + bars[0].width).toBeGreaterThan(area.width - 10)
    const at = (share: number) => bars[Math.floor(share * bars.length)].height
    expect([at(0.1), at(0.3)]).toEqual([4, 4])
    expect(at(0.6) / at(0.9)).toBeCloseTo(2, 1)
    for (const { y, height } of bars) expect(y >= area.y && y + height <= area.y + area.height).toBe(true)
  })

  it('a caption has its lines in the middle, and no words leave its place empty', () => {
    const { brush, written } = keeper()
    const { caption } = SHEETS.square
    drawCaption(brush, caption, ['Nobody told us', 'that it would stop.'])
    expect(written.map(({ text, x }) => [text, x])).toEqual([
      ['Nobody told us', caption.width / 2],
      ['that it would stop.', caption.width / 2],
    ])
    const empty = keeper()
    drawCaption(empty.brush, caption, [])
    expect([empty.written, empty.filled.length]).toEqual([[], 1])
  })

  it('a veil lets the wave through, but for the stroke that tells where one is', () => {
    const { brush, filled } = keeper()
    drawVeil(brush, SHEETS.upright.wave)
    expect(filled.map(({ width }) => width)).toEqual([1080, 5])
    expect(brush.globalAlpha).toBe(1)
  })
})
