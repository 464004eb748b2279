import { clock, type Stretch } from '../../core/time'
import type { Shade, SheetModel } from './paint/model'
import type { SheetSurface } from './surface'

/** What is drawn on a Sheet, in words: for screen readers, and for tests. */

/** What is selected, for those who do not see it. */
export function inWords({ selection, also = [], words, shades, lowCuts = [] }: SheetModel): string {
  if (also.length)
    return `${also.length + (selection && selection.to > selection.from ? 1 : 0)} passages selected,
      ${clock(lengthOf(also) + (selection ? selection.to - selection.from : 0))} in all`
  if (!selection || selection.to <= selection.from) return ''
  const inside = words.filter((word) => word.at < selection.to && word.end > selection.from)
  const some = inside.length > 12 ? [...inside.slice(0, 6), { text: '…' }, ...inside.slice(-5)] : inside
  const touches = ({ from, to }: Stretch) => from < selection.to && to > selection.from
  const looks = [
    ...new Set(shades.filter(touches).map(({ look }) => SHADES[look])),
    ...lowCuts.filter(touches).map(({ hertz }) => `low cut ${hertz} Hz`),
  ]
  return `Selected ${clock(selection.from)} to
    ${clock(selection.to)}${
      some.length ? `: ${some.map(({ text }) => text).join(' ')}` : ''
    }${looks.length ? ` (${looks.join(', ')})` : ''}`
}

const lengthOf = (stretches: readonly Stretch[]): number => stretches.reduce((sum, { from, to }) => sum + to - from, 0)

const SHADES: Record<Shade['look'], string> = {
  struck: 'struck',
  gone: 'taken out',
  tone: 'held time',
  muted: 'muted',
  off: 'off the record',
  patch: 'patched',
}

/** The words in view, each where it is drawn, with what is the matter with it. */
export function mirrorWords(element: HTMLElement, surface: SheetSurface, { shades, words, nicks }: SheetModel): void {
  element.replaceChildren(
    ...surface.wordsInView().map(({ index, text, x, y, width }) => {
      const span = document.createElement('span')
      span.textContent = `${text} `
      const word = words[index]
      const shade = word && shades.find((one) => one.from < word.end && one.to > word.at)
      if (shade && shade.look !== 'patch') span.setAttribute('role', 'deletion')
      const join = word && nicks.some(({ at }) => at > (words[index - 1]?.at ?? -1) && at <= word.at)
      const about = [join && 'after a join', shade && SHADES[shade.look]].filter(Boolean).join(', ')
      if (about) span.setAttribute('aria-description', about)
      span.dataset.word = String(index)
      span.style.cssText = `position:absolute;left:${x}px;top:${y}px;width:${width}px;height:24px;white-space:pre;overflow:hidden`
      return span
    }),
  )
}
