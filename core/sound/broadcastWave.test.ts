import { expect, it } from 'vitest'
import { asciiOf } from './ascii'
import { broadcastHeader, headerLength, type Label } from './broadcastWave'
import { readWaveFile } from './waveFile'

const LABEL: Label = {
  title: 'The night ferry',
  artist: 'Søren Ólafsson',
  cut: 'The-night-ferry_2026-11-25',
  client: 'Morning on Brackle',
  category: 'STORY',
  outCue: 'on the quay.',
  reference: '0123456789abcdef0123456789abcdef',
  date: '2026-11-25',
  time: '17:40:12',
  airsDate: '2026-11-26',
  airsTime: '07:10:00',
  segue: 47_000,
  timeReference: 2 ** 33 + 5,
}
const LOUDNESS = { integrated: -23.04, range: 5.5, truePeak: -1.2, momentary: -18, shortTerm: -20.25 }
const format = { channels: 1, rate: 48_000, bits: 24 } as const
const header = broadcastHeader(48_000, format, LABEL, LOUDNESS)
const view = new DataView(header.buffer)
const text = (at: number, width: number) => String.fromCharCode(...header.subarray(at, at + width)).replace(/\0+$/, '')

it('has its chunks in order, each as long as it says, and an even file behind', () => {
  const chunks: [string, number][] = []
  for (let at = 12; at < header.length; at += 8 + view.getUint32(at + 4, true) + (view.getUint32(at + 4, true) % 2))
    chunks.push([text(at, 4), view.getUint32(at + 4, true)])
  expect(chunks.map(([name]) => name)).toEqual(['bext', 'fmt ', 'cart', 'data'])
  expect(chunks[2][1]).toBe(2048)
  expect(chunks[3][1]).toBe(48_000 * 3)
  expect(view.getUint32(4, true)).toBe(header.length - 8 + 48_000 * 3)
  expect(header.length).toBe(headerLength(48_000, format))
})

it('has each field of bext where EBU Tech 3285 puts it', () => {
  const at = 20
  expect([text(at, 256), text(at + 256, 32), text(at + 288, 32), text(at + 320, 10), text(at + 330, 8)]).toEqual([
    'The night ferry',
    'Plain Cut',
    LABEL.reference,
    '2026-11-25',
    '17:40:12',
  ])
  expect([view.getUint32(at + 338, true), view.getUint32(at + 342, true), view.getUint16(at + 346, true)]).toEqual([5, 2, 2])
  expect([0, 2, 4, 6, 8].map((k) => view.getInt16(at + 412 + k, true))).toEqual([-2304, 550, -120, -1800, -2025])
  expect(text(at + 602, 60)).toMatch(/^A=PCM,F=48000,W=24,M=mono,T=Plain Cut\r\n/)
  expect(view.getInt16(20 + 412 + 2, true)).toBe(550)
  expect(new DataView(broadcastHeader(1, format, LABEL, null).buffer).getInt16(at + 412, true)).toBe(0x7fff)
})

it('has each field of cart where AES46 puts it, in ASCII', () => {
  const at = header.findIndex((_, i) => text(i, 4) === 'cart') + 8
  expect([0, 4, 68, 132, 196, 260, 324, 388].map((k, i) => text(at + k, i ? 64 : 4))).toEqual([
    '0101',
    'The night ferry',
    'Soren Olafsson',
    LABEL.cut,
    LABEL.client,
    'STORY',
    '',
    'on the quay.',
  ])
  expect([text(at + 452, 10), text(at + 462, 8), text(at + 470, 10), text(at + 480, 8)]).toEqual([
    '2026/11/26',
    '07:10:00',
    '9999/12/31',
    '23:59:59',
  ])
  expect(text(at + 488, 64)).toBe('Plain Cut')
  expect(view.getInt32(at + 680, true)).toBe(32_768)
  expect([0, 1, 2, 3, 4].map((k) => [text(at + 684 + 8 * k, 4), view.getUint32(at + 688 + 8 * k, true)])).toEqual([
    ['AUDs', 0],
    ['AUDe', 48_000],
    ['SEGs', 47_000],
    ['SEGe', 48_000],
    ['', 0],
  ])
})

it('is read back by what reads a recorder’s files', () => {
  const file = new Uint8Array(header.length + 48_000 * 3)
  file.set(header)
  expect(readWaveFile((from, to) => file.subarray(from, to), file.length)).toMatchObject({
    origin: { description: 'The night ferry', originator: 'Plain Cut', date: '2026-11-25', time: '17:40:12' },
  })
})

it.each([
  ['Ærø’s “last” boat — 5 €', 'AErO\'s "last" boat - 5 EUR'],
  ['Łódź', 'Lodz'],
  ['東京', '??'],
  ['a\tb', 'a b'],
])('writes %s plainly', (text, plain) => {
  expect(asciiOf(text).toLowerCase()).toBe(plain.toLowerCase())
})

it('is RF64 where 32 bits are too few: lengths stand in ds64, and those who read WAV files find the sound', () => {
  const frames = 5 * 3600 * 48_000
  const long = { channels: 2, rate: 48_000, bits: 24 } as const
  const head = broadcastHeader(frames, long, LABEL, LOUDNESS)
  const of = new DataView(head.buffer)
  const wide = (at: number) => Number(of.getBigUint64(at, true))
  expect(head.length).toBe(headerLength(frames, long))
  expect([0, 8, 12].map((at) => String.fromCharCode(...head.subarray(at, at + 4)))).toEqual(['RF64', 'WAVE', 'ds64'])
  expect([of.getUint32(4, true), of.getUint32(16, true), of.getUint32(head.length - 4, true)]).toEqual([0xffffffff, 28, 0xffffffff])
  expect([wide(20), wide(28), wide(36), of.getUint32(44, true)]).toEqual([head.length - 8 + frames * 6, frames * 6, frames, 0])
  // to the last byte that fits it is RIFF, as ever
  const most = Math.floor((0xffffffff - (headerLength(1, long) - 8)) / 6)
  expect(String.fromCharCode(...broadcastHeader(most, long, LABEL, null).subarray(0, 4))).toBe('RIFF')
  expect(String.fromCharCode(...broadcastHeader(most + 1, long, LABEL, null).subarray(0, 4))).toBe('RF64')
})
