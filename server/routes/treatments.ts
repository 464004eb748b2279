import { Router } from 'express'
import { keptTreatmentSchema, treatmentName, type KeptTreatment } from '../../contract/keptTreatments'
import { tell } from '../notices'
import type { Services } from '../services'

/** Treatments that are kept by a name. */
export function treatmentRoutes({ database }: Services): Router {
  const routes = Router()
  const changed = () => tell(database, { about: 'treatments' })

  routes.get('/', async (_request, response) => {
    response.json(await database.query<KeptTreatment[]>('select name, speaker, voice, steps from kept_treatment order by name'))
  })

  routes.put('/:name', async (request, response) => {
    const name = await treatmentName().required().validate(request.params.name)
    const { speaker, voice, steps } = (await keptTreatmentSchema.validate(request.body, { strict: true })) as Omit<KeptTreatment, 'name'>
    await database.query(
      `insert into kept_treatment (name, speaker, voice, steps) values ($1, $2, $3, $4)
        on conflict (name) do update set speaker = $2, voice = $3, steps = $4`,
      [name, speaker, JSON.stringify(voice), JSON.stringify(steps)],
    )
    await changed()
    response.json({ name, speaker, voice, steps } satisfies KeptTreatment)
  })

  routes.delete('/:name', async (request, response) => {
    await database.query('delete from kept_treatment where name = $1', [request.params.name])
    await changed()
    response.status(204).end()
  })
  return routes
}
