import { writeFile } from 'node:fs/promises'
import { refined } from '../../core/align/edges'
import { grammarOf } from './grammar'
import { lastSound } from '../../core/align/lastSound'
import { pausesIn } from '../../core/align/room'
import { toFrames, type Stretch } from '../../core/time'
import { dictionary } from '../recognise/dictionary'
import { pcmOf, soundOf } from '../recognise/sound'
import { segments } from '../recognise/sphinx'
import type { Services } from '../services'

export interface AlignOptions {
  /** Some of the text may not be on the tape, and the tape may hold what the text does not. */
  loose?: boolean
  signal?: AbortSignal
}

/** Pauses between words are likelier than it thinks by itself. */
const PAUSES = ['-silprob', '0.2']
/** Through a grammar that knows but one way, nothing is given up early: noise makes every way unlikely. */
const STRICT = ['-beam', '1e-120', '-pbeam', '1e-120', '-wbeam', '1e-100']
/** In much noise even that gives up: then every way is followed to its end, at twice the work. */
const EVERY_WAY = ['-beam', '0', '-pbeam', '0', '-wbeam', '0']
/** Where words may be missing, unlikely ways are followed for longer, and likelihoods are taken as they are. */
const LOOSE = ['-lw', '1', '-beam', '1e-60', '-pbeam', '1e-60', '-wbeam', '1e-50']

/**
 * Puts known words on the sound of a stretch of tape; gives where each of them is said, null for
 * one that is not. Without `loose` either all of them are found or none.
 */
export async function align(
  services: Services,
  tape: string,
  channels: readonly number[],
  stretch: Stretch,
  texts: readonly string[],
  { loose, signal }: AlignOptions = {},
): Promise<(Stretch | null)[]> {
  if (loose) {
    const found = await search(services, tape, channels, stretch, texts, LOOSE, { loose, signal })
    // once it is known that all of it is there, it can be put there more exactly; where no way through was
    // found at all, the sound is too poor to tell, and the text is trusted
    if (found?.includes(null)) return found
  }
  return (
    (await search(services, tape, channels, stretch, texts, STRICT, { signal })) ??
    (await search(services, tape, channels, stretch, texts, EVERY_WAY, { signal })) ??
    texts.map(() => null)
  )
}

/** Null where there is no way through the grammar that the sound allows. */
async function search(
  services: Services,
  tape: string,
  channels: readonly number[],
  stretch: Stretch,
  texts: readonly string[],
  beams: readonly string[],
  { loose, signal }: AlignOptions,
): Promise<(Stretch | null)[] | null> {
  const { fsg, dict, owner } = grammarOf(texts, dictionary, { loose })
  if (!owner.length) return texts.map(() => null)
  const length = stretch.to - stretch.from
  const sound = await soundOf(services, tape, channels, stretch)
  const { path, done } = await pcmOf(services, tape, channels, stretch, pausesIn(sound))
  try {
    await Promise.all([writeFile(`${path}.fsg`, fsg), writeFile(`${path}.dict`, dict)])
    const found = await segments(path, ['-fsg', `${path}.fsg`, '-dict', `${path}.dict`, ...PAUSES, ...beams], 60_000 + length / 10, signal)
    if (!found.length) return null
    const places: (Stretch | null)[] = texts.map(() => null)
    for (const { name, from, to } of found) {
      const word = /^w(\d+)$/.exec(name)
      if (!word) continue
      const text = owner[Number(word[1])]
      places[text] = { from: places[text]?.from ?? Math.min(length - 1, toFrames(from)), to: Math.min(length, toFrames(to)) }
    }
    const there = places.filter((place) => place !== null)
    const edges = refined(
      sound,
      there,
      texts.filter((_, i) => places[i]).map((text) => lastSound(text, dictionary)),
    )
    return places.map((place) => {
      const edge = place && edges[there.indexOf(place)]
      return edge && { from: edge.from + stretch.from, to: edge.to + stretch.from }
    })
  } finally {
    await Promise.all([done(), services.store.remove(`${path}.fsg`), services.store.remove(`${path}.dict`)])
  }
}
