import { expect, type Page } from './test'
import { at, candidateMenu, choose, goTo, openDemo } from './steps'

/** Goes to a screen of a candidate from wherever the walk is; within the candidate without opening everything anew. */
async function open(page: Page, candidate: string, screen: string): Promise<void> {
  const here = await candidateMenu(page).filter({ hasText: candidate }).isVisible()
  if (!here || (await page.locator('.v-overlay--active').count())) return openDemo(page, candidate, screen)
  await goTo(page, screen)
  await expect(page.locator('.v-skeleton-loader')).toHaveCount(0)
}

/** Into the test room, by what is pressed in the lobby and in it. */
async function toRoom(page: Page, ...presses: string[]): Promise<void> {
  await open(page, 'Idrel Pellowick', 'Sit')
  await choose(page, 'Paper', /^Pilotage Board paper 2/)
  const [first, ...more] = [...presses, '']
  await page.getByRole('button', { name: first, exact: true }).click()
  for (const name of more) {
    if (name === 'Start the clock' || !name) await enter(page)
    if (name) await page.getByRole('button', { name, exact: true }).click()
    if (name === 'Start the clock') return expect(page.getByTestId('clock')).toBeVisible()
  }
}
async function enter(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Enter the room' }).click()
  await expect(page.getByRole('button', { name: 'Start the clock' })).toBeVisible()
}

/** To the review of the newest test. */
async function toReview(page: Page): Promise<void> {
  await open(page, 'Idrel Pellowick', 'Review')
  await page.getByRole('link', { name: 'Review', exact: true }).nth(1).click()
  await expect(page.getByRole('article')).toBeVisible()
}

/** Puts off what comes until a missed item is asked. */
async function toMissedItem(page: Page): Promise<void> {
  const asked = page.getByRole('article')
  for (let step = 0; step < 100; step++) {
    const label = await asked.getAttribute('aria-label')
    if (label?.endsWith('missed item')) return
    const before = await asked.innerHTML()
    await page.getByRole('button', { name: 'not today' }).click()
    await expect(async () => expect(await asked.innerHTML()).not.toBe(before)).toPass({ intervals: [50] })
  }
  throw new Error('no missed item came')
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
  ...['Answer key', 'Items and texts', 'Pictures'].map((view): [string, (page: Page) => Promise<void>] => [
    `a form: ${view}`,
    async (page) => {
      await page.goto(`${at('DEMO')}/exams`)
      await page.getByRole('link', { name: /Tidal Pilot/ }).click()
      await page.getByRole('button', { name: 'Practice tests', exact: true }).click()
      await page.getByRole('button', { name: 'Open Pilotage Board paper 2' }).click()
      await page.getByRole('button', { name: view, exact: true }).click()
      if (view.startsWith('Items'))
        await page
          .getByRole('button', { name: /item 3:/ })
          .first()
          .click()
    },
  ]),
  [
    'an adaptive section',
    async (page) => {
      await page.goto(`${at('DEMO')}/exams`)
      await page.getByRole('link', { name: 'Archive Cataloguers' }).click()
    },
  ],
  [
    'an exam described from its page',
    async (page) => {
      await page.goto(`${at('DEMO')}/new`)
      await page.getByRole('radio', { name: /^Another/ }).check()
      await page.getByRole('button', { name: 'Another section' }).click()
      await page.getByRole('button', { name: 'on a scale' }).click()
      await page.getByRole('button', { name: 'Cut, weight, sets, table' }).first().click()
      await page.getByRole('button', { name: 'Begin' }).click()
      await expect(page.getByText('Something of the exam is missing yet')).toBeVisible()
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
  ...[
    'Today',
    'Plan',
    'Scores',
    'What tests say',
    'Topics',
    'Gap',
    'Sit',
    'Review',
    'Recall',
    'Pacing',
    'Guessing',
    'Exam day',
  ].map((screen): [string, (page: Page) => Promise<void>] => [
    screen,
    (page) => open(page, 'Idrel Pellowick', screen),
  ]),
  [
    'the whole plan',
    async (page) => {
      await open(page, 'Idrel Pellowick', 'Plan')
      await page.getByRole('button', { name: /^all$/i }).click()
      await expect(page.locator('.whole')).toBeVisible()
    },
  ],
  [
    'go to, or do',
    async (page) => {
      await open(page, 'Idrel Pellowick', 'Plan')
      await page.keyboard.press('Control+k')
      await expect(page.getByRole('textbox', { name: 'Go to, or do' })).toBeFocused()
    },
  ],
  ...['Until the exam', 'Cards'].map((tab): [string, (page: Page) => Promise<void>] => [
    `recall: ${tab}`,
    async (page) => {
      await open(page, 'Idrel Pellowick', 'Recall')
      await page.getByRole('tab', { name: tab }).click()
      await expect(page.getByTestId(tab === 'Cards' ? 'found' : 'recalled')).toBeVisible()
    },
  ]),
  [
    'recall: one is asked, and shown',
    async (page) => {
      await open(page, 'Idrel Pellowick', 'Recall')
      await page.getByRole('button', { name: '10 min' }).click()
      await expect(page.getByRole('region', { name: 'Bring it back' })).toBeVisible()
      if (await page.getByTestId('show').isVisible()) await page.keyboard.press('Space')
    },
  ],
  [
    'recall: an item that was missed',
    async (page) => {
      await open(page, 'Idrel Pellowick', 'Recall')
      await page.getByRole('button', { name: '50 min' }).click()
      await toMissedItem(page)
    },
  ],
  [
    'recall: a card that does not stay',
    async (page) => {
      await open(page, 'Idrel Pellowick', 'Recall')
      await page.getByRole('region', { name: 'These do not stay' }).getByRole('link').first().click()
      await page.getByRole('button', { name: 'too much at once' }).click()
    },
  ],
  [
    'recall: a question with changed numbers is mended',
    async (page) => {
      await open(page, 'Idrel Pellowick', 'Recall')
      await page.getByRole('tab', { name: 'Cards' }).click()
      await page.getByLabel('Find').fill('You make {v}')
      await page.getByRole('button', { name: /^You make/ }).click()
      await expect(page.getByTestId('checked')).toBeVisible()
    },
  ],
  [
    'recall: many cards at once',
    async (page) => {
      await open(page, 'Idrel Pellowick', 'Recall')
      await page.getByRole('tab', { name: 'Cards' }).click()
      await page.getByRole('button', { name: 'Paste or read a table' }).click()
    },
  ],
  [
    'recall: ten to print',
    async (page) => {
      await open(page, 'Idrel Pellowick', 'Recall')
      await page.getByRole('tab', { name: 'Cards' }).click()
      await page.getByRole('link', { name: 'Print ten' }).click()
      await expect(page.getByRole('heading', { name: /^Key/ })).toBeVisible()
    },
  ],
  ...['Try again', 'Notebook', 'Causes over tests'].map((tab): [string, (page: Page) => Promise<void>] => [
    `reviews: ${tab}`,
    async (page) => {
      await open(page, 'Idrel Pellowick', 'Review')
      await page.getByRole('tab', { name: tab }).click()
      await expect(page.locator('.v-skeleton-loader')).toHaveCount(0)
    },
  ]),
  ['a review: an item to try again', (page) => toReview(page)],
  [
    'a review: its answer and causes',
    async (page) => {
      await toReview(page)
      await page.getByTestId('look').click()
      await expect(page.getByRole('group', { name: 'Cause' })).toBeVisible()
    },
  ],
  [
    'a review: causes by number, and what it comes to',
    async (page) => {
      await toReview(page)
      await page.getByRole('button', { name: 'By number' }).click()
      const list = page.getByRole('button', { name: 'List', exact: true })
      if (await list.isVisible()) await list.click()
      await page.getByRole('button', { name: 'What it comes to' }).click()
      await expect(page.getByRole('heading', { name: 'What the plan takes in' })).toBeVisible()
    },
  ],
  [
    'a review: shared',
    async (page) => {
      await toReview(page)
      await page.getByRole('button', { name: 'Share' }).click()
      await page.getByRole('button', { name: /an address|a new address/ }).click()
      const address = await page.getByLabel('Address, shown this once').inputValue()
      await page.goto(address)
      await expect(page.getByText('to read and to comment on')).toBeVisible()
    },
  ],
  [
    'a review on paper',
    async (page) => {
      await toReview(page)
      await page.getByRole('link', { name: 'Print' }).click()
      await expect(page.getByRole('heading', { name: /^Review: / })).toBeVisible()
    },
  ],
  [
    'a retest',
    async (page) => {
      await open(page, 'Idrel Pellowick', 'Review')
      await page.getByRole('tab', { name: 'Try again' }).click()
      await page
        .getByRole('link', { name: /as a set$/ })
        .first()
        .click()
      await expect(page.getByRole('article')).toBeVisible()
    },
  ],
  ...['In short', 'Exam', 'Where you stand', 'Target', 'Free time', 'Materials', 'How you work'].map(
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
      await expect(page.getByRole('heading', { name: 'Print the plan' })).toBeVisible()
    },
  ],
  ...['When to leave', 'Ways compared', 'Drill'].map((view): [string, (page: Page) => Promise<void>] => [
    `Pacing: ${view}`,
    async (page) => {
      await open(page, 'Maudra Okonby', 'Pacing')
      await page.getByRole('button', { name: view }).click()
      if (view !== 'Ways compared') return
      await choose(page, 'Sittings', '2 000')
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
    'what one test says',
    async (page) => {
      await open(page, 'Idrel Pellowick', 'What tests say')
      await choose(page, 'Test', /^Tidewise practice paper 1/)
      await expect(page.getByRole('application', { name: /every item in order/ })).toHaveCount(3)
    },
  ],
  ['before a test', (page) => toRoom(page, 'on screen')],
  ['a test on screen', (page) => toRoom(page, 'on screen', 'Start the clock')],
  [
    'all items of a test',
    async (page) => {
      await toRoom(page, 'on screen', 'Start the clock')
      await page.getByTestId('list').click()
    },
  ],
  [
    'the menu of a test',
    async (page) => {
      await toRoom(page, 'on screen', 'Start the clock')
      await page.getByRole('button', { name: /^Menu/ }).click()
    },
  ],
  ['a test on paper', (page) => toRoom(page, 'on paper', 'Start the clock')],
  ['a test by checkpoints', (page) => toRoom(page, 'on paper', 'only at checkpoints', 'Start the clock')],
  [
    'a break',
    async (page) => {
      await toRoom(page, 'on screen', 'Start the clock')
      await page.getByTestId('list').click()
      await page.getByRole('button', { name: 'Hand in Tides and streams' }).click()
      await page.getByRole('button', { name: 'Hand in now' }).click()
      await expect(page.getByTestId('break')).toBeVisible()
    },
  ],
  [
    'a test to be marked',
    async (page) => {
      await toRoom(page, 'on paper', 'Start the clock')
      await page.getByRole('button', { name: /^Menu/ }).click()
      await page.getByRole('button', { name: 'End the test here' }).click()
      await expect(page.getByRole('heading', { name: 'Mark it' })).toBeVisible()
    },
  ],
  [
    'logging a test',
    async (page) => {
      await open(page, 'Idrel Pellowick', 'Scores')
      await page.getByRole('button', { name: 'Log a test' }).click()
      await page.getByRole('button', { name: 'By topic' }).click()
    },
  ],
]
