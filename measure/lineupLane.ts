import { writeFileSync } from 'node:fs'
import { speakerIn } from './conversation'
import { apart, hour, SAID, together } from './lineupCases'

/** A process of its own that makes recordings and lines them up, case after case as it is told. */

export type Case = { what: 'speak' | 'together' | 'apart' | 'hour'; folder: string; which: number; path?: string }

const DO = {
  speak: ({ folder, which }: Case) => speakerIn(folder, SAID, which).length,
  together: ({ folder, which }: Case) => together(folder, which),
  apart: ({ folder, which }: Case) => apart(folder, which),
  hour: ({ folder, which, path }: Case) => {
    const sound = hour(folder, which)
    writeFileSync(path!, new Uint8Array(sound.buffer))
    return sound.length
  },
}

process.on('message', (one: Case) => process.send!(DO[one.what](one)))
