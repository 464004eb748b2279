import type { Handlers } from './commands'

/** The keys of all lists together. */
type KeysOf<L> = L extends readonly [infer First, ...infer Rest] ? keyof First | KeysOf<Rest> : never

/** What may stand in each list: no command that one of the lists after it has as well. */
type NoneTwice<L> = L extends readonly [infer First, ...infer Rest]
  ? Extract<keyof First, KeysOf<Rest>> extends never
    ? NoneTwice<Rest>
    : { 'this command stands in two lists': Extract<keyof First, KeysOf<Rest>> }
  : unknown

/** The commands of a view as one list. One that stands in two of them does not compile. */
export const oneList = <L extends readonly Handlers[]>(...lists: L & NoneTwice<L>): Handlers => Object.assign({}, ...lists) as Handlers
