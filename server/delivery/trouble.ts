/**
 * What stands in the way of a delivery, in plain words. `again`: it may go by itself, so it is tried again. `refused`: it
 * will not, until somebody changes something. `exists`: another file has its name. `perhaps`: it may have arrived.
 */
export type TroubleKind = 'again' | 'refused' | 'exists' | 'perhaps'

export class Trouble extends Error {
  constructor(
    readonly kind: TroubleKind,
    message: string,
    /** It is known that nothing of this try arrived. */
    readonly settled = kind === 'refused' || kind === 'exists',
  ) {
    super(message)
  }
}

export const existsAlready = () =>
  new Trouble('exists', 'There is another file of that name. It was left as it is, and yours was not put there.')
export const mayHaveArrived = (why: string) =>
  new Trouble('perhaps', `${why} It may have arrived. Ask there, or look, before it is sent again.`)

const SENTENCES: Record<string, string> = {
  ECONNREFUSED: 'Nobody answers there.',
  EHOSTUNREACH: 'It can’t be reached.',
  ENETUNREACH: 'It can’t be reached.',
  ENOTFOUND: 'There is no machine of that name.',
  EAI_AGAIN: 'There is no machine of that name, or the network is away.',
  ETIMEDOUT: 'It did not answer in time.',
  ECONNRESET: 'The connection broke.',
  EPIPE: 'The connection broke.',
}

/** Whatever went wrong on the way to a machine, as one of the above. */
export function troubleOnTheWay(error: unknown): Trouble {
  if (error instanceof Trouble) return error
  const { code, errors } = (error ?? {}) as { code?: unknown; errors?: { code?: unknown }[] }
  const known = SENTENCES[String(code ?? errors?.[0]?.code)]
  return new Trouble('again', known ?? 'The connection broke.')
}
