import { spawnSync } from 'node:child_process'
import { existsSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, it } from 'vitest'
import { endLeftOvers, ownFolder } from './leftOvers'

it('removes what a killed run left, and nothing of one that lives', () => {
  const mine = ownFolder('tried')
  const left = ownFolder('tried')
  const { pid } = spawnSync('true')
  writeFileSync(join(left, 'owner.pid'), String(pid))
  endLeftOvers('tried')
  expect([existsSync(mine), existsSync(left)]).toEqual([true, false])
  rmSync(mine, { recursive: true })
})
