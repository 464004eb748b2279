import { spawnSync } from 'node:child_process'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { plainWords } from '../core/page/anchors'
import { paceFrom, readingTime, type Take } from '../core/page/reading'
import { RATE, toFrames, type Frames } from '../core/time'
import { percentile, report } from './figure'
import { requirePackages } from '../scripts/machine'

/**
 * How near the reading time of a line comes to how long a reader takes for it, where their other lines were learnt from. The
 * readers are four voices of flite at three speeds. No line of these was used to fit the lengths of sounds; three of the voices
 * were, at one of the speeds, with other lines. Beside it, what counting words a minute comes to on the same lines.
 */
requirePackages('flite')

/** Lines of copy as written, and as they are read aloud where that differs: what a voice is given, so that no reading is its own. */
const LINES: readonly (readonly [written: string, read?: string])[] = [
  ["It is twenty to twelve on Brackle's quay, and the night ferry is late again."],
  ['Nobody on the island can remember a winter without it.'],
  [
    'The council says the 23:40 sailing loses £1.2m a year, and that it must go by spring.',
    'The council says the twenty-three forty sailing loses one point two million pounds a year, and that it must go by spring.',
  ],
  [
    'In 2019 it carried 11,400 passengers; last year, fewer than 8,000.',
    'In twenty nineteen it carried eleven thousand four hundred passengers; last year, fewer than eight thousand.',
  ],
  [
    'Dr. Ines Marrow has worked nights at the cottage hospital for 14 years.',
    'Doctor Ines Marrow has worked nights at the cottage hospital for fourteen years.',
  ],
  ['She says she would have to leave: there is no other boat home after her shift.'],
  ['Counting them took Tamsin Roe three nights, a torch, and a great deal of tea.'],
  ['Forty-one people got off; two cars, one van, and a crate of lobsters went the other way.'],
  [
    'Details of the meeting are at bracklecouncil.org/ferry, or by post.',
    'Details of the meeting are at Brackle council dot org slash ferry, or by post.',
  ],
  ['Councillor Piet Aldous told us, quote, nobody will be left standing on a quay.'],
  [
    'But the fish plant, which starts its first shift at 5 a.m., is not so sure.',
    'But the fish plant, which starts its first shift at five a.m., is not so sure.',
  ],
  ['A return ticket costs $18, up 50% since 2021.', 'A return ticket costs eighteen dollars, up fifty percent since twenty twenty one.'],
  [
    'The B.F.U., the union of the ferry crews, will meet on the 3rd of March.',
    'The B. F. U., the union of the ferry crews, will meet on the third of March.',
  ],
  ['What happens to a place when the last light on the water goes out? People here think they know.'],
  ['Wind from the north west, and a sea that looks like slate.'],
  [
    'On the mainland side, 16 km away, the terminal at Sandwick closes its doors at 6:30.',
    'On the mainland side, sixteen kilometres away, the terminal at Sandwick closes its doors at six thirty.',
  ],
  ['The engine idles, the ramp comes down, and then, for a moment, nobody moves.'],
  ['Mrs. Oda Fenn is 82, and she has never missed the regatta.', 'Missus Oda Fenn is eighty two, and she has never missed the regatta.'],
  ['That is what the timetable says; what the people on the quay say is rather different.'],
  [
    'A decision is expected on Thursday, the 14th, after a vote in the council chamber.',
    'A decision is expected on Thursday, the fourteenth, after a vote in the council chamber.',
  ],
  ['Until then the boat runs, every night but Sunday, with its lights on and its heating off.'],
  ['For Island Radio, this is Tamsin Roe, on the quay at Brackle.'],
  [
    'Inspectors found 3 faults in 1998, 7 in 2004, and none at all since.',
    'Inspectors found three faults in nineteen ninety eight, seven in two thousand and four, and none at all since.',
  ],
  ['The company has offered a minibus, a voucher and its regrets.'],
  ['He reads the letter aloud, slowly, twice, as if it might change.'],
  [
    'Some 650 signatures were handed in at the town hall, along with a drawing by the children of class 2B.',
    'Some six hundred and fifty signatures were handed in at the town hall, along with a drawing by the children of class two B.',
  ],
  ['If the sailing goes, the nearest midwife will be an hour and a half away.'],
  ['The numbers are small, the arguments are old, and the tide, as ever, waits for no committee.'],
  [
    'Write to us at night@islandradio.org and tell us what you think.',
    'Write to us at night at island radio dot org and tell us what you think.',
  ],
  ['It was never about money, says the harbour master; it was about being able to get home.'],
]
const VOICES = ['awb', 'kal16', 'rms', 'slt']
const STRETCHES = [0.85, 1, 1.2]
/** Shorter lines are learnt from and not looked at. */
const LEAST: Frames = toFrames(4)
/** What lies below this is no sound of the voice, in 16-bit steps. */
const QUIET = 250

const folder = mkdtempSync(join(tmpdir(), 'readtime-'))

/** How long a voice takes for a text, from its first sound to its last. */
function timeOf(voice: string, stretch: number, text: string): Frames {
  const path = join(folder, 'line.wav')
  spawnSync('flite', ['-voice', voice, '--setf', `duration_stretch=${stretch}`, '-t', text, '-o', path])
  const { stdout } = spawnSync('ffmpeg', ['-v', 'error', '-i', path, '-ar', String(RATE), '-ac', '1', '-f', 's16le', 'pipe:1'], {
    maxBuffer: 2 ** 28,
  })
  const samples = new Int16Array(stdout.buffer.slice(stdout.byteOffset, stdout.byteOffset + (stdout.length & ~1)))
  const sounds = (value: number) => Math.abs(value) > QUIET
  return samples.findLastIndex(sounds) - samples.findIndex(sounds)
}

const [ours, counted]: [number[], number[]] = [[], []]
for (const voice of VOICES)
  for (const stretch of STRETCHES) {
    const takes = LINES.map(([text, read]): Take => ({ text, time: timeOf(voice, stretch, read ?? text) }))
    takes.forEach(({ text, time }, i) => {
      if (time < LEAST) return
      const others = takes.filter((_, k) => k !== i)
      ours.push(Math.abs(readingTime(text, paceFrom(others)!) / time - 1))
      const words = others.reduce((sum, other) => sum + plainWords(other.text).length, 0)
      const each = others.reduce((sum, other) => sum + other.time, 0) / words
      counted.push(Math.abs((plainWords(text).length * each) / time - 1))
    })
  }

const mean = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / values.length
const figure = (name: string, what: (values: readonly number[]) => number, unit: string) =>
  report({ measure: 'readtime', name, value: what(ours), unit, peer: 'words a minute', peerValue: what(counted) })
figure('readtime.mean', mean, `share by which the time of a line is off, of ${ours.length} of 4 s or more`)
figure('readtime.worst', (values) => percentile(values, 0.95), 'its 95th percentile')
