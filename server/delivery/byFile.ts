import { Transform } from 'node:stream'
import type { Proof } from '../../contract/deliveries'
import type { Notes, Parcel, Place } from './place'
import { existsAlready, mayHaveArrived, Trouble } from './trouble'

/** What is known of earlier tries of a delivery, and what a person said of a file that has its name. */
export interface Before {
  replaces: boolean
  /** A try came so far that the file may have its name. */
  beyond: boolean
}

/** The name a file has until it is whole; of the delivery, so that a later try finds what an earlier one left. */
export const partName = ({ id, name }: Pick<Parcel, 'id' | 'name'>): string => `${name}.${id.slice(0, 8)}.part`

/**
 * Puts a file in a place: under a name that nobody looks for, read back, and only then by its own. Done twice, or cut short
 * anywhere and done again, it comes to one file or to `perhaps`: where the file went by its name and was taken away since.
 */
export async function deliverAsFile(place: Place, parcel: Parcel, before: Before, notes: Notes): Promise<Proof> {
  const { name } = parcel
  const part = partName(parcel)
  const there = await place.size(name)
  const proven = there === parcel.bytes ? await proofOf(place, name, parcel, notes) : null
  if (proven === 'hash') return proven
  if (before.beyond && (await place.size(part)) === null) {
    // it has its name, or had it
    if (proven) return proven
    throw mayHaveArrived('It was cut off as it was about to get its name there.')
  }
  if (there !== null && !before.replaces) throw existsAlready()
  await place.remove(part)
  let sent = 0
  const counted = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      sent += chunk.length
      notes.sent(sent)
      done(null, chunk)
    },
  })
  const content = parcel.open()
  content.on('error', (error) => counted.destroy(error))
  await place.write(part, content.pipe(counted), parcel.bytes)
  const came = await place.size(part)
  if (came !== parcel.bytes) {
    await place.remove(part)
    throw new Trouble('again', `${bytesOf(parcel.bytes)} were sent, and it says that ${bytesOf(came ?? 0)} are there.`, true)
  }
  const proof = await proofOf(place, part, parcel, notes)
  if (!proof) {
    await place.remove(part)
    throw new Trouble('again', 'What is there is not what was sent.', true)
  }
  if (notes.signal.aborted) throw notes.signal.reason
  await notes.beyond()
  await place.rename(part, name, before.replaces)
  return proof
}

const bytesOf = (bytes: number): string => `${bytes.toLocaleString('en')} bytes`

/** How a file there that is as long as what was sent is known to be it; null where it is another. */
async function proofOf(place: Place, name: string, parcel: Parcel, notes: Notes): Promise<Proof | null> {
  const hash = await place.hash(name, () => notes.sent(parcel.bytes))
  if (hash === null) return 'size'
  return hash === parcel.sha256 ? 'hash' : null
}
