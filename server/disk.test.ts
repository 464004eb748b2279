import { expect, it } from 'vitest'
import { diskFault, isDiskFault, plainReason } from './disk'

it('tells a full disk and one that cannot be written in one plain sentence', () => {
  expect(diskFault(Object.assign(new Error('ENOSPC: no space left on device, write'), { code: 'ENOSPC' }))).toBe('The disk is full.')
  expect(diskFault(new Error("EROFS: read-only file system, open '/srv/media/x'"))).toBe('The disk can’t be written to.')
  expect(isDiskFault({ code: '53100' })).toBe(true)
})

it('names no path, no code and no other program', () => {
  expect(plainReason(new Error("ENOENT: no such file, open '/srv/media/x'"))).toBe('Something went wrong on this machine.')
  expect(isDiskFault(new Error('no sound'))).toBe(false)
  expect(isDiskFault(undefined)).toBe(false)
})
