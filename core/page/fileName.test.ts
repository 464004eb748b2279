import { expect, it } from 'vitest'
import { RATE } from '../time'
import { fileNameFrom } from './fileName'

const parts = { slug: 'The night ferry', client: 'Brackle Sound', date: '2026-11-25', length: 210 * RATE }

it.each([
  ['{slug}_{date}_{length}', 'The-night-ferry_2026-11-25_3m30s.wav'],
  ['{client} {slug}', 'Brackle-Sound-The-night-ferry.wav'],
  ['../../etc/passwd', 'etc-passwd.wav'],
  ['Fähre «eins»\n', 'Fahre-eins.wav'],
  ['///', 'piece.wav'],
])('makes %j a name', (pattern, name) => expect(fileNameFrom(pattern, parts, 'wav')).toBe(name))

it('leaves out what is empty', () => expect(fileNameFrom('{client}_{slug}', { ...parts, client: '' }, 'mp3')).toBe('The-night-ferry.mp3'))
