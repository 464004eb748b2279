import { Router } from 'express'
import { dismissalOrder, phrasesOrder, type DismissalOrder } from '../../contract/tidyRules'
import type { Dismissal, TidyRules } from '../../core/tidy/rules'
import { language } from '../../contract/shapes'
import { tell } from '../notices'
import type { Services } from '../services'
import { checkedId } from './checkedId'

/** What a newsroom settled once about tidying, for all tapes to come. */
export function tidyRuleRoutes({ database }: Services): Router {
  const routes = Router()
  routes.param('id', checkedId)
  const changed = () => tell(database, { about: 'tidyRules' })

  routes.get('/', async (_request, response) => {
    const [dismissals, phrases] = await Promise.all([
      database.query<{ id: string; rule: DismissalOrder }[]>('select id, rule from dismissal order by at'),
      database.query<{ language: string; phrases: string[] }[]>('select language, phrases from filler_phrases'),
    ])
    const rules: TidyRules = {
      dismissals: dismissals.map(({ id, rule }) => ({ ...rule, id }) as Dismissal),
      phrases: Object.fromEntries(phrases.map((one) => [one.language, one.phrases])),
    }
    response.json(rules)
  })

  routes.put('/dismissals/:id', async (request, response) => {
    const rule = (await dismissalOrder.validate(request.body, { strict: true })) as DismissalOrder
    await database.query('insert into dismissal (id, rule, tape) values ($1, $2, $3) on conflict do nothing', [
      request.params.id,
      JSON.stringify(rule),
      rule.scope === 'tape' ? rule.tape : null,
    ])
    await changed()
    response.status(204).end()
  })

  routes.delete('/dismissals/:id', async (request, response) => {
    await database.query('delete from dismissal where id = $1', [request.params.id])
    await changed()
    response.status(204).end()
  })

  routes.put('/phrases/:language', async (request, response) => {
    const tag = await language().required().validate(request.params.language)
    const { phrases } = await phrasesOrder.validate(request.body, { strict: true })
    if (phrases === null) await database.query('delete from filler_phrases where language = $1', [tag])
    else
      await database.query(
        'insert into filler_phrases (language, phrases) values ($1, $2) on conflict (language) do update set phrases = $2',
        [tag, JSON.stringify(phrases)],
      )
    await changed()
    response.status(204).end()
  })
  return routes
}
