import { openDB } from 'idb'
import type { Play } from '../../contract/boards'
import { post, Refused } from '../api/client'

/** What was played live, kept in the browser's own storage until the server has it: it is logged without one too. */

const AGAIN_MS = 5000

const store = openDB('plain-cut-plays', 1, { upgrade: (database) => void database.createObjectStore('plays', { keyPath: 'id' }) })

let sending = false
let again: ReturnType<typeof setTimeout> | undefined

export async function logPlay(play: Play): Promise<void> {
  await (await store).put('plays', play)
  void sendPlays()
}

/** Those that wait, the newest first. */
export const waitingPlays = async (board: string): Promise<Play[]> =>
  ((await (await store).getAll('plays')) as Play[]).filter((play) => play.board === board).sort((a, b) => (a.at < b.at ? 1 : -1))

/** Sends what waits, as often as it takes. */
export async function sendPlays(): Promise<void> {
  if (sending) return
  sending = true
  clearTimeout(again)
  try {
    const database = await store
    const plays = ((await database.getAll('plays')) as Play[]).slice(0, 200)
    if (!plays.length) return
    await post('/boards/plays', plays)
    for (const { id } of plays) await database.delete('plays', id)
    if ((await database.count('plays')) > 0) again = setTimeout(() => void sendPlays())
  } catch (error) {
    // one that is no play would keep all others back for ever
    if (!(error instanceof Refused && error.status === 400)) again = setTimeout(() => void sendPlays(), AGAIN_MS)
  } finally {
    sending = false
  }
}
