import type { DeliveryInfo, Proof } from '../../contract/deliveries'

/** How it is known that it arrived. */
const PROVEN: Record<Proof, string> = {
  hash: 'read back there, the same to the byte',
  size: 'its size was read back, its content can’t be',
  answer: 'confirmed there, can’t be read back',
  person: 'as somebody found there',
}

const clockTime = (at: string): string =>
  new Date(at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit', second: '2-digit' })
const shortTime = (at: string): string => new Date(at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })

/** Where a delivery stands, as one sentence. `now` in milliseconds since 1970. */
export function deliveryInWords({ state, tries, nextTry, until, error, proof, arrived }: DeliveryInfo, now: number): string {
  switch (state) {
    case 'arrived':
      return `Arrived at ${clockTime(arrived!)}: ${PROVEN[proof!]}.`
    case 'sending':
      return tries > 1 ? `Sending, try ${tries}.` : 'Sending.'
    case 'waiting': {
      if (!error) return 'Waiting for its turn.'
      const seconds = nextTry ? Math.max(0, Math.ceil((Date.parse(nextTry) - now) / 1000)) : 0
      const till = until ? `, until it airs at ${shortTime(until)}` : ''
      return `${error} Tried ${tries === 1 ? 'once' : `${tries} times`}; again in ${seconds} s${till}.`
    }
    case 'stopped':
      return error || 'Stopped.'
    default:
      return error
  }
}

/** It stands still until somebody decides. */
export const wantsPerson = ({ state }: DeliveryInfo): boolean => state === 'failed' || state === 'perhaps' || state === 'exists'
/** It has not arrived, though it was tried. */
export const isLate = ({ state, error }: DeliveryInfo): boolean => state === 'waiting' && error !== ''
