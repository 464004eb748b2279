/**
 * What is wrong with the layout of a page, as somebody who looks at it would say: text that is cut off or lies
 * under something else, and buttons and fields that cannot be reached. Runs in the page; names each fault.
 * Names that are too long for their line end in an ellipsis on purpose and are none.
 */
export function layoutFaults(): string[] {
  const SLACK = 2
  /** Letters of two lines may touch: the boxes around them are taller than they are. */
  const LEADING = 0.28
  type Box = { left: number; top: number; right: number; bottom: number }

  const dialog = [...document.querySelectorAll('[role=dialog], [role=menu]')].at(-1)
  const root = dialog ?? document.body
  const faults: string[] = []
  const visible = (element: Element) =>
    element.checkVisibility({ opacityProperty: true, visibilityProperty: true, contentVisibilityAuto: true })

  /** What of an element's style counts, looked up once: most elements lie around many others. */
  const known = new Map<Element, ReturnType<typeof lookUp>>()
  function lookUp(element: Element) {
    const { clip, clipPath, position, overflowX, overflowY, textOverflow, webkitLineClamp } = getComputedStyle(element)
    const hidden = position === 'absolute' && (clip !== 'auto' || clipPath.startsWith('inset(50%'))
    return {
      position,
      overflowX,
      overflowY,
      ellipsis: textOverflow === 'ellipsis',
      clamped: webkitLineClamp !== 'none',
      hidden,
      edge: element.getBoundingClientRect(),
    }
  }
  function styleOf(element: Element) {
    let found = known.get(element)
    if (!found) known.set(element, (found = lookUp(element)))
    return found
  }
  const hidden = (element: Element): boolean => styleOf(element).hidden
  const textIn = (element: Element): string => (element.getAttribute('aria-label') ?? element.textContent ?? '').trim().replace(/\s+/g, ' ')
  const nameOf = (element: Element): string => `${element.tagName.toLowerCase()} “${textIn(element).slice(0, 50)}”`
  const inView = ({ left, top, right, bottom }: Box): Box => ({
    left: Math.max(0, left),
    top: Math.max(0, top),
    right: Math.min(innerWidth, right),
    bottom: Math.min(innerHeight, bottom),
  })
  const width = (box: Box) => box.right - box.left
  const height = (box: Box) => box.bottom - box.top

  /** What of a box can be seen; `lost` where some of it cannot even be scrolled to. */
  function shown(element: Element, box: Box, itself: boolean): { box: Box; lost: string | null } {
    let now: Box = { left: box.left, top: box.top, right: box.right, bottom: box.bottom }
    let fixed = false
    for (let around: Element | null = element; around && around !== document.documentElement; around = around.parentElement) {
      const style = styleOf(around)
      if ((itself || around !== element) && !(fixed && style.position === 'static')) {
        const { edge } = style
        if (style.overflowX !== 'visible') {
          const over = Math.max(edge.left - now.left, now.right - edge.right)
          // to the side nobody scrolls: what lies there is as good as gone
          if (over > SLACK && !style.ellipsis && width(now) > 0 && height(now) > 0)
            return { box: now, lost: `cut off at the side by ${nameOf(around).slice(0, 40)}` }
          now = { ...now, left: Math.max(now.left, edge.left), right: Math.min(now.right, edge.right) }
        }
        if (style.overflowY !== 'visible') {
          const over = Math.max(edge.top - now.top, now.bottom - edge.bottom)
          if (over > height(box) * LEADING && /hidden|clip/.test(style.overflowY) && height(now) > 0 && !style.clamped)
            return { box: now, lost: `cut off above or below by ${nameOf(around).slice(0, 40)}` }
          now = { ...now, top: Math.max(now.top, edge.top), bottom: Math.min(now.bottom, edge.bottom) }
        }
      }
      if (style.position === 'fixed') {
        fixed = true
        break
      }
      if (style.position === 'absolute') fixed = false
    }
    return { box: now, lost: null }
  }

  const texts: { element: Element; box: Box; text: string; fixed: boolean }[] = []
  const walker = document.createTreeWalker(root, NodeFilter.SHOW_TEXT)
  for (let node = walker.nextNode(); node; node = walker.nextNode()) {
    const text = node.textContent!.trim()
    const element = node.parentElement
    if (
      !text ||
      !element ||
      !visible(element) ||
      element.closest('[data-sonner-toaster], [data-word], script, style, option, [aria-hidden=true] svg')
    )
      continue
    let sr = false
    for (let around: Element | null = element; around && around !== root; around = around.parentElement) sr ||= hidden(around)
    if (sr) continue
    const range = document.createRange()
    range.selectNodeContents(node)
    for (const rect of range.getClientRects()) {
      if (rect.width < 2 || rect.height < 2) continue
      const { box, lost } = shown(element, rect, true)
      if (lost) {
        faults.push(`text “${text.slice(0, 50)}” is ${lost}`)
        break
      }
      if (width(box) < 2 || height(box) < 2) continue
      // what is in sight of its scroller is to be in sight of the window
      const there = inView(box)
      if (width(box) - width(there) > SLACK || height(box) - height(there) > height(box) * LEADING) {
        faults.push(`text “${text.slice(0, 50)}” lies outside the window`)
        break
      }
      texts.push({ element, box: there, text: text.slice(0, 50), fixed: false })
    }
  }
  // from top to bottom: what begins below the end of one lies over none of it
  texts.sort((a, b) => a.box.top - b.box.top)
  for (let i = 0; i < texts.length; i++)
    for (let k = i + 1; k < texts.length && texts[k].box.top < texts[i].box.bottom; k++) {
      const [a, b] = [texts[i], texts[k]]
      if (a.element === b.element || a.element.contains(b.element) || b.element.contains(a.element)) continue
      const across = Math.min(a.box.right, b.box.right) - Math.max(a.box.left, b.box.left)
      const down = Math.min(a.box.bottom, b.box.bottom) - Math.max(a.box.top, b.box.top)
      if (across > SLACK && down > Math.min(height(a.box), height(b.box)) * LEADING + 1 && !covered(a) && !covered(b))
        faults.push(`“${a.text}” and “${b.text}” lie over one another`)
    }
  /** Something opaque lies over it on purpose: a line that floats over what scrolls. */
  function covered({ element, box }: { element: Element; box: Box }): boolean {
    const top = document.elementFromPoint((box.left + box.right) / 2, (box.top + box.bottom) / 2)
    return Boolean(top && top.closest('[data-floats]') && !top.contains(element) && !element.contains(top))
  }

  for (const control of root.querySelectorAll('button, a[href], input, select, textarea, [role=button], [role=menuitem]')) {
    if (!visible(control) || hidden(control) || control.closest('[data-sonner-toaster]')) continue
    const rect = control.getBoundingClientRect()
    if (rect.width < 4 || rect.height < 4) continue
    const { box, lost } = shown(control, rect, false)
    if (lost) {
      faults.push(`${nameOf(control)} is ${lost}`)
      continue
    }
    if (width(box) < 4 || height(box) < 4) continue
    const there = inView(box)
    if (width(box) - width(there) > SLACK || height(box) - height(there) > SLACK) {
      faults.push(`${nameOf(control)} lies outside the window`)
      continue
    }
    const top = document.elementFromPoint((there.left + there.right) / 2, (there.top + there.bottom) / 2)
    if (
      top &&
      !control.contains(top) &&
      !top.contains(control) &&
      !top.closest('label')?.contains(control) &&
      !top.closest('[data-floats], [data-sonner-toaster]')
    )
      faults.push(`${nameOf(control)} lies under ${nameOf(top)}`)
    if (
      control instanceof HTMLInputElement &&
      control.matches(':not([type=checkbox], [type=radio], [type=range], [type=file])') &&
      control.value &&
      control.scrollWidth > control.clientWidth + SLACK &&
      !styleOf(control).ellipsis
    )
      faults.push(`the field ${nameOf(control)} is too narrow for “${control.value.slice(0, 40)}”`)
  }
  if (document.documentElement.scrollWidth > innerWidth || document.body.scrollWidth > innerWidth + SLACK)
    faults.push('the page is wider than the window')
  return [...new Set(faults)]
}
