import { mkdtempSync, rmSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, expect, test } from 'vitest'
import { besideName } from './deliver'
import { Secrets } from './secrets'

const data = mkdtempSync(join(tmpdir(), 'plain-cut-secrets-'))
afterAll(() => rmSync(data, { recursive: true }))

test('a password comes out as it went in, and cannot be read in what is kept', () => {
  const locked = new Secrets(data).lock('night ferry', 'a')
  expect(locked).not.toContain('night')
  expect(Buffer.from(locked, 'base64').toString('latin1')).not.toContain('night')
  expect(new Secrets(data).unlock(locked, 'a')).toBe('night ferry')
  expect(new Secrets(data).lock('night ferry', 'a')).not.toBe(locked)
})

test('the key can be read by nobody else', () => {
  expect(statSync(join(data, 'secrets.key')).mode & 0o777).toBe(0o600)
})

test('a password of one destination is none of another, nor under another key', () => {
  const locked = new Secrets(data).lock('night ferry', 'a')
  const other = mkdtempSync(join(tmpdir(), 'plain-cut-secrets-'))
  expect(() => new Secrets(data).unlock(locked, 'b')).toThrow('Enter it again')
  expect(() => new Secrets(other).unlock(locked, 'a')).toThrow('Enter it again')
  rmSync(other, { recursive: true })
})

test('a name beside one that is taken counts up', () => {
  expect(['ferry_2026-11-25.wav', 'ferry-v2.wav', 'ferry'].map(besideName)).toEqual(['ferry_2026-11-25-v2.wav', 'ferry-v3.wav', 'ferry-v2'])
})
