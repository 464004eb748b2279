import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { speak } from '../demo/speech'
import { requirePackages } from '../scripts/machine'
import { mended, type MendStep } from '../core/mend/chain'
import { curveBetween, thirdsOf } from '../core/mend/curve'
import { withoutClicks } from '../core/mend/clicks'
import { heldAt } from '../core/mend/evened'
import { learnNoise } from '../core/mend/noise'
import { BEFORE_END, BEHIND_END, resonancesOf } from '../core/mend/resonances'
import { random } from '../core/sound/random'
import '../server/renditions/network'
import { planOf, type TapeFacts } from '../core/render/plan'
import { renderer } from '../core/render/render'
import { RATE, toFrames, type Frames, type Stretch } from '../core/time'
import { festivalSays, FESTIVAL_VOICES } from './festival'
import { percentile, report } from './figure'
import { hourOfMending } from './mendHour'
import { best, byFfmpeg, bySox, type Setting } from './mendPeers'
import { changed, clarity, kurtosis, logDistance, loudnessOf, sdrAt, levelOfDifference, thirdsApart } from './mendScores'
import {
  cleanSpeech,
  clicked,
  clipped,
  dBOf,
  humming,
  NOISES,
  noisy,
  pausesOf,
  popped,
  powerOfStretches,
  ranging,
  ringing,
  roomy,
} from './mendSounds'
import type { Clean, NoiseName } from './mendSounds'
import { VOICES } from './spoken'
import type { Say } from './tidyTape'

/**
 * What mending does, on speech of which the clean truth is known: five voices of flite and festival; noises, rooms and clicks of
 * seeds that nothing was tuned on. Each peer stands at its best setting over a grid, on the same sound.
 */

requirePackages('flite', 'festival', 'festvox-kallpc16k', 'festvox-us-slt-hts', 'sox')
const SEED = 4200
const SECONDS = 16
const SAYS: readonly Say[] = [
  ...VOICES.map(
    (voice): Say =>
      (text) =>
        speak(voice, text),
  ),
  ...FESTIVAL_VOICES.map((voice) => festivalSays(voice)),
]
const speech = (k: number, seconds = SECONDS): Clean => cleanSpeech(SAYS[k % SAYS.length], seconds, SEED + k)
const readOf = (sound: Float32Array) => (from: Frames, to: Frames) => sound.slice(from, to)
const through = (sound: Float32Array, ...steps: MendStep[]) => mended(readOf(sound), steps, 0, sound.length, sound.length)
const mean = (values: readonly number[]) => values.reduce((sum, one) => sum + one, 0) / values.length
const figure = (name: string, value: number, unit: string) => report({ measure: 'mend', name, value, unit })
const wanted = process.argv.slice(3)
const part = (name: string, measure: () => void) => {
  if (!wanted.length || wanted.includes(name)) measure()
}

/** What is learnt from: the first two seconds, in which nobody speaks. */
const QUIET = { from: toFrames(0.1), to: toFrames(1.9) }
const learnt = (sound: Float32Array) => learnNoise(Float64Array.from(sound.subarray(QUIET.from, QUIET.to)))

part('noise', () => {
  /** Settings of peers that take 11 to 13 dB of noise; where none does, the nearest one. */
  const AFFTDN = [8, 10, 12, 15, 20].flatMap((nr) =>
    [-60, -55, -50, -45, -40, -35, -30, -25, -20].flatMap((nf) => [0, 1].map((tn): Setting => `afftdn=nr=${nr}:nf=${nf}:tn=${tn}`)),
  )
  const NOISERED = [0.002, 0.004, 0.006, 0.01, 0.015, 0.02, 0.03, 0.04, 0.06, 0.08, 0.1, 0.13, 0.16, 0.2, 0.3].map(String)
  const rows = (Object.keys(NOISES) as NoiseName[]).flatMap((name, n) =>
    [10, 15, 20].map((snr, s) => {
      const clean = speech(3 * n + s)
      const noise = NOISES[name](clean.sound.length, random(SEED + 100 + 3 * n + s))
      const sound = noisy(clean, noise, snr)
      const pauses = pausesOf(clean)
      const less = (made: Float32Array) => dBOf(powerOfStretches(sound, pauses)) - dBOf(powerOfStretches(made, pauses))
      const distance = (made: Float32Array) => logDistance(made, clean.sound, clean.speech)
      // a street is followed, what stays the same is learnt
      const ours = through(sound, name === 'a street' ? { kind: 'noise', dB: 12 } : { kind: 'noise', dB: 12, learnt: learnt(sound) })
      const afftdn = best(AFFTDN, (setting) => byFfmpeg(sound, setting, 1200), less, distance)
      const noisered = best(NOISERED, (amount) => bySox(sound, QUIET, Number(amount)), less, distance)
      const row = { ours: distance(ours), less: less(ours), chirp: kurtosis(ours, pauses) / kurtosis(sound, pauses), afftdn, noisered }
      console.log(`# ${name} at ${snr} dB: untreated ${distance(sound).toFixed(2)} ${JSON.stringify(row)}`)
      return row
    }),
  )
  const vs = (peer: 'afftdn' | 'noisered', name: string, words: string) => {
    const [value, peerValue] = [mean(rows.map(({ ours }) => ours)), mean(rows.map((row) => row[peer].distance))]
    report({ measure: 'mend', name, value, unit: 'dB log-spectral distance', peer: words, peerValue, ratio: value / peerValue })
  }
  vs('afftdn', 'mend.noise.vs', 'ffmpeg afftdn, its best of 90 settings')
  vs('noisered', 'mend.noise.vs.sox', 'sox noisered, its best of 15 settings')
  figure('mend.noise.less', mean(rows.map(({ less }) => less)), 'dB less noise in pauses')
  figure('mend.noise.chirp', Math.max(...rows.map(({ chirp }) => chirp)), 'kurtosis ratio, the worst')
})

part('moving', () => {
  const rows = [10, 15, 20].map((snr, s) => {
    const clean = speech(90 + s)
    const next = random(SEED + 950 + s)
    const sound = noisy(clean, NOISES['a street'](clean.sound.length, next), snr)
    const distance = (step: MendStep) => logDistance(through(sound, step), clean.sound, clean.speech)
    const pauses = pausesOf(clean)
    return {
      network: distance({ kind: 'movingNoise', blend: 0.8 }),
      followed: distance({ kind: 'noise', dB: 12 }),
      untreated: logDistance(sound, clean.sound, clean.speech),
      less: dBOf(powerOfStretches(sound, pauses)) - dBOf(powerOfStretches(through(sound, { kind: 'movingNoise', blend: 0.8 }), pauses)),
    }
  })
  console.log(`# a street at 10, 15, 20 dB: ${JSON.stringify(rows)}`)
  figure(
    'mend.moving',
    mean(rows.map(({ network, followed }) => network / followed)),
    'of the distance that noise leaves which is followed',
  )
  figure('mend.moving.less', mean(rows.map(({ less }) => less)), 'dB less noise in pauses, network at a blend of 80 %')
})

part('hum', () => {
  const rows = SAYS.map((_, k) => {
    const clean = speech(k)
    const tones = humming(clean, random(SEED + 200 + k), 15)
    const sound = clean.sound.map((x, i) => x + tones[i])
    const made = through(sound, { kind: 'hum', mains: 50, harmonics: 10 })
    // the run is linear in what it takes away: hum that is left is told in pauses, by its own bins
    const left = levelOfDifference(made, clean.sound, pausesOf(clean))
    const before = levelOfDifference(sound, clean.sound, pausesOf(clean))
    const alone = through(clean.sound, { kind: 'hum', mains: 50, harmonics: 10 })
    return { down: before - left, speech: changed(made, clean.sound, clean.speech), untouched: changed(alone, clean.sound, clean.speech) }
  })
  figure('mend.hum', Math.min(...rows.map(({ down }) => down)), 'dB less hum, the least of five voices')
  figure('mend.hum.speech', Math.max(...rows.map(({ speech: by }) => by)), 'dB of the speech: what differs from it, the most')
  figure('mend.hum.untouched', Math.max(...rows.map(({ untouched }) => untouched)), 'dB of the speech, where there was no hum')
})

part('click', () => {
  let [hits, misses, wrong] = [0, 0, 0]
  const rows = SAYS.map((_, k) => {
    const clean = speech(20 + k)
    const base = k % 2 ? noisy(clean, NOISES.pink(clean.sound.length, random(SEED + 300 + k)), 25) : clean.sound
    const { sound, spots } = clicked(base, random(SEED + 310 + k))
    const run = Float64Array.from(sound)
    const found = withoutClicks({ kind: 'clicks', over: 26 }, run)
    const near = (a: { from: Frames; to: Frames }, b: { from: Frames; to: Frames }) => a.from < b.to + 24 && a.to > b.from - 24
    hits += spots.filter((spot) => found.some((one) => near(one, spot))).length
    misses += spots.filter((spot) => !found.some((one) => near(one, spot))).length
    wrong += found.filter((one) => !spots.some((spot) => near(one, spot))).length
    const made = through(sound, { kind: 'clicks', over: 26 })
    const theirs = Math.max(
      ...[2, 3, 5, 10].flatMap((threshold) =>
        [2, 4].map((order) => sdrAt(byFfmpeg(sound, `adeclick=threshold=${threshold}:arorder=${order}`), base, spots)),
      ),
    )
    return { ours: sdrAt(made, base, spots), theirs }
  })
  figure('mend.click', (2 * hits) / (2 * hits + misses + wrong), 'F1')
  const [ours, theirs] = [mean(rows.map((row) => row.ours)), mean(rows.map((row) => row.theirs))]
  report({
    measure: 'mend',
    name: 'mend.click.vs',
    value: ours - theirs,
    unit: 'dB more signal to distortion at the clicks',
    peer: 'ffmpeg adeclick, its best of 8 settings',
    peerValue: theirs,
  })
})

part('clip', () => {
  const rows = [0.05, 0.1, 0.2].map((share, k) => {
    const clean = speech(30 + k)
    const { sound, truth, spots, at } = clipped(clean, share)
    const made = through(sound, { kind: 'clipping', at })
    const theirs = Math.max(
      ...['adeclip', 'adeclip=arorder=4', 'adeclip=method=s'].map((filter) => sdrAt(byFfmpeg(sound, filter), truth, spots, 0)),
    )
    return { ours: sdrAt(made, truth, spots, 0), theirs, before: sdrAt(sound, truth, spots, 0) }
  })
  console.log(`# clipped by 5, 10, 20 %: ${JSON.stringify(rows)}`)
  report({
    measure: 'mend',
    name: 'mend.clip.vs',
    value: Math.min(...rows.map(({ ours, theirs }) => ours - theirs)),
    unit: 'dB more signal to distortion where it was clipped, the least of three',
    peer: 'ffmpeg adeclip, its best of 3 settings',
    peerValue: mean(rows.map(({ theirs }) => theirs)),
  })
})

part('pop', () => {
  const rows = SAYS.map((_, k) => {
    const clean = speech(40 + k)
    const { sound, spots } = popped(clean, random(SEED + 400 + k))
    const made = through(sound, { kind: 'pops', over: 12 })
    return {
      less: dBOf(spectrumPower(sound, spots)) - dBOf(spectrumPower(made, spots)),
      else: elsewhere(made, sound, spots),
    }
  })
  figure('mend.pop', mean(rows.map(({ less }) => less)), 'dB less below 120 Hz at the pops')
  figure('mend.pop.else', Math.max(...rows.map((row) => row.else)), 'dB changed elsewhere, the most')
})

part('room', () => {
  const rows = [0.4, 0.6, 0.8].map((seconds, k) => {
    const clean = speech(50 + k)
    const { early, late, sound } = roomy(clean, seconds, SEED + 500 + k)
    const made = through(sound, { kind: 'reverberation', seconds })
    return {
      clearer: clarity(made, early, late) - clarity(sound, early, late),
      distance: logDistance(made, early, clean.speech) / logDistance(sound, early, clean.speech),
    }
  })
  console.log(`# rooms of 0.4, 0.6, 0.8 s: ${JSON.stringify(rows)}`)
  figure('mend.room', Math.min(...rows.map(({ clearer }) => clearer)), 'dB better clarity (C50), the least of three rooms')
  figure('mend.room.distance', Math.max(...rows.map(({ distance }) => distance)), 'of the log-spectral distance untreated, the most')
})

part('rings', () => {
  const endingsOf = (sound: Float32Array, pauses: readonly Stretch[]) =>
    pauses
      .filter(({ from, to }) => from >= BEFORE_END && to - from >= BEHIND_END)
      .map(({ from }) => Float64Array.from(sound.subarray(from - BEFORE_END, from + BEHIND_END)))
  const rows = Array.from({ length: 2 * SAYS.length }, (_, k) => {
    const clean = speech(80 + k, 60)
    const next = random(SEED + 800 + k)
    const pauses = pausesOf(clean)
    const tones = [80, 220].map((from) => ({ hertz: from * 2 ** (next() * 1.2), seconds: 0.5 + 0.5 * next(), gain: 3 + 2 * next() }))
    const sound = noisy({ ...clean, sound: ringing(clean.sound, tones) }, NOISES.pink(clean.sound.length, next), 40)
    const found = resonancesOf(endingsOf(sound, pauses))
    const right = tones.filter(({ hertz }) => found.some((dip) => Math.abs(dip.hertz / hertz - 1) < 0.04)).length
    return {
      endings: endingsOf(sound, pauses).length,
      right,
      found: found.length,
      dry: resonancesOf(endingsOf(clean.sound, pauses)).length,
    }
  })
  console.log(`# two tones a room: ${JSON.stringify(rows)}`)
  const sum = (of: (row: (typeof rows)[number]) => number) => rows.reduce((total, row) => total + of(row), 0)
  figure(
    'mend.rings',
    (2 * sum(({ right }) => right)) / (2 * rows.length + sum(({ found }) => found)),
    'F1 of the tones at which a room rings',
  )
  figure('mend.rings.dry', sum(({ dry }) => dry) / rows.length, 'tones found a tape where there is no room')
})

part('level', () => {
  const rows = SAYS.map((_, k) => {
    const clean = speech(60 + k, 40)
    const sound = ranging(clean, random(SEED + 600 + k))
    const levels = (x: Float32Array) => clean.speech.map((stretch) => dBOf(powerOfStretches(x, [stretch])))
    const spread = (values: number[]) => Math.sqrt(mean(values.map((one) => (one - mean(values)) ** 2)))
    const set = { ratio: 4, least: -50 }
    const made = through(sound, { kind: 'level', average: heldAt([Float64Array.from(sound)], set), ...set, passes: 2 })
    return { spread: spread(levels(made)) / spread(levels(sound)), moved: Math.abs(loudnessOf(made) - loudnessOf(sound)) }
  })
  figure('mend.level.spread', Math.max(...rows.map(({ spread }) => spread)), 'of the spread of phrase levels, the most')
  figure('mend.level.average', Math.max(...rows.map(({ moved }) => moved)), 'LU that the average moved, the most')
})

part('match', () => {
  const rows = SAYS.map((_, k) => {
    const clean = speech(70 + k)
    // the second half was recorded farther away: softer, with less low and high end
    const half = clean.sound.length / 2
    const near = clean.sound.slice(0, half)
    const far = through(
      clean.sound.slice(half),
      { kind: 'lowShelf', hertz: 250, dB: -7 },
      { kind: 'highShelf', hertz: 4000, dB: -6 },
      { kind: 'gain', dB: -5 },
    )
    const curve = curveBetween(thirdsOf(Float64Array.from(far)), thirdsOf(Float64Array.from(near)))
    return thirdsApart(through(far, curve), near)
  })
  figure('mend.match', Math.max(...rows), 'dB between third octaves, the mean of each voice, the most')
})

part('same', () => {
  const clean = speech(80)
  const sound = noisy(clean, NOISES['a street'](clean.sound.length, random(SEED)), 15)
  const steps: MendStep[] = [
    { kind: 'clipping', at: -3 },
    { kind: 'clicks', over: 26 },
    { kind: 'pops', over: 12 },
    { kind: 'lowCut', hertz: 80, slope: 12 },
    { kind: 'hum', mains: 50, harmonics: 8 },
    { kind: 'noise', dB: 12, learnt: learnt(sound) },
    { kind: 'noise', dB: 4 },
    { kind: 'movingNoise', blend: 0.5 },
    { kind: 'deEsser', hertz: 6500, dB: 6, from: -40 },
    { kind: 'expander', dB: 6, from: -45 },
    { kind: 'level', average: -26, ratio: 3, least: -45, passes: 2 },
    { kind: 'curve', thirds: Array.from({ length: 25 }, (_, i) => Math.sin(i)) },
    { kind: 'gain', dB: 2 },
  ]
  const applied = through(sound, ...steps)
  const facts: TapeFacts = {
    id: 'tape',
    frames: sound.length,
    sides: [{ name: '', channels: [0], trying: { steps } }],
    tone: { sound: 'tape', quiet: [] },
  }
  const plan = planOf([{ tape: 'tape', from: 0, to: sound.length, sound: 'tape' }], () => facts)
  const next = random(SEED + 700)
  let same = 0
  for (let i = 0; i < 50; i++) {
    const from = Math.floor(next() * (sound.length - 9000))
    const out = [new Float32Array(1 + Math.floor(next() * 9000))]
    renderer(plan, (_, __, a, b) => sound.subarray(a, b)).pull(from, out)
    if (out[0].every((value, k) => Object.is(value, applied[from + k]))) same++
  }
  figure('mend.same', same, 'of 50 stretches, tried and applied, bit for bit')
  // one figure is turned while a place plays: the cell there is made anew
  const three = steps.filter(({ kind }) => ['lowCut', 'hum', 'noise'].includes(kind)).slice(0, 3)
  const turning = (turn: (step: MendStep, i: number) => MendStep) =>
    Array.from({ length: 20 }, (_, i) => {
      const turned = three.map((step) => turn(step, i))
      const one: TapeFacts = { ...facts, sides: [{ name: '', channels: [0], trying: { steps: turned } }] }
      const started = performance.now()
      renderer(
        planOf([{ tape: 'tape', from: 0, to: sound.length, sound: 'tape' }], () => one),
        (_, __, a, b) => sound.subarray(a, b),
      ).pull(5 * RATE, [new Float32Array(2048)])
      return performance.now() - started
    })
  const byNoise = turning((step, i) => (step.kind === 'noise' ? { ...step, dB: 6 + i * 0.5 } : step))
  const byCut = turning((step, i) => (step.kind === 'lowCut' ? { ...step, hertz: 60 + 2 * i } : step))
  figure('mend.turn', percentile(byNoise, 0.95), 'ms until turned dB of noise, behind low cut and hum, are worked out, p95')
  figure('mend.turn.median', percentile(byNoise, 0.5), 'ms of the same, median')
  figure('mend.turn.first', percentile(byCut, 0.5), 'ms until a turned low cut, with hum and noise behind it, is worked out, median')
})

if (!wanted.length || wanted.includes('hour')) {
  const folder = mkdtempSync(join(tmpdir(), 'measure-mend-hour-'))
  const clean = speech(90)
  const sound = noisy(clean, NOISES.white(clean.sound.length, random(SEED + 900)), 20)
  const { seconds, memory } = await hourOfMending(folder, sound, [
    { kind: 'clicks', over: 26 },
    { kind: 'lowCut', hertz: 80, slope: 12 },
    { kind: 'hum', mains: 50, harmonics: 10 },
    { kind: 'noise', dB: 12, learnt: learnt(sound) },
    { kind: 'level', average: -26, ratio: 3, least: -45, passes: 2 },
  ])
  figure('mend.hour', seconds, 's for low cut, hum, noise, clicks and level on an hour')
  figure('mend.hour.memory', memory, 'MB more at its end than after a tenth of it')
  rmSync(folder, { recursive: true, force: true })
}

/** Power below 120 Hz over stretches. */
function spectrumPower(sound: Float32Array, stretches: readonly { from: Frames; to: Frames }[]): number {
  const low = through(sound, { kind: 'highCut', hertz: 90, slope: 24 })
  return powerOfStretches(low, stretches)
}

/** By how many dB the level differs outside of stretches, at its most, over tenths of a second in which there is sound. */
function elsewhere(made: Float32Array, sound: Float32Array, spots: readonly { from: Frames; to: Frames }[]): number {
  const step = RATE / 10
  let most = 0
  for (let from = 0; from + step <= sound.length; from += step) {
    if (spots.some((spot) => from < spot.to + 4800 && from + step > spot.from - 4800)) continue
    const [a, b] = [powerOfStretches(made, [{ from, to: from + step }]), powerOfStretches(sound, [{ from, to: from + step }])]
    most = Math.max(most, Math.abs(dBOf(a) - dBOf(b)))
  }
  return most
}
