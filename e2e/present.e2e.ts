import { expect, it } from 'vitest'
import { FERRY, until, useBrowser, visit } from './newsroom'

useBrowser()

it('who else is in a story is seen at once, and in which line', async () => {
  const first = await visit(`/stories/${FERRY}`)
  await first.page.getByTestId('page').getByText('tie her up.').waitFor()
  await first.page.getByRole('button', { name: 'Nobody else is here' }).click()
  await first.page.getByLabel('Your name, as others see it').fill('Maren')
  await first.page.keyboard.press('Enter')
  await first.page.keyboard.press('Escape')

  const second = await visit(`/stories/${FERRY}`)
  await second.page.getByRole('button', { name: 'Also here: Maren' }).waitFor({ timeout: 5000 })
  await first.page.getByRole('button', { name: /^Also here: Colleague/ }).waitFor({ timeout: 5000 })
  const copy = first.page.locator('[data-block=copy]').first()
  await copy.getByRole('textbox', { name: /words$/ }).click()
  const here = second.page.locator('[data-block=copy]').first().getByTestId('here')
  await until(
    async () => ((await here.count()) ? here.innerText() : ''),
    (text) => text === 'Maren is here',
    5000,
  )
  // who leaves is gone at once
  await first.context.close()
  await second.page.getByRole('button', { name: 'Nobody else is here' }).waitFor({ timeout: 12_000 })
  expect(await here.count()).toBe(0)
})
