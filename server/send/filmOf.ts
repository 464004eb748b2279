import { PICTURE } from '../../contract/fileFormats'
import type { SendOrder } from '../../contract/sends'
import { captionsOf } from '../../core/send/captions'
import { notFound, Refusal } from '../problem'
import { wordsInFile } from './words'
import type { Prepared } from './order'
import type { Services } from '../services'
import type { Film } from '../picture/film'

/** What the picture of an order shows; undefined where it is to be none. Refuses captions of what has no words. */
export async function filmOf(
  services: Services,
  order: SendOrder,
  prepared: Pick<Prepared, 'plan' | 'title' | 'about'>,
): Promise<Film | undefined> {
  const { picture, format, what } = order
  if (!picture || format !== PICTURE) return undefined
  if (what.lane) throw new Refusal(422, 'Sound alone', 'A lane alone goes out as sound. Choose another form for lanes.')
  const { store } = services
  const still = picture.still ? store.still(picture.still) : null
  if (still)
    await store.size(still).catch(() => {
      throw notFound('That still image')
    })
  const { plan, title } = prepared
  return {
    shape: picture.shape,
    title,
    from: fromOf(prepared),
    captions: picture.captions ? captionsOf(await wordsOf(services, order, plan.length)) : [],
    still,
  }
}

/** For whom a story is made; of another thing, who speaks. */
export const fromOf = ({ about }: Pick<Prepared, 'about'>): string => (about.category === 'STORY' ? about.client : about.artist)

/** As far as they lie in the file, which may be a part of the whole. */
async function wordsOf(services: Services, { what, unrecorded }: SendOrder, length: number) {
  const words = await wordsInFile(services, what, unrecorded)
  const start = what.kind === 'tape' ? 0 : (what.from ?? 0)
  return words
    .map((word) => ({ ...word, from: word.from - start, to: Math.min(length, word.to - start) }))
    .filter(({ from, to }) => from >= 0 && to > from)
}
