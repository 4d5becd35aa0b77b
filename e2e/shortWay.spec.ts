import { expect, type Page, test } from './test'
import { countHands } from './hands'
import { beginPlan, choose, makeAccount, saved } from './steps'

test.use({ kinds: ['EMPTY'] })

const region = (page: Page, name: string) => page.getByRole('region', { name, exact: true })
const field = (page: Page, where: string, name: string) =>
  region(page, where).getByRole('textbox', { name, exact: true })

/** What e2e/sixth-exam.md says: one paper in per cent, four days to choose from, topics by their number of items. */
async function typeSixth(page: Page): Promise<void> {
  await page.getByLabel('What the exam is called').fill("Lamp Warden's Card")
  await field(page, 'The paper', 'Time').fill('1:30')
  await page.getByRole('button', { name: 'Other items in it, too' }).click()
  await field(page, 'The paper', 'Items (1)').fill('60')
  await field(page, 'The paper', 'Items (2)').fill('20')
  await field(page, 'The paper', 'Marks each (2)').fill('2')
  await field(page, 'The paper', 'Topics, one a line').fill(
    'Wicks and burners 24\nOils 16\nGlass and mirrors 14\nBearings of a light 14\nThe log 12',
  )
  await field(page, 'The paper', 'Items (1)').focus()
  await page.getByRole('button', { name: 'numbers of items' }).click()
  await page.getByRole('button', { name: 'in per cent' }).click()
  await field(page, 'Result', 'Pass mark, if there is one').fill('70')
  await field(page, 'Sittings', 'Day').fill('2 Mar 2030')
  await field(page, 'Sittings', 'Start').fill('10')
  for (const [at, day] of ['1 Jun 2030', '7 Sep 2030', '7 Dec 2030'].entries()) {
    await page.getByRole('button', { name: 'Another day to choose from' }).click()
    await field(page, 'Sittings', `Day ${at + 2}`).fill(day)
  }
}

/** What e2e/seventh-exam.md says: two papers, one written, each on a scale, a cut and a weight. */
async function typeSeventh(page: Page): Promise<void> {
  await page.getByLabel('What the exam is called').fill('Clerk of the Harbour Chronicle')
  await field(page, 'The paper', 'Section').fill('Reading old hands')
  await field(page, 'Reading old hands', 'Time').fill('1h15')
  await field(page, 'Reading old hands', 'Items').fill('45')
  await field(page, 'Reading old hands', 'Options').fill('5')
  await field(page, 'Reading old hands', 'Wrong costs').fill('1/4')
  await field(page, 'Reading old hands', 'Topics, one a line').fill(
    'Letters and registers 40%\nCharters 35%\nSeals and marks 25%',
  )
  await page.getByRole('button', { name: 'Cut, weight, sets' }).click()
  await field(page, 'Reading old hands', 'Must reach by itself').fill('20')
  await field(page, 'Reading old hands', 'Items on one text').fill('5')
  await page.getByRole('button', { name: 'Another section' }).click()
  await field(page, 'Section 2', 'Section').fill('Summaries')
  await field(page, 'Summaries', 'Time').fill('2h')
  await choose(region(page, 'Summaries'), 'Answered with', 'written, marked by hand')
  await field(page, 'Summaries', 'Items').fill('3')
  await field(page, 'Summaries', 'Marks each').fill('20')
  await field(page, 'Summaries', 'Topics, one a line').fill('A letter\nAn inventory\nA dispute')
  await region(page, 'Summaries').getByRole('button', { name: 'Cut, weight, sets' }).click()
  await field(page, 'Summaries', 'Items on one text').fill('')
  await field(page, 'Summaries', 'Weighs').fill('2')
  await field(page, 'Reading old hands', 'Break after it').fill('30')
  await page.getByRole('button', { name: 'on a scale' }).click()
  await field(page, 'Result', 'Each section from').fill('0')
  await field(page, 'Result', 'To').fill('50')
  await field(page, 'Result', 'Pass mark, if there is one').fill('90')
  await field(page, 'Sittings', 'Day').fill('12 Jun 2030')
  await field(page, 'Sittings', 'Register by').fill('1 May 2030')
}

/** From Set-up’s one page to a plan: what one knows, and when one is free; target and day are taken. */
async function shortWay(page: Page, stands: () => Promise<void>): Promise<void> {
  await expect(page.getByRole('tab', { name: 'In short' })).toHaveAttribute('aria-selected', 'true')
  await stands()
  await page.getByRole('button', { name: 'Evenings and Saturday morning' }).click()
  await expect(page.getByText('taken until you choose')).toBeVisible()
  await saved(page)
  await page.getByTestId('make-plan').click()
  await expect(page).toHaveURL(/\/plan/)
  await expect(page.getByTestId('plan-odds')).toBeVisible()
}

/** Somebody who counted nothing says how sure they are of three topics. */
const rates = (page: Page, topics: string[]) => async () => {
  await page.getByRole('button', { name: 'how sure I am of each topic' }).click()
  for (const topic of topics)
    await page
      .getByRole('group', { name: `${topic}: your rating` })
      .getByRole('button', { name: 'weak' })
      .click()
}

for (const [size, viewport] of [
  ['on a phone', { width: 390, height: 844 }],
  ['on a desk', { width: 1280, height: 800 }],
] as const)
  test.describe(size, () => {
    test.use({ viewport })
    for (const [title, type, topics] of [
      ["Lamp Warden's Card", typeSixth, ['Oils', 'The log', 'Bearings of a light']],
      ['Clerk of the Harbour Chronicle', typeSeventh, ['Charters', 'A dispute']],
    ] as const)
      test(`from nothing to a plan for ${title}, typed from its page`, async ({ page }) => {
        test.setTimeout(180_000)
        const hands = await countHands(page)
        await makeAccount(page, 'EMPTY')
        await page.getByRole('link', { name: 'New plan' }).first().click()
        await page.getByRole('radio', { name: /^Another/ }).check()
        await type(page)
        await page.keyboard.press('Tab')
        await expect(region(page, 'As it is understood')).toBeVisible()
        await page.getByRole('button', { name: 'Begin' }).click()
        await shortWay(page, rates(page, [...topics]))
        const { fields, presses, keys, minutes } = await hands()
        console.log(
          `${title} ${size}: ${fields} fields, ${presses} presses, ${keys} keys, ${minutes.toFixed(1)} min by hand`,
        )
        expect(fields + presses).toBeLessThan(60)
        expect(minutes).toBeLessThan(10)
      })
    test('from nothing to a plan for an exam that ships', async ({ page }) => {
      const hands = await countHands(page)
      await makeAccount(page, 'EMPTY')
      await page.getByRole('link', { name: 'New plan' }).first().click()
      await page.getByRole('radio', { name: /Tidal Pilot's Certificate/ }).check()
      await page.getByRole('button', { name: 'Begin' }).click()
      await shortWay(page, async () => {
        await page.getByRole('button', { name: 'In all' }).click()
        await page.getByLabel('In all: right').fill('56')
        await page.getByRole('button', { name: 'the rest were wrong' }).click()
      })
      const { fields, presses, minutes } = await hands()
      console.log(
        `an exam that ships, ${size}: ${fields} fields, ${presses} presses, ${minutes.toFixed(1)} min by hand`,
      )
      expect(fields + presses).toBeLessThan(25)
      expect(minutes).toBeLessThan(3)
    })
  })

test('what is wrong is said at its field, no press is lost to it, and a reload keeps what was typed', async ({
  page,
}) => {
  await makeAccount(page, 'EMPTY')
  await page.getByRole('link', { name: 'New plan' }).first().click()
  await page.getByRole('radio', { name: /^Another/ }).check()
  await page.getByLabel('What the exam is called').fill('Bell Founder')
  await field(page, 'The paper', 'Topics, one a line').fill('Moulds 30%\nBronze 40%')
  // Leaving the field says what is wrong with it, and the press that left it still counts.
  await page.getByRole('button', { name: 'Another section' }).click()
  await expect(region(page, 'Section 2')).toBeVisible()
  await expect(region(page, 'Section 1')).toContainText('they come to 70%, not to 100%')
  await page.reload()
  await expect(page.getByText('This was begun before and kept in this browser.')).toBeVisible()
  await expect(page.getByLabel('What the exam is called')).toHaveValue('Bell Founder')
  await expect(field(page, 'Section 1', 'Topics, one a line')).toHaveValue('Moulds 30%\nBronze 40%')
  await page.getByRole('button', { name: 'Begin', exact: true }).click()
  await expect(page.getByText('Something of the exam is missing yet; it is marked above.')).toBeVisible()
  await expect(field(page, 'Section 1', 'Time')).toBeFocused()
  await page.getByRole('button', { name: 'Begin again' }).click()
  await expect(page.getByLabel('What the exam is called')).toHaveValue('')
})

test('free time is typed, told by its line where it cannot be read, and painted', async ({ page }) => {
  await makeAccount(page, 'EMPTY')
  await beginPlan(page)
  await page.getByRole('tab', { name: 'In short' }).click()
  const typed = page.getByRole('textbox', { name: 'Free to study, days and times a line' })
  await typed.fill('Mon-Thu 19-21\nSaturdy 9-12')
  await typed.blur()
  await expect(page.getByText('Line 2: "Saturdy" is no day of the week')).toBeVisible()
  await expect(typed).toHaveValue('Mon-Thu 19-21\nSaturdy 9-12')
  await typed.fill('Mon-Thu 19-21\nSaturday 9-12')
  await typed.blur()
  await expect(typed).toHaveValue('Mon-Thu 19:00-21:00\nSat 09:00-12:00')
  await expect(page.getByText('11 h a week')).toBeVisible()
  // A block over two days and two hours.
  await page.getByRole('gridcell', { name: /^Sat 14:00:/ }).hover()
  await page.mouse.down()
  await page.getByRole('gridcell', { name: /^Sun 15:30:/ }).hover({ force: true })
  await page.mouse.up()
  await expect(typed).toHaveValue('Mon-Thu 19:00-21:00\nSat 09:00-12:00, 14:00-16:00\nSun 14:00-16:00')
  await saved(page)
})
