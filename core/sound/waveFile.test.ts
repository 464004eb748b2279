import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { propose } from '../tape/proposal'
import { plain, readWaveFile } from './waveFile'

const bytes = (text: string, length = text.length) => Uint8Array.from({ length }, (_, i) => text.charCodeAt(i) || 0)
const number = (value: number, size: 2 | 4 | 8) => {
  const out = new Uint8Array(size)
  const to = new DataView(out.buffer)
  if (size === 2) to.setUint16(0, value, true)
  else if (size === 4) to.setUint32(0, value, true)
  else to.setBigUint64(0, BigInt(value), true)
  return out
}
const join = (...parts: Uint8Array[]) => Uint8Array.from(parts.flatMap((part) => [...part]))
const chunk = (name: string, body: Uint8Array, says = body.length) =>
  join(bytes(name), number(says, 4), body, new Uint8Array(body.length % 2))
const format = (channels = 2, rate = 48_000, bits = 24, kind = 1) =>
  chunk(
    'fmt ',
    join(
      number(kind, 2),
      number(channels, 2),
      number(rate, 4),
      number((rate * channels * bits) / 8, 4),
      number((channels * bits) / 8, 2),
      number(bits, 2),
    ),
  )
const file = (head: string, ...chunks: Uint8Array[]) => join(bytes(head), number(0, 4), bytes('WAVE'), ...chunks)
const read = (all: Uint8Array, size = all.length) =>
  readWaveFile((from, to) => all.subarray(Math.min(from, all.length), Math.min(to, all.length)), size)
const noise = new Uint8Array(600).fill(200)

describe('a WAV file', () => {
  it('says what it is and where its samples are', () => {
    expect(read(file('RIFF', format(), chunk('data', noise)))).toMatchObject({
      channels: 2,
      rate: 48_000,
      bits: 24,
      float: false,
      dataFrom: 44,
      dataTo: 644,
      unfinished: false,
      promised: 0,
    })
    expect(read(file('RIFF', format(1, 44_100, 32, 3), chunk('data', noise)))).toMatchObject({
      channels: 1,
      rate: 44_100,
      bits: 32,
      float: true,
    })
  })
  it('of more than 4 GB keeps its length elsewhere', () => {
    const long = 5_000_000_000
    const sizes = chunk('ds64', join(number(long + 100, 8), number(long, 8), number(0, 8), number(0, 4)))
    for (const head of ['RF64', 'BW64']) {
      const all = file(head, sizes, format(), join(bytes('data'), number(0xffffffff, 4)))
      expect(read(all, all.length + long)).toMatchObject({
        dataFrom: all.length,
        dataTo: all.length + long,
        unfinished: false,
        promised: 0,
      })
    }
  })
  it('whose length was never filled in goes on to its end', () => {
    for (const says of [0, 0xffffffff])
      expect(read(file('RIFF', format(), chunk('data', noise, says)))).toMatchObject({ dataFrom: 44, dataTo: 644, unfinished: true })
    // a length that was written once, early on
    expect(read(file('RIFF', format(), chunk('data', noise, 120)))).toMatchObject({ dataTo: 644, unfinished: true })
  })
  it('that was cut short says how much was promised', () => {
    expect(read(file('RIFF', format(), chunk('data', noise, 6000)))).toMatchObject({ dataTo: 644, unfinished: false, promised: 1000 })
  })
  it('keeps what its recorder noted, before or after the samples', () => {
    const bext = join(
      bytes('Quay, second go', 256),
      bytes('Field recorder 2', 32),
      bytes('', 32),
      bytes('2026-11-24'),
      bytes('14-32-05'),
      new Uint8Array(264),
    )
    const xml =
      '<BWFXML><NOTE>wind &amp; ' +
      'gulls</NOTE><TAKE>3</TAKE><TRACK_LIST>' +
      '<TRACK><CHANNEL_INDEX>2</CHANNEL_INDEX><NAME>Boom</NAME></TRACK>' +
      '<TRACK><CHANNEL_INDEX>1</CHANNEL_INDEX><NAME>Tie clip</NAME></TRACK></TRACK_LIST></BWFXML>'
    const origin = {
      description: 'Quay, second go',
      originator: 'Field recorder 2',
      date: '2026-11-24',
      time: '14:32:05',
      notes: 'wind & gulls, take 3',
      tracks: ['Tie clip', 'Boom'],
    }
    expect(read(file('RIFF', chunk('bext', bext), chunk('iXML', bytes(xml)), format(), chunk('data', noise)))!.origin).toEqual(origin)
    expect(read(file('RIFF', format(), chunk('data', noise), chunk('bext', bext), chunk('iXML', bytes(xml))))!.origin).toEqual(origin)
  })
  it('is none without a format, or samples, or its first words', () => {
    expect(read(file('RIFF', chunk('data', noise)))).toBeNull()
    expect(read(file('RIFF', format()))).toBeNull()
    expect(read(bytes('RIFF____AVI LIST'))).toBeNull()
    expect(read(new Uint8Array(3))).toBeNull()
  })
  it('of any bytes at all ends in an answer', () => {
    const whole = file(
      'RF64',
      chunk('ds64', new Uint8Array(28).fill(255)),
      format(),
      chunk('iXML', bytes('<TRACK><NAME>x')),
      chunk('data', noise),
    )
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(whole.length - 1), fc.nat(255)), { maxLength: 40 }), fc.nat(whole.length), (changes, end) => {
        const hurt = whole.slice(0, end)
        for (const [at, value] of changes) if (at < end) hurt[at] = value
        const found = read(hurt)
        if (found) {
          expect(found.dataFrom).toBeLessThanOrEqual(found.dataTo)
          expect(found.dataTo).toBeLessThanOrEqual(hurt.length)
        }
      }),
    )
  })
})

describe('a name', () => {
  const origin = { date: '', description: '' }
  it.each([
    ['261124_1432.WAV', '261124 1432', '', '2026-11-24'],
    ['2026-11-24 Oda Fennimore quay.wav', 'Oda Fennimore quay', 'Oda Fennimore', '2026-11-24'],
    ['Interview_Aldous-Brack_20261123_091500.m4a', 'Interview Aldous-Brack', 'Aldous Brack', '2026-11-23'],
    ['quay_wall.wav', 'quay wall', '', ''],
    ['999999.wav', '999999', '', ''],
    ['.wav', 'Tape', '', ''],
  ])('%s', (file, name, speaker, day) => expect(propose(file, origin)).toEqual({ name, speaker, day }))
  it('gives way to what the recorder noted, where it is only a number', () =>
    expect(propose('TRK0003.WAV', { date: '2026-11-22', description: 'Council steps' })).toEqual({
      name: 'Council steps',
      speaker: '',
      day: '2026-11-22',
    }))
  it('keeps to one line that reads from left to right', () => expect(plain('a\n\u202eb\u0000c')).toBe('a b c'))
})
