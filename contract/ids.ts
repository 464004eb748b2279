import * as yup from 'yup'

/** Ids are random UUIDs: unguessable, and made by whoever makes the thing. */
const ID = '[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}'
export const id = () => yup.string().matches(new RegExp(`^${ID}$`), 'that is no id')
/** The id of a record: of one that belongs to two others, both of theirs. */
export const ids = () => yup.string().matches(new RegExp(`^${ID}(:${ID})?$`), 'that is no id')
/** No time is longer: a hundred hours. */
export const MOST = 48_000 * 60 * 60 * 100
export const frames = () => yup.number().integer().min(0).max(MOST)
/** A revision of a document; it counts up by one with every act. */
export const revision = () => yup.number().integer().min(0)
