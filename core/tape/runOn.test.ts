import { describe, expect, it } from 'vitest'
import { runs, runsOnFrom, type RecordedFile } from './runOn'

const part = (fileName: string, time: string, seconds = 600, more: Partial<RecordedFile> = {}): RecordedFile => ({
  fileName,
  bytes: 1e8,
  seconds,
  channels: 2,
  format: 'WAV',
  origin: { date: '2026-11-24', time },
  ...more,
})

describe('files of one recording', () => {
  const a = part('REC_0007.WAV', '14:00:00')
  const b = part('REC_0008.WAV', '14:10:00')
  const c = part('REC_0009.WAV', '14:20:01', 200)
  const later = part('REC_0010.WAV', '16:00:00')

  it('follow one another by number and by the clock', () => {
    expect(runsOnFrom(a, b)).toBe(true)
    expect(runsOnFrom(c, later)).toBe(false)
    expect(runsOnFrom(b, a)).toBe(false)
    expect(runs([later, c, a, b])).toEqual([[a, b, c]])
  })

  it('are of one kind and one name', () => {
    expect(runsOnFrom(a, { ...b, channels: 1 })).toBe(false)
    expect(runsOnFrom(a, { ...b, fileName: 'TAKE_0008.WAV' })).toBe(false)
    expect(runsOnFrom(a, { ...b, fileName: 'REC_0009.WAV' })).toBe(false)
    expect(runsOnFrom(part('interview.wav', '14:00:00'), b)).toBe(false)
  })

  it('without a clock only where the first is full', () => {
    const bare = { origin: { date: '', time: '' } }
    expect(runsOnFrom({ ...a, ...bare, bytes: 2 ** 31 - 1000 }, { ...b, ...bare })).toBe(true)
    expect(runsOnFrom({ ...a, ...bare, bytes: 2 ** 32 - 40e6 }, { ...b, ...bare })).toBe(true)
    expect(runsOnFrom({ ...a, ...bare }, { ...b, ...bare })).toBe(false)
  })
})
