import type { CutOrder } from '../../core/cuts/cut'
import type { Placement } from '../../core/cuts/place'
import type { Prediction } from '../../core/cuts/predict'
import type { WordsOf } from '../../core/edits/pieceWords'
import type { FactsOf } from '../../core/render/plan'
import { firstWordAfter } from '../../core/tape/words'
import { toFrames, type Frames } from '../../core/time'
import PlacingWorker from './placing.worker.ts?worker'
import type { PlacingAnswer, PlacingOrder } from './placing.worker'

/** Cuts are placed and joins judged beside the page. */

/** So much talk on either side tells what gaps somebody makes. */
const TALK = toFrames(180)

let worker: Worker | null = null
let last = 0
const waiting = new Map<number, (answer: PlacingAnswer) => void>()

function ask(order: Omit<PlacingOrder, 'id'>): Promise<PlacingAnswer> {
  if (!worker) {
    worker = new PlacingWorker()
    worker.onmessage = ({ data }: MessageEvent<PlacingAnswer>) => {
      // for measurements
      if (data.took)
        performance.measure('placed' in data ? 'place a cut' : 'judge a join', {
          start: performance.now() - data.took,
          duration: data.took,
        })
      waiting.get(data.id)?.(data)
      waiting.delete(data.id)
    }
  }
  const id = ++last
  worker.postMessage({ ...order, id })
  return new Promise((resolve) => waiting.set(id, resolve))
}

const sidesOf = (order: CutOrder, factsOf: FactsOf, wordsOf: WordsOf) => {
  const side = ({ tape, asked }: CutOrder['left']) => {
    const words = wordsOf(tape)
    return { facts: factsOf(tape), words: words.slice(firstWordAfter(words, asked - TALK), firstWordAfter(words, asked + TALK)) }
  }
  return { left: side(order.left), right: side(order.right) }
}

/** Null where the sound cannot be had now: then edges stay where a hand put them. */
export async function placeCut(order: CutOrder, factsOf: FactsOf, wordsOf: WordsOf): Promise<(Placement & Prediction) | null> {
  const answer = await ask({ act: 'place', order, ...sidesOf(order, factsOf, wordsOf) })
  return 'placed' in answer ? answer.placed : null
}

/** `room`: how much room tone was added at the join. */
export async function judgeCut(order: CutOrder, room: Frames, factsOf: FactsOf, wordsOf: WordsOf): Promise<Prediction | null> {
  const answer = await ask({ act: 'judge', order, room, ...sidesOf(order, factsOf, wordsOf) })
  return 'judged' in answer ? answer.judged : null
}
