import { expect, test } from 'vitest'
import type { DeliveryInfo } from '../../contract/deliveries'
import { deliveryInWords, isLate, wantsPerson } from './deliveryInWords'

const NOW = Date.parse('2026-11-25T17:40:00')
const at = (seconds: number) => new Date(NOW + seconds * 1000).toISOString()
const one = (more: Partial<DeliveryInfo>): DeliveryInfo => ({
  id: '1',
  send: '2',
  destination: '3',
  to: 'Playout',
  fileName: 'night-ferry.wav',
  isScript: false,
  state: 'waiting',
  progress: 0,
  tries: 0,
  nextTry: null,
  until: null,
  error: '',
  proof: null,
  arrived: null,
  ...more,
})

test('says how it goes on, and until when', () => {
  const late = one({ error: 'It is full.', tries: 3, nextTry: at(7.4), until: at(12 * 60) })
  expect(deliveryInWords(late, NOW)).toBe('It is full. Tried 3 times; again in 8 s, until it airs at 17:52.')
  expect([isLate(late), wantsPerson(late)]).toEqual([true, false])
  expect(deliveryInWords(one({}), NOW)).toBe('Waiting for its turn.')
  expect(deliveryInWords(one({ state: 'sending', tries: 2 }), NOW)).toBe('Sending, try 2.')
})

test('says how it is known that it arrived', () => {
  const said = (['hash', 'size', 'answer', 'person'] as const).map((proof) =>
    deliveryInWords(one({ state: 'arrived', proof, arrived: at(2) }), NOW),
  )
  expect(said).toEqual([
    'Arrived at 17:40:02: read back there, the same to the byte.',
    'Arrived at 17:40:02: its size was read back, its content can’t be.',
    'Arrived at 17:40:02: confirmed there, can’t be read back.',
    'Arrived at 17:40:02: as somebody found there.',
  ])
})

test('what stands still wants a person', () => {
  expect((['failed', 'perhaps', 'exists', 'stopped', 'arrived', 'sending'] as const).map((state) => wantsPerson(one({ state })))).toEqual([
    true,
    true,
    true,
    false,
    false,
    false,
  ])
})
