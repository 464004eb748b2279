import * as yup from 'yup'

/** Ids are random UUIDs: unguessable, and made by whoever makes the thing. */
export const id = () => yup.string().matches(/^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/, 'that is no id')
export const frames = () =>
  yup
    .number()
    .integer()
    .min(0)
    .max(48_000 * 60 * 60 * 100)
/** A revision of a document; it counts up by one with every act. */
export const revision = () => yup.number().integer().min(0)
