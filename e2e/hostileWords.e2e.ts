import { Document, Packer, Paragraph } from 'docx'
import { beforeAll, describe, expect, it } from 'vitest'
import type { TapeInfo } from '../contract/tapes'
import { here } from './here'
import { api, bring } from './newsroom'
import { makeWav } from './wav'

/** Files of words that are broken, that lie, or that mean harm: each is read or refused in a plain sentence, and the server goes on. */

let tape: TapeInfo
beforeAll(async () => {
  tape = await bring('a tape for words.wav', makeWav(3))
})

const text = (value: string) => Buffer.from(value)
const word = (...lines: string[]) => Packer.toBuffer(new Document({ sections: [{ children: lines.map((line) => new Paragraph(line)) }] }))
const cue = (body: string) => text(`WEBVTT\n\n00:00:00.000 --> 00:00:02.000\n${body}\n`)
const utf16 = (value: string, swapped = false) => {
  const bytes = Buffer.from(`\ufeff${value}`, 'utf16le')
  return swapped ? bytes.swap16() : bytes
}

/** A ZIP archive whose table of contents says that one file in it unpacks to so many bytes. */
function archiveOf(size: number): Buffer {
  const name = Buffer.from('word/document.xml')
  const entry = Buffer.alloc(46)
  entry.writeUInt32LE(0x02014b50, 0)
  entry.writeUInt32LE(size, 24)
  entry.writeUInt16LE(name.length, 28)
  const end = Buffer.alloc(22)
  end.writeUInt32LE(0x06054b50, 0)
  end.writeUInt16LE(1, 10)
  end.writeUInt32LE(entry.length + name.length, 12)
  return Buffer.concat([entry, name, end])
}

type Ending = 'read' | 'refused'
const cases: [what: string, name: string, file: () => Buffer | Promise<Buffer>, ending: Ending][] = [
  ['plain text', 'a.txt', () => text('Nobody told us'), 'read'],
  ['text of UTF-16, low byte first', 'a.txt', () => utf16('Nobody told us'), 'read'],
  ['text of UTF-16, high byte first', 'a.txt', () => utf16('Nobody told us', true), 'read'],
  ['text of UTF-8 with its mark', 'a.txt', () => text('\ufeffNobody told us'), 'read'],
  ['text of an old Windows', 'a.txt', () => Buffer.from('F\xe4hre \x84eins\x93', 'latin1'), 'read'],
  ['half a file of UTF-16', 'a.txt', () => utf16('Nobody told us').subarray(0, 2), 'refused'],
  ['zero characters', 'a.txt', () => text('Nobody\u0000 told us'), 'refused'],
  ['half a pair of units', 'a.json', () => text('{"words":[{"start":0,"end":1,"text":"\\ud83d"}]}'), 'refused'],
  ['nothing', 'a.txt', () => Buffer.alloc(0), 'refused'],
  ['spaces', 'a.txt', () => text(' \n\t\n '), 'refused'],
  ['19 MB of text', 'a.txt', () => text('ferry '.repeat(3_200_000)), 'refused'],
  ['one word of 5 MB', 'a.txt', () => text('f'.repeat(5_000_000)), 'refused'],
  ['a cue of nothing but <', 'a.vtt', () => cue('<'.repeat(400_000)), 'refused'],
  ['a text of nothing but (', 'a.txt', () => text('('.repeat(400_000)), 'refused'],
  ['a cue of marks that never end', 'a.vtt', () => cue(`${'<v '.repeat(50_000)}Nobody told us`), 'read'],
  ['cues that run backwards', 'a.vtt', () => text('WEBVTT\n\n00:00:02.000 --> 00:00:01.000\nNobody told us\n'), 'read'],
  ['cues beyond the tape', 'a.srt', () => text('1\n05:00:00,000 --> 05:00:02,000\nNobody told us\n'), 'refused'],
  ['cues with impossible times', 'a.srt', () => text('1\n00:99:99,999 --> 99:99:99,999\nNobody told us\n'), 'refused'],
  ['JSON that ends too soon', 'a.json', () => text('{"words":[{"start":0,'), 'refused'],
  ['JSON that is no list', 'a.json', () => text('{"a":1}'), 'refused'],
  ['JSON that is very deep', 'a.json', () => text(`${'['.repeat(200_000)}${']'.repeat(200_000)}`), 'refused'],
  ['JSON with a prototype', 'a.json', () => text('{"__proto__":{"words":1},"words":[{"start":0,"end":1,"text":"Nobody"}]}'), 'read'],
  ['JSON with times beyond reason', 'a.json', () => text('[{"start":1e300,"end":2e300,"text":"Nobody"}]'), 'refused'],
  ['a Word file', 'a.docx', () => word('Piet Aldous: Nobody told us'), 'read'],
  ['a Word file that unpacks to 400 MB', 'a.docx', () => archiveOf(400_000_000), 'refused'],
  ['a Word file that is text', 'a.docx', () => text('Nobody told us'), 'refused'],
  ['half a Word file', 'a.docx', async () => (await word('Nobody told us')).subarray(0, 900), 'refused'],
  ['a picture named .txt', 'a.txt', () => Buffer.from('89504e470d0a1a0a0000000d49484452', 'hex'), 'refused'],
]

describe('a file of words that is', () => {
  it.each(cases)('%s', { timeout: 60_000 }, async (_what, name, file, ending) => {
    const answer = await fetch(`${here.address}/api/bringings/${tape.id}?name=${name}&author=${crypto.randomUUID()}`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/octet-stream' },
      body: new Uint8Array(await file()),
    })
    const said = (await answer.json()) as { detail?: string }
    expect({ status: answer.status, said }).toMatchObject({ status: ending === 'read' ? 202 : 422 })
    if (ending === 'refused') expect(said.detail).toMatch(/^[A-Z][^\n{}\\]{5,120}[.?]( Is it .*\?)?$/)
    // others are served meanwhile, and after
    expect((await api<TapeInfo>(`/tapes/${tape.id}`)).state).toBe('ready')
    await fetch(`${here.address}/api/bringings/${tape.id}`, { method: 'DELETE' })
  })
})
