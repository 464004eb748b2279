/** The first index of `count` for which `test` holds, where it goes on holding from there; `count` where it never does. */
export function firstWhere(count: number, test: (index: number) => boolean): number {
  let low = 0
  let high = count
  while (low < high) {
    const middle = (low + high) >> 1
    if (test(middle)) high = middle
    else low = middle + 1
  }
  return low
}
