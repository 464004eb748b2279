import type { StoryDocument } from '../../core/page/story'
import type { TextChange } from '../../core/steps/text'
import type { LiveDocument } from './liveDocument'

/** A pause of thought, in milliseconds: what is written before it and after it is undone separately. */
const THOUGHT_MS = 1200

let last = { place: '', at: 0, together: '' }

/** Writes in a text of a record. What is written without a pause of thought at one place is undone together. */
export function writeIn(live: LiveDocument<'story'>, id: string, key: 'text', change: TextChange): void {
  const place = `${live.id}/${id}/${key}`
  const now = Date.now()
  const goesOn = last.place === place && now - last.at < THOUGHT_MS
  last = { place, at: now, together: goesOn ? last.together : crypto.randomUUID() }
  live.write({ type: 'write', id, key, change }, { label: 'write', together: last.together })
}

/** A text of a record as the document has it at this moment; empty where the record has gone. */
export function textIn(live: LiveDocument<'story'>, id: string, key: 'text'): string {
  const record = (live.body as StoryDocument).records[id] as Partial<Record<typeof key, string>> | undefined
  return record?.[key] ?? ''
}
