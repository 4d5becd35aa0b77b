import { expect, type Page } from './test'
import { at, candidateMenu, goTo, openDemo } from './steps'

/** Goes to a screen of a candidate from wherever the walk is; within the candidate without opening everything anew. */
async function open(page: Page, candidate: string, screen: string): Promise<void> {
  const here = await candidateMenu(page).filter({ hasText: candidate }).isVisible()
  if (!here || (await page.locator('.v-overlay--active').count())) return openDemo(page, candidate, screen)
  await goTo(page, screen)
  await expect(page.locator('.v-skeleton-loader')).toHaveCount(0)
}

/** Every screen there is, and how a person gets there. */
export const screens: [name: string, open: (page: Page) => Promise<void>][] = [
  ['roster', async (page) => void (await page.goto(`${at('DEMO')}/`))],
  ['new plan', async (page) => void (await page.goto(`${at('DEMO')}/new`))],
  ['exam formats', async (page) => void (await page.goto(`${at('DEMO')}/exams`))],
  [
    'an exam format',
    async (page) => {
      await page.goto(`${at('DEMO')}/exams`)
      await page.getByRole('link', { name: /Tidal Pilot/ }).click()
    },
  ],
  ['an invitation', async (page) => void (await page.goto(`${at('DEMO')}/join/some-code`))],
  ['not found', async (page) => void (await page.goto(`${at('DEMO')}/nowhere`))],
  ...['Score', 'Blueprint', 'Books', 'Practice tests', 'Sittings and rules'].map(
    (part): [string, (page: Page) => Promise<void>] => [
      `an exam format: ${part}`,
      async (page) => {
        await page.goto(`${at('DEMO')}/exams`)
        await page.getByRole('link', { name: 'Keeper of Garden Records' }).click()
        await page.getByRole('button', { name: part, exact: true }).click()
      },
    ],
  ),
  [
    'an adaptive section',
    async (page) => {
      await page.goto(`${at('DEMO')}/exams`)
      await page.getByRole('link', { name: 'Archive Cataloguers' }).click()
    },
  ],
  [
    'item by item',
    async (page) => {
      await open(page, 'Wenna Tarrowby', 'Set-up')
      await page.getByRole('tab', { name: 'Where you stand' }).click()
      await page.getByRole('button', { name: 'Item by item' }).click()
    },
  ],
  ...['Today', 'Plan', 'Scores', 'Topics', 'Gap', 'Pacing', 'Guessing', 'Exam day'].map(
    (screen): [string, (page: Page) => Promise<void>] => [
      screen,
      (page) => open(page, 'Idrel Pellowick', screen),
    ],
  ),
  ...['Exam', 'Where you stand', 'Target', 'Free time', 'Materials', 'How you work'].map(
    (step): [string, (page: Page) => Promise<void>] => [
      `Set-up: ${step}`,
      async (page) => {
        // Idrel has materials and commitments to show.
        await open(page, 'Idrel Pellowick', 'Set-up')
        await page.getByRole('tab', { name: step }).click()
      },
    ],
  ),
  [
    'a re-plan',
    async (page) => {
      await open(page, 'Idrel Pellowick', 'Plan')
      await page.getByRole('button', { name: 'Re-plan' }).click()
      await expect(page.getByTestId('replan-sum')).toBeVisible()
    },
  ],
  [
    'the plan on paper',
    async (page) => {
      await open(page, 'Idrel Pellowick', 'Plan')
      await page.getByRole('button', { name: 'Print' }).click()
    },
  ],
  ...['When to leave', 'Ways compared', 'Drill'].map((view): [string, (page: Page) => Promise<void>] => [
    `Pacing: ${view}`,
    async (page) => {
      await open(page, 'Maudra Okonby', 'Pacing')
      await page.getByRole('button', { name: view }).click()
      if (view !== 'Ways compared') return
      await page.getByLabel('Sittings').selectOption('2000')
      await page.getByRole('button', { name: 'Sit them' }).click()
      await expect(page.getByTestId('approaches')).toBeVisible()
    },
  ]),
  [
    'the trainer',
    async (page) => {
      await open(page, 'Idrel Pellowick', 'Guessing')
      await page.getByRole('button', { name: 'Trainer' }).click()
      await page.getByRole('button', { name: 'Begin' }).click()
      await page.getByRole('button', { name: 'Answer them' }).click()
    },
  ],
  [
    'the pace card',
    async (page) => {
      await open(page, 'Maudra Okonby', 'Pacing')
      await page.getByRole('link', { name: 'Pace card' }).click()
      await expect(page.getByTestId('card-streams')).toBeVisible()
    },
  ],
  [
    'logging a test',
    async (page) => {
      await open(page, 'Idrel Pellowick', 'Scores')
      await page.getByRole('button', { name: 'Log a test' }).click()
    },
  ],
]
