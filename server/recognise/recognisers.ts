import type { Config } from '../config'
import type { Recogniser } from './recogniser'
import { service } from './service'
import { sherpa } from './sherpa'
import { sphinx } from './sphinx'

const made = new Map<string, Recogniser>()

/** The recogniser that the configuration names. Throws where it names none that there is. */
export function chosenRecogniser({ recogniser: named }: Pick<Config, 'recogniser'>): Recogniser {
  let found = made.get(named)
  if (!found) {
    if (named === 'sphinx') found = sphinx
    else if (named.startsWith('sherpa:')) found = sherpa(named.slice('sherpa:'.length))
    else if (/^https?:\/\//.test(named)) found = service(named)
    else throw new Error(`PLAIN_CUT_RECOGNISER is “${named}”; it is sphinx, sherpa:FOLDER, or the address of a service.`)
    made.set(named, found)
  }
  return found
}
