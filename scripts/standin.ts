import { join, resolve } from 'node:path'
import { Upload } from 'tus-js-client'
import { LINE_RATE } from '../server/phone/jitter'
import { RATE, toFrames } from '../core/time'
import { configFromEnvironment } from '../server/config'
import { call } from '../server/standins/caller'
import { insertCard, pullCard } from '../server/standins/card'
import { guestRecording } from '../server/standins/guest'
import { Inbox, PASSWORD, USER } from '../server/standins/inbox'
import { openPlayout } from '../server/standins/playout'
import { channelOf } from './channelOf'

/**
 * `npm run standin -- card | phone | guest | playout`: what comes in from outside, played by the demo's tapes, and where
 * files are sent. See docs/stand-ins.md.
 */

const config = configFromEnvironment({ ...process.env, PLAIN_CUT_DATABASE: 'none' })
const tapes = join(import.meta.dirname, '..', 'demo', 'tapes')
const tape = resolve(process.argv[3] ?? join(tapes, 'call-council-2.flac'))

switch (process.argv[2]) {
  case 'card': {
    const card = insertCard(config.cards, 'FIELD-7', new Date().toISOString().slice(0, 10), [
      { source: join(tapes, 'tape-043.mp3'), time: '14:05:00', to: 40 },
      { source: join(tapes, 'tape-043.mp3'), time: '14:05:40', from: 40 },
      { source: join(tapes, 'quay-at-night.ogg'), time: '22:31:10' },
    ])
    console.log(`The card FIELD-7 is in (${card}). Ctrl-C pulls it out.`)
    process.on('SIGINT', () => {
      pullCard(card)
      process.exit(0)
    })
    setInterval(() => undefined, 1 << 30)
    break
  }
  case 'phone': {
    console.log('Calling the newsroom …')
    const end = await call(
      config.phone,
      { name: 'Council office', near: channelOf(tape, 0, LINE_RATE), far: channelOf(tape, 1, LINE_RATE), loss: 0.01, jitter: 60, seed: 4 },
      () => console.log('Answered. Both sides are on the line.'),
    )
    console.log({ sent: 'The call is over: the caller hung up.', hungUp: 'The newsroom hung up.', refused: 'Nobody took the call.' }[end])
    break
  }
  case 'guest': {
    const [later, ppm] = [3.7, -41]
    const file = guestRecording(channelOf(tape, 1, RATE), { later: toFrames(later), ppm })
    await new Promise<void>((done, fail) => {
      new Upload(file, {
        endpoint: `http://localhost:${config.port}/api/uploads`,
        metadata: { filename: 'Guest, own recording.wav' },
        uploadSize: file.length,
        onSuccess: () => done(),
        onError: fail,
      }).start()
    })
    console.log(`The guest's own recording is in: it began ${later} s after the newsroom's, by a clock that ran ${Math.abs(ppm)} ppm fast.`)
    break
  }
  case 'playout': {
    const inbox = new Inbox(join(config.data, 'playout'), ({ by, name, bytes, sha256 }) =>
      console.log(
        [new Date().toLocaleTimeString('en-GB'), name, `${bytes.toLocaleString('en')} bytes`, by, `SHA-256 ${sha256.slice(0, 12)}…`].join(
          '  ',
        ),
      ),
    )
    const { addresses } = await openPlayout(inbox, [4180, 4181, 4182])
    console.log(`A stand-in for a playout system is open. Its user is “${USER}”, its password “${PASSWORD}”.`)
    for (const [kind, address] of Object.entries(addresses)) console.log(`  ${kind.padEnd(7)} ${address}`)
    console.log('What arrives is listed here. Ctrl-C closes it.')
    break
  }
  default:
    console.error('Say which: npm run standin -- card | phone | guest | playout')
    process.exit(1)
}
