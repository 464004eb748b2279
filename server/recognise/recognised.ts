import { Refusal } from '../problem'
import type { Services } from '../services'
import { askForWords, recognitionOf } from './recognise'

/** Has the words of a tape recognised, where somebody here knows the language; whoever does it, it is waited for. */
export async function recognised(services: Services, tape: string, signal: AbortSignal): Promise<void> {
  try {
    let { state } = await askForWords(services, tape)
    while (!signal.aborted && (state === 'waiting' || state === 'working')) {
      await new Promise((done) => setTimeout(done, 300))
      state = (await recognitionOf(services, tape))?.state ?? 'done'
    }
  } catch (error) {
    if (!(error instanceof Refusal)) throw error
  }
}
