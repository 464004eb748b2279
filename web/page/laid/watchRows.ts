/** Has an observer watch all rows of a page, also those that are made later: on a long page they come and go. Returns what ends it. */
export function watchRows(view: HTMLElement, watch: ResizeObserver | IntersectionObserver): () => void {
  for (const row of view.querySelectorAll('section')) watch.observe(row)
  const made = new MutationObserver((changes) => {
    for (const { addedNodes } of changes) for (const node of addedNodes) if (node instanceof HTMLElement) watch.observe(node)
  })
  made.observe(view, { childList: true })
  return () => {
    made.disconnect()
    watch.disconnect()
  }
}
