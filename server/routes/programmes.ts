import { Router } from 'express'
import { houseFormatSchema, programmeName, sameProgramme, type HouseFormat, type Programme } from '../../contract/programmes'
import { tell } from '../notices'
import type { Services } from '../services'

/** In which form each programme wants its files. */
export function programmeRoutes({ database }: Services): Router {
  const routes = Router()
  const all = () => database.query<Programme[]>('select name, format from programme order by name')
  const changed = () => tell(database, { about: 'destinations' })
  /** As it is kept, where that differs in capitals alone. */
  const known = async (typed: string) => {
    const name = await programmeName().required().validate(typed)
    return (await all()).find((one) => sameProgramme(one.name, name))?.name ?? name
  }

  routes.get('/', async (_request, response) => {
    response.json(await all())
  })

  routes.put('/:name', async (request, response) => {
    const format = (await houseFormatSchema.validate(request.body, { strict: true })) as HouseFormat
    const name = await known(request.params.name)
    await database.query(
      'insert into programme (name, format) values ($1, $2) on conflict (name) do update set format = $2, changed = now()',
      [name, JSON.stringify(format)],
    )
    await changed()
    response.json({ name, format } satisfies Programme)
  })

  routes.delete('/:name', async (request, response) => {
    await database.query('delete from programme where name = $1', [await known(request.params.name)])
    await changed()
    response.status(204).end()
  })
  return routes
}
