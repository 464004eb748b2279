import { spawnSync } from 'node:child_process'
import { mkdirSync, rmSync } from 'node:fs'
import { join } from 'node:path'

/**
 * A stand-in for a recorder's card: a folder that appears where cards do, named and filled as a field
 * recorder would fill it. The files are real WAV files with a `bext` chunk (EBU Tech 3285).
 */
export interface CardSound {
  source: string
  /** The time of day at which it began: `14:05:00`. */
  time: string
  /** Seconds of the source, where only a part of it is on the card. */
  from?: number
  to?: number
}

/** Puts a card in; gives its folder. */
export function insertCard(cards: string, name: string, day: string, sounds: readonly CardSound[]): string {
  const card = join(cards, name)
  // made beside and moved in, so that it appears as a card does: all at once
  const making = join(cards, `.${name}`)
  const folder = join(making, 'RECORD', day.replaceAll('-', '').slice(2))
  mkdirSync(folder, { recursive: true })
  sounds.forEach(({ source, time, from, to }, i) => {
    const part = [...(from === undefined ? [] : ['-ss', String(from)]), ...(to === undefined ? [] : ['-to', String(to)])]
    const noted = [
      '-metadata',
      'originator=Field recorder',
      '-metadata',
      `origination_date=${day}`,
      '-metadata',
      `origination_time=${time}`,
    ]
    const { status, stderr } = spawnSync(
      'ffmpeg',
      [
        '-v',
        'error',
        '-y',
        ...part,
        '-i',
        source,
        '-c:a',
        'pcm_s24le',
        '-write_bext',
        '1',
        ...noted,
        join(folder, `REC_${String(i + 1).padStart(4, '0')}.WAV`),
      ],
      { encoding: 'utf8' },
    )
    if (status !== 0) throw new Error(stderr)
  })
  spawnSync('mv', [making, card])
  return card
}

/** Pulls it out. */
export const pullCard = (card: string): void => rmSync(card, { recursive: true, force: true })
