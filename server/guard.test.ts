import type { Request, Response } from 'express'
import { describe, expect, it } from 'vitest'
import { guard } from './guard'
import { Refusal } from './problem'

const verdict = (headers: Record<string, string>, more: string[] = []) => {
  let passed = false
  try {
    guard(4170, more)({ headers } as unknown as Request, {} as Response, () => (passed = true))
  } catch (error) {
    expect(error).toBeInstanceOf(Refusal)
    return (error as Refusal).status
  }
  return passed
}

describe('the guard', () => {
  it('lets its own addresses in', () => {
    for (const host of ['localhost:4170', '127.0.0.1:4170', '[::1]:4170']) expect(verdict({ host })).toBe(true)
    expect(verdict({ host: 'localhost:4170', origin: 'http://localhost:4170', 'sec-fetch-site': 'same-origin' })).toBe(true)
  })
  it('refuses another host, which a name that was made to point here would send', () => {
    for (const host of ['', 'localhost', 'localhost:80', 'ferry.example:4170', 'localhost:4170.ferry.example'])
      expect(verdict({ host })).toBe(403)
  })
  it('refuses pages from elsewhere', () => {
    for (const origin of ['http://ferry.example', 'null', 'https://localhost:4170', 'http://localhost:4171'])
      expect(verdict({ host: 'localhost:4170', origin })).toBe(403)
    expect(verdict({ host: 'localhost:4170', 'sec-fetch-site': 'cross-site' })).toBe(403)
  })
  it('knows the development server only where it is told of it', () => {
    const headers = { host: 'localhost:5173', origin: 'http://localhost:5173' }
    expect(verdict(headers)).toBe(403)
    expect(verdict(headers, ['http://localhost:5173'])).toBe(true)
  })
})
