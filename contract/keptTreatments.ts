import * as yup from 'yup'
import type { MendStep } from '../core/mend/chain'
import type { VoiceLevels } from '../core/mend/sameVoice'
import { name, type FieldsOf } from './shapes'
import { mendSteps } from './tapeRecords'

/** Steps of mending that are kept by a name, for a voice and for how it is recorded. */
export interface KeptTreatment {
  name: string
  /** Whose voice they were set for; empty where nobody was named. */
  speaker: string
  /** That voice, as it was recorded there. */
  voice: VoiceLevels
  steps: MendStep[]
}

export const treatmentName = () => yup.string().trim().min(1).max(100)

const dB = () => yup.number().min(-200).max(20).required()

/** Its name is in the address. */
export const keptTreatmentSchema = yup
  .object({
    speaker: name().defined(),
    voice: yup
      .object({ speechLevel: dB(), floor: dB(), peak: dB() } satisfies FieldsOf<VoiceLevels>)
      .noUnknown()
      .required(),
    steps: mendSteps().min(1).required(),
  } satisfies FieldsOf<Omit<KeptTreatment, 'name'>>)
  .noUnknown()
