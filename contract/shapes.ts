import * as yup from 'yup'
import { REPAIR_KINDS, type Repair } from '../core/mend/repair'
import type { Side } from '../core/tape/tape'
import { frames, id, ids } from './ids'

/** What schemas of documents share. Each is made once: making one costs more than checking by it. */

/** Nothing is taken for something else, and the first fault is enough. */
export const STRICT = { strict: true, abortEarly: true } as const

/** What an object itself holds under a name that came from outside; never what it inherits. */
export const own = <T>(object: Record<string, T>, key: string | undefined): T | undefined =>
  key !== undefined && Object.hasOwn(object, key) ? object[key] : undefined

export const name = () => yup.string().max(200)
/** A language tag: `en`. */
export const language = () => yup.string().matches(/^[a-z]{2,3}$/, 'that is no language')
export const copy = () => yup.string().max(20_000)

export const truth = () =>
  yup
    .boolean()
    .oneOf([true] as const)
    .optional()
export const slipped = () => yup.number().integer().min(-480_000).max(480_000)
export const hertz = () => yup.number().min(20).max(20_000)
export const dB = () => yup.number().min(-60).max(24)
export const gain = () => yup.number().min(-60).max(60).optional()
export const line = () => yup.array(yup.object({ at: frames().required(), dB: dB().required() }).noUnknown().required())

/** From a frame to a later one. */
export const stretch = (what: string) => ({
  from: frames().required(),
  to: frames()
    .required()
    .test('after', `${what} ends after it begins`, function (to) {
      return to > (this.parent as { from: number }).from
    }),
})

export const channels = () => yup.array(yup.number().integer().min(0).max(7).required()).min(1).max(2)

export const repairKind = () => yup.string().oneOf(REPAIR_KINDS).required()

const side = yup
  .object({
    name: name().defined(),
    channels: channels().required(),
    level: yup.number().min(-60).max(40).optional(),
    flip: yup.boolean().optional(),
    slip: slipped().optional(),
    hush: yup
      .array(yup.object({ from: frames().required(), to: frames().required() }).noUnknown().required())
      .max(20_000)
      .optional(),
    rendition: id().optional(),
    repairs: yup
      .array(
        yup
          .object({ ...stretch('a repair'), how: repairKind() } satisfies FieldsOf<Repair>)
          .noUnknown()
          .required(),
      )
      .max(20_000)
      .optional(),
  } satisfies FieldsOf<Side>)
  .noUnknown()
export const sides = () => yup.array(side.required()).min(1).max(8)

type Schema = yup.ISchema<unknown>
/** A schema for each property of a type, and for no other: what a schema is made of satisfies it. */
export type FieldsOf<T> = { readonly [Property in keyof T]-?: Schema }
export type RecordSchemas = Readonly<Record<string, yup.ObjectSchema<object>>>

const never = (message: string): Schema => yup.mixed().test('known', message, () => false)

type Choose = (value: unknown) => yup.Schema

/** Chooses one of several schemas by what stands under a key, or by a further choice; `otherwise` says what is wrong where none fits. */
export function choiceBy(key: string, schemas: Readonly<Record<string, Schema | Choose>>, otherwise: string): Choose {
  const none = never(otherwise)
  return (value) => {
    const found = own<Schema | Choose>(schemas, (value as Record<string, string> | null | undefined)?.[key]) ?? none
    return typeof found === 'function' ? found(value) : (found as yup.Schema)
  }
}

/** A schema that is chosen for each value: see `choiceBy`. */
export const chosenBy = (...choice: Parameters<typeof choiceBy>) => yup.lazy(choiceBy(...choice))

/** A record of one of several kinds. */
export const recordOf = (schemas: RecordSchemas) => chosenBy('kind', schemas, 'no such kind of record')

/** An id, or two of them: of what belongs to two others. */
const recordId = yup.string().max(73).required()
const TEXT = yup.string().max(20_000).required()
const [kept, put, cut] = [
  yup.number().integer().min(1).required(),
  yup.object({ put: TEXT }).noUnknown().required(),
  yup.object({ cut: TEXT }).noUnknown().required(),
]
const textPart = yup.lazy((part: unknown) =>
  typeof part === 'number' ? (kept as yup.Schema) : Object.hasOwn((part ?? {}) as object, 'put') ? put : cut,
)

/** The properties of all kinds of records, each with its schema; one that several kinds have otherwise may be as any of them has it. */
function fieldsOf(schemas: RecordSchemas): Record<string, Schema> {
  const fields = new Map<string, Set<Schema>>()
  for (const schema of Object.values(schemas))
    for (const [key, field] of Object.entries(schema.fields)) fields.set(key, (fields.get(key) ?? new Set()).add(field as Schema))
  return Object.fromEntries([...fields].map(([key, some]) => [key, some.size === 1 ? [...some][0] : anyOf([...some])]))
}

const anyOf = (schemas: readonly Schema[]): Schema =>
  yup
    .mixed()
    .nullable()
    .test('any', 'that cannot be set so', (value) => schemas.some((schema) => (schema as yup.Schema).isValidSync(value, STRICT)))

/**
 * A schema for the steps of a bag of records, from the schema of each kind of record; `texts` are the properties that can be
 * written in.
 */
export function recordStep(schemas: RecordSchemas, texts: readonly string[] = []) {
  const type = yup.string().required()
  const settable = Object.entries(fieldsOf(schemas)).filter(([key]) => key !== 'id' && key !== 'kind')
  const set = settable.map(([key, value]) => [key, yup.object({ type, id: recordId, key: type, value }).noUnknown()])
  const write = yup
    .object({ type, id: recordId, key: yup.string().oneOf(texts).required(), change: yup.array(textPart).max(2000).defined() })
    .noUnknown()
  const steps = {
    put: yup.object({ type, record: recordOf(schemas) }).noUnknown(),
    drop: yup.object({ type, id: ids().required() }).noUnknown(),
    set: choiceBy('key', Object.fromEntries(set) as Record<string, Schema>, 'that cannot be set'),
    ...(texts.length ? { write } : {}),
  }
  return chosenBy('type', steps, 'no such step')
}
