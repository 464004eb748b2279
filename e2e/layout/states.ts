import type { Page } from 'playwright-core'
import { QUAY, COUNCIL, FERRY } from '../demoIds'

/** Each view and dialog in its fullest state. One file, because it is one list: whoever adds a dialog adds a state. */
export interface State {
  name: string
  path: (pieces: ReadonlyMap<string, string>) => string
  /** Brings it about, once the path is open. */
  act?: (page: Page) => Promise<void>
}

export const SIZES = [
  { name: '1024 x 700', width: 1024, height: 700 },
  { name: '1280 x 800', width: 1280, height: 800 },
  { name: '1920 x 1080', width: 1920, height: 1080 },
  { name: '1280 x 800 at 200 %', width: 640, height: 400 },
  { name: 'touch, 820 x 1180', width: 820, height: 1180 },
  { name: 'touch, 1180 x 820', width: 1180, height: 820 },
] as const

const drawn = (page: Page) => page.waitForSelector('canvas[data-drawn=words], canvas[data-drawn=even]')
const dialog = (page: Page) => page.getByRole('dialog').waitFor()
const press = async (page: Page, ...keys: string[]) => {
  for (const key of keys) await page.keyboard.press(key)
}
const selectSome = (page: Page, words = 6) =>
  press(page, 'Home', 'Control+ArrowRight', 'Control+ArrowRight', ...Array.from({ length: words }, () => 'Shift+ArrowRight'))
const sheet = (): State['path'] => () => `/tapes/${QUAY}`
const bench = (): State['path'] => (pieces) => `/pieces/${pieces.get('No boat till six')}`
const page_ = (): State['path'] => () => `/stories/${FERRY}`
const onPage = (page: Page) => page.getByTestId('page').getByText('tie her up.').waitFor()
const onBench = async (page: Page) => {
  await drawn(page)
  await page.getByTestId('joins').getByRole('button').first().click()
}

export const STATES: readonly State[] = [
  { name: 'Desk', path: () => '/', act: (page) => page.getByTestId('stories').waitFor() },
  {
    name: 'Desk, a story’s menu',
    path: () => '/',
    act: (page) =>
      page
        .getByTestId('stories')
        .getByRole('button', { name: /^More for/ })
        .first()
        .click(),
  },
  {
    name: 'New story',
    path: () => '/',
    act: async (page) => {
      await page.getByTestId('stories').waitFor()
      await press(page, 'Shift+N')
      await dialog(page)
    },
  },
  { name: 'Tapes', path: () => '/tapes', act: (page) => page.getByTestId('tapes').getByRole('link').first().waitFor() },
  {
    name: 'Tapes, several chosen',
    path: () => '/tapes',
    act: async (page) => {
      await page.getByTestId('tapes').getByRole('checkbox').first().click()
      await page.getByTestId('tapes').getByRole('checkbox').nth(2).click()
      await page.getByTestId('chosen-tapes').waitFor()
    },
  },
  {
    name: 'Tapes, tidied at once',
    path: () => '/tapes',
    act: async (page) => {
      for (const i of [0, 1, 2]) await page.getByTestId('tapes').getByRole('checkbox').nth(i).click()
      await page.getByTestId('chosen-tapes').getByRole('button', { name: 'Tidy …' }).click()
      await dialog(page)
      await page.getByRole('button', { name: /Apply all [1-9]/ }).waitFor()
    },
  },
  {
    name: 'Tape details',
    path: () => '/tapes',
    act: async (page) => {
      await page
        .getByRole('button', { name: /^More for/ })
        .first()
        .click()
      await page.getByRole('menuitem', { name: /Rename/ }).click()
      await dialog(page)
    },
  },
  {
    name: 'Board',
    path: () => '/live',
    act: async (page) => {
      await page.getByText('of 6 ready').waitFor()
      await page.waitForFunction(() => document.querySelectorAll('[data-state=ready]').length === 6)
    },
  },
  {
    name: 'Board, on air',
    path: () => '/live',
    act: async (page) => {
      await page.waitForFunction(() => document.querySelectorAll('[data-state=ready]').length === 6)
      await page.keyboard.press('1')
      await page.waitForSelector('[data-state=playing]')
    },
  },
  { name: 'Sendings', path: () => '/sendings', act: (page) => page.getByRole('heading', { name: 'Sendings' }).waitFor() },
  {
    name: 'New destination',
    path: () => '/sendings',
    act: async (page) => {
      await page.getByRole('button', { name: 'Add a destination' }).click()
      await page.getByRole('dialog').getByText('HTTP, form').click()
    },
  },
  {
    name: 'New house format',
    path: () => '/sendings',
    act: async (page) => {
      await page.getByRole('button', { name: 'Add a house format' }).click()
      await page.getByRole('dialog').getByText('MP3').click()
    },
  },
  { name: 'Record', path: () => `/record?story=${FERRY}`, act: (page) => page.getByText('ready', { exact: true }).waitFor() },
  {
    name: 'A line is recorded',
    path: () => `/stories/${FERRY}/voice`,
    act: (page) => page.getByText('recording', { exact: true }).waitFor(),
  },
  {
    name: 'Recording, seen from the Desk',
    path: () => '/record',
    act: async (page) => {
      await page.getByText('ready', { exact: true }).waitFor()
      await press(page, 'Shift+R')
      await page.getByText('recording', { exact: true }).first().waitFor()
      await press(page, 'Alt+1')
      await page.getByTestId('stories').waitFor()
    },
  },
  {
    name: 'Sheet with a selection',
    path: sheet(),
    act: async (page) => {
      await drawn(page)
      await selectSome(page)
    },
  },
  {
    name: 'Sheet, mending',
    path: sheet(),
    act: async (page) => {
      await drawn(page)
      const mend = page.getByTestId('mend')
      for (const step of [/^Low cut/, /^Dip/, /^Hum/]) {
        await mend.getByRole('button', { name: 'Add a step' }).click()
        await page.getByRole('menuitem', { name: step }).click()
      }
    },
  },
  {
    name: 'Sheet without a selection',
    path: sheet(),
    act: async (page) => {
      await drawn(page)
    },
  },
  {
    name: 'Sheet, several passages and favourites',
    path: sheet(),
    act: async (page) => {
      await page.evaluate(
        () =>
          (localStorage.favourites = JSON.stringify({
            commands: ['edit.mark', 'edit.takeOut', 'level.softer', 'level.louder', 'play.hurry'],
            speeds: [0.8, 1, 1.5, 2],
          })),
      )
      await page.reload()
      await drawn(page)
      await selectSome(page)
      await press(page, 'Shift+I', 'Control+ArrowRight', 'Control+ArrowRight', 'Shift+ArrowRight')
    },
  },
  {
    name: 'Sheet, tidying',
    path: sheet(),
    act: async (page) => {
      await drawn(page)
      await press(page, 'Shift+D')
      await page.getByTestId('tidy-kinds').getByRole('button').first().waitFor()
      await press(page, ']')
      await page.getByTestId('tidy-place').waitFor()
    },
  },
  {
    name: 'Sheet, levels',
    path: sheet(),
    act: async (page) => {
      await drawn(page)
      await press(page, 'Home', 'Control+ArrowRight', 'Control+ArrowRight', 'Shift+P', 'Shift+ArrowRight')
      await page.waitForTimeout(800)
    },
  },
  {
    name: 'Sheet, its menu',
    path: sheet(),
    act: async (page) => {
      await drawn(page)
      await page.getByRole('button', { name: 'More', exact: true }).click()
      await page.getByRole('menu').waitFor()
    },
  },
  {
    name: 'Sheet, a word corrected',
    path: sheet(),
    act: async (page) => {
      await drawn(page)
      await selectSome(page, 1)
      await press(page, 'd')
      await page.getByTestId('word-editor').waitFor()
    },
  },
  {
    name: 'Sheet of two sides',
    path: () => `/tapes/${COUNCIL}`,
    act: async (page) => {
      await drawn(page)
      await selectSome(page)
    },
  },
  {
    name: 'Levels of a tape',
    path: sheet(),
    act: async (page) => {
      await drawn(page)
      await press(page, 'v')
      await dialog(page)
      await page.waitForTimeout(800)
    },
  },
  {
    name: 'Line up',
    path: sheet(),
    act: async (page) => {
      await drawn(page)
      await page.getByRole('button', { name: /Line up with other/ }).click()
      await dialog(page)
    },
  },
  {
    name: 'Import transcript',
    path: sheet(),
    act: async (page) => {
      await drawn(page)
      await page.getByRole('button', { name: 'More', exact: true }).click()
      await page.getByRole('menuitem', { name: /Import transcript/ }).click()
      await dialog(page)
    },
  },
  {
    name: 'Export transcript',
    path: sheet(),
    act: async (page) => {
      await drawn(page)
      await page.getByRole('button', { name: 'More', exact: true }).click()
      await page.getByRole('menuitem', { name: /Export transcript/ }).click()
      await dialog(page)
    },
  },
  {
    name: 'Send a selection of a tape',
    path: sheet(),
    act: async (page) => {
      await drawn(page)
      await selectSome(page)
      await press(page, 'Control+Enter')
      await dialog(page)
      await page.waitForTimeout(1200)
    },
  },
  { name: 'Log', path: () => `/tapes/${QUAY}/log`, act: (page) => page.getByRole('heading').first().waitFor() },
  {
    name: 'No such tape',
    path: () => '/tapes/00000000-0000-4000-8000-000000000000',
    act: (page) => page.getByText('That tape is not here.').waitFor(),
  },
  {
    name: 'Bench at a join',
    path: bench(),
    act: async (page) => {
      await onBench(page)
      await page.waitForTimeout(1500)
    },
  },
  {
    name: 'Bench with a selection',
    path: bench(),
    act: async (page) => {
      await onBench(page)
      await selectSome(page, 8)
    },
  },
  {
    name: 'Bench, its menu',
    path: bench(),
    act: async (page) => {
      await onBench(page)
      await page.getByRole('button', { name: 'More', exact: true }).click()
      await page.getByRole('menu').waitFor()
    },
  },
  {
    name: 'Bench, levels',
    path: bench(),
    act: async (page) => {
      await onBench(page)
      await selectSome(page, 6)
      await press(page, 'Alt+v')
      await page.waitForTimeout(1500)
    },
  },
  {
    name: 'Bench, a patch',
    path: bench(),
    act: async (page) => {
      await onBench(page)
      await selectSome(page, 1)
      await press(page, 't')
      await page.waitForTimeout(2500)
    },
  },
  {
    name: 'Bench, versions and what was taken out',
    path: bench(),
    act: async (page) => {
      await onBench(page)
      await press(page, 'Control+s', 'n')
      await page.waitForTimeout(500)
    },
  },
  {
    name: 'Bench, levels of a point',
    path: bench(),
    act: async (page) => {
      await onBench(page)
      await press(page, 'Home', 'Control+ArrowRight', 'Control+ArrowRight', 'Shift+P', 'Shift+ArrowRight')
      await page.waitForTimeout(1500)
    },
  },
  {
    name: 'Fades',
    path: bench(),
    act: async (page) => {
      await onBench(page)
      await press(page, 'Shift+F')
      await dialog(page)
    },
  },
  {
    name: 'Append pieces',
    path: bench(),
    act: async (page) => {
      await onBench(page)
      await press(page, 'Alt+p')
      await dialog(page)
    },
  },
  {
    name: 'Send a piece',
    path: bench(),
    act: async (page) => {
      await onBench(page)
      await press(page, 'Control+Enter')
      await dialog(page)
      await page.waitForTimeout(1200)
    },
  },
  {
    name: 'Fair-edit record',
    path: (pieces) => `/pieces/${pieces.get('No boat till six')}/record`,
    act: (page) => page.getByText('It shows what was done').waitFor(),
  },
  {
    name: 'Page',
    path: page_(),
    act: async (page) => {
      await onPage(page)
      await page.locator('[data-block=copy]').first().getByText('Copy', { exact: true }).click()
    },
  },
  {
    name: 'Page, countdown and backtimes',
    path: page_(),
    act: async (page) => {
      await onPage(page)
      await press(page, 'Alt+Shift+C', 'Alt+Shift+B')
      await page.getByTestId('countdown').waitFor()
    },
  },
  {
    name: 'Page, close-up and a mark',
    path: page_(),
    act: async (page) => {
      await onPage(page)
      await press(page, 'Shift+M')
      await page
        .locator('[data-block=actuality]')
        .first()
        .click({ position: { x: 30, y: 12 } })
      await press(page, 'Alt+Shift+S')
      await page.getByTestId('seam').waitFor()
    },
  },
  {
    name: 'Page, pieces chosen',
    path: page_(),
    act: async (page) => {
      await onPage(page)
      await page.getByTestId('pieces').getByRole('checkbox').first().click()
    },
  },
  {
    name: 'Page, levels',
    path: page_(),
    act: async (page) => {
      await onPage(page)
      await press(page, 'v')
      await dialog(page)
      await page.waitForTimeout(800)
    },
  },
  {
    name: 'A text is dropped',
    path: page_(),
    act: async (page) => {
      await onPage(page)
      await page.dispatchEvent('body', 'drop', {
        dataTransfer: await page.evaluateHandle(() => {
          const made = new DataTransfer()
          made.items.add(new File(['The boat.'], 'night boat, as written on the quay.txt'))
          return made
        }),
      })
      await dialog(page)
    },
  },
  {
    name: 'Page, its pieces tidied',
    path: () => `/stories/${FERRY}`,
    act: async (page) => {
      await page.locator('[data-block=actuality] [data-testid=bar] path').first().waitFor()
      await page.keyboard.press('Shift+D')
      await dialog(page)
      await page.getByRole('button', { name: /Apply all [1-9]/ }).waitFor()
    },
  },
  {
    name: 'Page, a block’s menu',
    path: page_(),
    act: async (page) => {
      await onPage(page)
      await page.getByRole('button', { name: 'More for Copy' }).first().click()
      await page.getByRole('menu').waitFor()
    },
  },
  {
    name: 'Choose an actuality',
    path: page_(),
    act: async (page) => {
      await onPage(page)
      await page.locator('[data-block=copy]').first().getByText('Copy', { exact: true }).click()
      await press(page, 't')
      await dialog(page)
    },
  },
  {
    name: 'Air time',
    path: page_(),
    act: async (page) => {
      await onPage(page)
      await page.getByRole('button', { name: /^Airs|air time/ }).click()
      await dialog(page)
    },
  },
  {
    name: 'Send a story',
    path: page_(),
    act: async (page) => {
      await onPage(page)
      await press(page, 'Control+Enter')
      await dialog(page)
      await page.waitForTimeout(1200)
    },
  },
  { name: 'Script', path: () => `/stories/${FERRY}/script`, act: (page) => page.getByText('tie her up.').waitFor() },
  {
    name: 'Search transcripts and marks',
    path: () => '/',
    act: async (page) => {
      await page.getByTestId('stories').waitFor()
      await press(page, 'Control+f')
      await dialog(page)
      await page.keyboard.type('nobody told us')
      await page.locator('[data-hit]').first().waitFor()
    },
  },
  {
    name: 'Find a command',
    path: sheet(),
    act: async (page) => {
      await drawn(page)
      await press(page, 'Control+k')
      await dialog(page)
    },
  },
  {
    name: 'Favourites',
    path: sheet(),
    act: async (page) => {
      await drawn(page)
      await press(page, 'Shift+K')
      await dialog(page)
    },
  },
  {
    name: 'Keyboard shortcuts',
    path: sheet(),
    act: async (page) => {
      await drawn(page)
      await press(page, '?')
      await dialog(page)
    },
  },
  { name: 'Not found', path: () => '/nowhere', act: (page) => page.getByText('There is no page at this address.').waitFor() },
]
