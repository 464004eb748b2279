import { createHash, randomUUID } from 'node:crypto'
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, test } from 'vitest'
import type { Packed } from '../contract/storyFiles'
import { newStory } from '../core/page/story'
import { PEAK_LEVELS } from '../core/sound/peaks'
import { NO_ORIGIN } from '../core/sound/waveFile'
import { transcriptOf } from '../core/transcript/transcript'
import { KEPT_PATHS, KNOWN_PATHS } from '../server/keeping/bringBack'
import { pack, type Part } from '../server/keeping/pack'
import { readPacked } from '../server/keeping/restore'
import { openStoryFile, refused } from '../server/keeping/unpack'
import { searchFolder } from '../server/keeping/searchFolder'
import { hostileArchives } from './hostileArchives'

/** A small story file, as it is read back where it is whole, and refused where it is not. */

const FRAMES = 48_000
const folder = mkdtempSync(join(tmpdir(), 'plain-cut-story-'))
afterAll(() => rmSync(folder, { recursive: true }))

const created = '2026-11-25T10:00:00.000Z'
const [story, piece, tape, transcript] = [randomUUID(), randomUUID(), randomUUID(), randomUUID()]
const sound = Buffer.from(new Float32Array(FRAMES).fill(0.25).buffer)
const packed: Packed = {
  story: { id: story, revision: 0, aside: false, created, log: [], body: newStory({ slug: 'The night ferry' }, { id: randomUUID() }) },
  pieces: [
    {
      id: piece,
      revision: 0,
      aside: false,
      created,
      log: [],
      body: {
        kind: 'actuality',
        slug: 'No boat till six',
        speaker: '',
        role: '',
        story,
        head: 0,
        tail: 0,
        spans: [{ tape, from: 0, to: FRAMES, sound: 'tape' }],
      },
    },
  ],
  tapes: [
    {
      document: {
        id: tape,
        revision: 0,
        aside: false,
        created,
        log: [],
        body: {
          kind: 'tape',
          records: {
            tape: {
              id: 'tape',
              kind: 'tape',
              name: 'Quay',
              speaker: '',
              role: '',
              day: '',
              tags: [],
              stories: [],
              sides: [{ name: '', channels: [0] }],
            },
          },
        },
      },
      transcript: { id: transcript, revision: 0, aside: false, created, log: [], body: transcriptOf([]) },
      known: {
        channels: 1,
        frames: FRAMES,
        fileName: 'quay.wav',
        bytes: sound.length,
        sha256: createHash('sha256').update(sound).digest('hex'),
        format: 'WAV',
        tone: { made: false, quiet: [] },
        findings: [],
        origin: NO_ORIGIN,
        figures: null,
        added: created,
      },
      renditions: [],
      original: `tapes/${tape}/original.flac`,
    },
  ],
}

let archive: Buffer
beforeAll(async () => {
  const stored = join(folder, 'sound')
  writeFileSync(stored, sound)
  const at = (name: string): Part => ({ path: `tapes/${tape}/sound/${name}`, content: { file: stored } })
  const parts: Part[] = [
    { path: 'README.txt', content: { text: 'The night ferry' } },
    { path: 'documents.json', content: { text: JSON.stringify(packed) } },
    { path: 'receipts.json', content: { text: '[]' } },
    { path: `tapes/${tape}/original.flac`, content: { file: stored } },
    { path: `words/${tape}.txt`, content: { text: 'Quay\n\n0:01.2  Piet: No boat till six.\n' } },
    at('sound-0.f32'),
    at('loudness-0.f32'),
    ...PEAK_LEVELS.map((_level, i) => at(`peaks-0-${i}.i16`)),
  ]
  const path = join(folder, 'story.zip')
  await pack(path, { story, slug: 'The night ferry' }, parts, () => undefined, new AbortController().signal)
  archive = readFileSync(path)
})

let count = 0
/** Reads all of it, as bringing back does before it keeps anything. */
async function read(content: Buffer): Promise<Packed> {
  const into = join(folder, String(count++))
  mkdirSync(into)
  const path = `${into}.zip`
  writeFileSync(path, content)
  const opened = await openStoryFile(path, into, 10 * 2 ** 30)
  try {
    const { packed } = await readPacked(opened)
    for (const { path: name } of opened.manifest.files) {
      if (!KEPT_PATHS.test(name) && !KNOWN_PATHS.test(name)) throw refused(`Nobody knows what “${name}” in it is for.`)
      if (KEPT_PATHS.test(name)) await opened.extract(name, () => undefined)
      else await opened.check(name, () => undefined)
    }
    return packed
  } finally {
    opened.close()
  }
}

test('what is whole is read as it was put in', async () => {
  expect(await read(archive)).toEqual(packed)
})

test('what means harm, or is damaged, is refused in words, and nothing lies outside of its folder', async () => {
  for (const [name, content, about] of await hostileArchives(archive)) {
    const said = await read(content).then(
      () => 'it was taken',
      (error: Error) => error.message,
    )
    expect([name, said]).toEqual([name, expect.stringMatching(about)])
    expect(said).toMatch(/Nothing of it was taken\.$/)
  }
}, 60_000)

test('what is said in it is found where it lies, and what is none is counted', async () => {
  const shelf = join(folder, 'shelf')
  mkdirSync(shelf)
  writeFileSync(join(shelf, 'ferry.zip'), archive)
  writeFileSync(join(shelf, 'broken.zip'), archive.subarray(0, 500))
  const found = await searchFolder(shelf, 'BOAT till')
  expect([found.files, found.unread, found.hits.map(({ tape, text }) => [tape, text])]).toEqual([
    1,
    1,
    [['Quay', '0:01.2  Piet: No boat till six.']],
  ])
  expect((await searchFolder(shelf, 'night ferry')).hits).toMatchObject([{ slug: 'The night ferry', tape: '' }])
  expect((await searchFolder(shelf, 'submarine')).hits).toEqual([])
  await expect(searchFolder(join(folder, 'nowhere'), 'boat')).rejects.toThrow(/no such folder/)
})

test('what does not fit on the disk is refused before any of it is written', async () => {
  const path = join(folder, 'large.zip')
  writeFileSync(path, archive)
  await expect(openStoryFile(path, folder, 1000)).rejects.toThrow(/It needs 0\.0 GB/)
})
