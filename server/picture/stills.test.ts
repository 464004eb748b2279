import { mkdirSync, mkdtempSync, readdirSync, rmSync, utimesSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, it, onTestFinished } from 'vitest'
import type { Services } from '../services'
import { MediaStore } from '../media/store'
import { clearStills } from './stills'

it('of still images those go that came long ago and that nothing was sent with', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'plain-cut-stills-'))
  onTestFinished(() => rmSync(folder, { recursive: true }))
  const store = new MediaStore(folder)
  mkdirSync(store.stills)
  const old = new Date(Date.now() - 91 * 86_400_000)
  for (const name of ['new', 'old', 'sent']) writeFileSync(store.still(name), 'an image')
  for (const name of ['old', 'sent']) utimesSync(store.still(name), old, old)
  const database = { query: async () => [{ still: 'sent' }, { still: null }] } as unknown as Services['database']
  await clearStills({ store, database })
  expect(readdirSync(store.stills).sort()).toEqual(['new', 'sent'])
})
