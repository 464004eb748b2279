import type { ToldEntry, Verdict } from '../../contract/documents'

/** Acts as JSON: each is told to everybody who works on its document, and written out once for all of them. */
const written = new WeakMap<ToldEntry, string>()

function textOf(entry: ToldEntry): string {
  let text = written.get(entry)
  if (text === undefined) written.set(entry, (text = JSON.stringify(entry)))
  return text
}

/** A verdict as JSON. */
export const verdictText = ({ since, ...verdict }: Verdict): string =>
  `${JSON.stringify(verdict).slice(0, -1)},"since":[${since.map(textOf).join(',')}]}`
