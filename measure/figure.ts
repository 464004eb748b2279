/** One measured figure, as one line of JSON. */
export interface Figure {
  measure: string
  name: string
  value: number
  unit: string
  peer?: string
  peerValue?: number
  ratio?: number
}

export function report({ value, peerValue, ratio, ...rest }: Figure): void {
  const short = (figure: number | undefined) => (figure === undefined ? undefined : Number(figure.toPrecision(5)))
  console.log(JSON.stringify({ ...rest, value: short(value), peerValue: short(peerValue), ratio: short(ratio) }))
}

/** The share-th of sorted values, nearest rank. */
export function percentile(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b)
  return sorted[Math.min(sorted.length - 1, Math.ceil(share * sorted.length) - 1)]
}

export const median = (values: readonly number[]): number => percentile(values, 0.5)
