import { buffer } from 'node:stream/consumers'
import { expect, it } from 'vitest'
import yauzl from 'yauzl'
import { RATE } from '../core/time'
import { here } from './here'
import { FERRY, soundOf } from './newsroom'
import { readWav } from './wav'

/** Another workshop: it knows the zip alone, and lays the sound out by what the edit list says. */

async function unpacked(zip: Buffer): Promise<Map<string, Buffer>> {
  const opened = await yauzl.fromBufferPromise(zip)
  const files = new Map<string, Buffer>()
  for await (const entry of opened.eachEntry()) files.set(entry.fileName, await buffer(await opened.openReadStreamPromise(entry)))
  return files
}

const frames = (code: string): number => {
  const [h, m, s, pictures, samples] = code.split(/[./]/).map(Number)
  return (h * 3600 + m * 60 + s) * RATE + pictures * 1920 + samples
}

interface Event {
  source: number
  channel: number
  track: number
  from: number
  at: number
  end: number
  fades: { rises: boolean; length: number; quarters: number[] }[]
}

function read(list: string) {
  const rows = list.split('\r\n').map((line) => line.trim().split('\t'))
  const named = (head: string) => rows.filter(([first]) => first === `(${head})`)
  const events: Event[] = []
  for (const [head, ...rest] of rows) {
    if (head === '(Entry)')
      events.push({
        source: Number(rest[3]),
        channel: Number(rest[4]) - 1,
        track: Number(rest[5]),
        from: frames(rest[6]),
        at: frames(rest[7]),
        end: frames(rest[8]),
        fades: [],
      })
    if (head === '(Infade)' || head === '(Outfade)')
      events[events.length - 1].fades.push({ rises: head === '(Infade)', length: frames(rest[0]), quarters: rest.slice(2).map(Number) })
  }
  const files = named('Index').map((row) => decodeURI(/localhost\/([^"]+)"/.exec(row[3])![1]))
  const fader = named('FP').map(([, track, at, dB]) => ({ track: Number(track), at: frames(at), dB: Number(dB) }))
  return { events, files, fader, names: named('Track').map(([, , name]) => name) }
}

const factor = (dB: number) => 10 ** (dB / 20)

/** Straight between what the list says of a fade at its quarters. */
function faded(quarters: readonly number[], t: number, rises: boolean): number {
  const levels = [rises ? 0 : 1, ...quarters.map(factor), rises ? 1 : 0]
  const place = Math.min(3.999, Math.max(0, 4 * t))
  const step = Math.floor(place)
  return levels[step] + (levels[step + 1] - levels[step]) * (place - step)
}

it('another workshop goes on from the edit list and its sound: what it lays out is what is sent', async () => {
  const response = await fetch(`${here.address}/api/sends/words?as=zip&kind=story&id=${FERRY}`)
  expect(response.headers.get('content-disposition')).toMatch(/The-night-ferry.*-edit\.zip/)
  const files = await unpacked(Buffer.from(await response.arrayBuffer()))
  const listed = [...files.keys()].find((name) => name.endsWith('.adl'))!
  const { events, files: sources, fader, names } = read(files.get(listed)!.toString('ascii'))
  const sounds = sources.map((name) => {
    const wav = readWav(files.get(name)!)
    return Array.from({ length: wav.channels }, (_, c) => wav.channel(c))
  })
  const truth = (await soundOf(FERRY, 'story')).channel(0)
  const mix = new Float64Array(truth.length)
  const tracks = new Map<number, { at: number; dB: number }[]>()
  for (const { track, ...point } of fader) tracks.set(track, [...(tracks.get(track) ?? []), point])
  for (const { source, channel, track, from, at, end, fades } of events) {
    const sound = sounds[source - 1][channel]
    const points = tracks.get(track)!
    let turn = points.findLastIndex((point) => point.at <= at)
    for (let frame = at; frame < Math.min(end, mix.length); frame++) {
      while (turn + 1 < points.length && points[turn + 1].at <= frame) turn++
      const [a, b] = [points[turn], points[turn + 1]]
      const sameEvent = b && b.at < end
      const dB = sameEvent ? a.dB + ((b.dB - a.dB) * (frame - a.at)) / Math.max(1, b.at - a.at) : a.dB
      // one channel has half of what lies on one side alone
      let gain = factor(dB) * (/ (left|right)/.test(names[track - 1]) ? 0.5 : 1)
      for (const { rises, length, quarters } of fades) {
        const t = rises ? (frame - at) / length : (frame - (end - length)) / length
        if (t >= 0 && t < 1) gain *= faded(quarters, t, rises)
        else if (!rises && t >= 1) gain = 0
      }
      mix[frame] += sound[from + frame - at] * gain
    }
  }
  let [power, off] = [0, 0]
  for (let i = 0; i < mix.length; i++) {
    power += truth[i] ** 2
    off += (mix[i] - truth[i]) ** 2
  }
  // fades are told at three points, and dips as straight lines
  expect(10 * Math.log10(power / off)).toBeGreaterThan(25)

  // the other list names the same files, and lies within them
  const timeline = files.get(listed.replace(/adl$/, 'otio'))!.toString()
  const urls = [...new Set([...timeline.matchAll(/"target_url": "([^"]*)"/g)].map(([, url]) => url))]
  expect(urls.length).toBeGreaterThan(1)
  for (const url of urls) expect(files.has(decodeURI(url))).toBe(true)
  expect(files.get('readme.txt')!.toString()).toContain('media/')
})
