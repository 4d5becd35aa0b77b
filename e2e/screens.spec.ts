import { expect, test } from './test'
import { at, candidateMenu, cutNames, enterDemo, goTo, numberIn, openDemo } from './steps'

test.describe.configure({ mode: 'serial' })

test('Plan: weeks, the horizon’s window, and each session’s reason', async ({ page }) => {
  await enterDemo(page, 'Corvane Tessel')
  await openDemo(page, 'Wenna Tarrowby', 'Plan')
  const firstDay = page.locator('.day .name').first()
  await expect(firstDay).toHaveText('Mo 14 Jan')
  await page.getByRole('button', { name: 'A week later' }).click()
  await expect(firstDay).toHaveText('Mo 21 Jan')
  await page.getByRole('slider', { name: 'First week shown' }).focus()
  await page.keyboard.press('ArrowRight')
  await expect(firstDay).toHaveText('Mo 28 Jan')
  await page.getByRole('button', { name: 'Today', exact: true }).click()
  await expect(firstDay).toHaveText('Mo 14 Jan')
  await page.getByRole('button', { name: '1 week' }).click()
  await expect(page.locator('.day:not(.head)')).toHaveCount(7)
  await page.getByRole('button', { name: '6 weeks' }).click()
  const ofTests = (kind: string) => page.locator(`.session.kind-test[aria-label*=": ${kind},"]`)
  await ofTests('Test').first().click()
  await expect(page.getByRole('complementary')).toContainText(
    /A rehearsal with|A test about every \d+ days|A whole test shows/,
  )
  await ofTests('Section').first().click()
  await expect(page.getByRole('complementary')).toContainText(
    /under the clock.*one section at its exam length/,
  )
  const review = page.locator('.session.kind-review').first()
  await review.click()
  await expect(page.getByRole('complementary')).toContainText(
    /of review that this test is worth: 1.5 times its own length/,
  )
  const learn = page.locator('.session.kind-learn').first()
  await learn.click()
  await expect(page.getByRole('complementary')).toContainText(
    /an hour counts for about .* points towards the target and every cut|No hour counts for more just then|a touch brings it back/,
  )
})

test('Plan: each session is named, and no name is cut, however many weeks are in sight', async ({ page }) => {
  await enterDemo(page, 'Corvane Tessel')
  let seen = 0
  for (const name of ['Idrel Pellowick', 'Wenna Tarrowby', 'Maudra Okonby']) {
    await openDemo(page, name, 'Plan')
    for (const weeks of ['6 weeks', '2', '1 week']) {
      await page.getByRole('button', { name: weeks, exact: true }).click()
      for (let step = 0; step < 3; step++) {
        await expect(page.locator('.rulers .session').first()).toBeVisible()
        expect(await cutNames(page), `${name}, ${weeks}`).toEqual([])
        seen += await page.locator('.rulers .session').count()
        await page.getByRole('button', { name: 'A week later' }).click()
      }
    }
  }
  expect(seen).toBeGreaterThan(200)
})

test('Set-up: the effect of making the plan again is shown before, and is what comes', async ({ page }) => {
  await enterDemo(page, 'Corvane Tessel')
  await openDemo(page, 'Idrel Pellowick', 'Set-up')
  const again = page.getByTestId('again-odds')
  await expect(again).toHaveText(/%/)
  const before = await again.textContent()
  await page.getByRole('tab', { name: 'Target' }).click()
  await page.getByLabel('The score you need').fill('325')
  await expect(again).toHaveText(/%/)
  await expect(again).not.toHaveText(before!)
  await page.getByLabel('The score you need').fill('345')
  await expect(again).toHaveText(before!)
  // The plan that stands gives way to no other unseen.
  await page.getByTestId('make-plan').click()
  await expect(page).toHaveURL(/\/plan\?replan=anew$/)
  const preview = page.getByTestId('replan')
  await expect(preview.getByTestId('replan-odds')).toHaveText(before!)
  await expect(preview.getByRole('button', { name: /Make it anew/ })).toHaveAttribute('aria-pressed', 'true')
  await preview.getByRole('button', { name: 'Accept' }).click()
  await expect(page.getByTestId('said')).toHaveText('The new plan is kept.')
  await expect(page.getByTestId('plan-odds')).toHaveText(before!)
})

test('Gap: another score asks for other losses, and more hours go where they pay', async ({ page }) => {
  await enterDemo(page, 'Corvane Tessel')
  await openDemo(page, 'Idrel Pellowick', 'Gap')
  const needed = page.getByText(/Raw [\d.]+ needed/).first()
  const first = (await needed.textContent())!
  await page.getByLabel('Tides and streams: scaled score wanted').fill('120')
  await expect(needed).not.toHaveText(first)
  const said = page.getByTestId('hours')
  const points = async () => Number(/bring (\d+) points/.exec((await said.textContent()) ?? '')?.[1])
  const before = await points()
  const slider = page.getByRole('slider', { name: 'Hours to share out' })
  await slider.focus()
  for (let hour = 0; hour < 15; hour++) await page.keyboard.press('ArrowRight')
  await expect.poll(points).toBeGreaterThan(before)
  await page.getByRole('button', { name: /there are$/ }).click()
  await expect.poll(points).toBe(before)
})

test('Gap: the next hour, the hours needed and the telling questions open to what they rest on', async ({
  page,
}) => {
  await enterDemo(page, 'Corvane Tessel')
  await openDemo(page, 'Idrel Pellowick', 'Gap')
  const next = page
    .getByTestId('topics')
    .getByRole('button', { name: /, the next hour: where this comes from$/ })
    .first()
  const told = await next.innerText()
  await next.click()
  const why = page.locator('.v-overlay .why')
  const [, gain, hours, points] = /([\d.]+) \/ ([\d.]+) = ([\d.]+) points/.exec(await why.innerText())!
  expect(points).toBe(told)
  expect(Math.abs(Number(gain) / Number(hours) - Number(points))).toBeLessThan(0.15)
  await expect(why).toContainText('Towards the target and every cut')
  await page.keyboard.press('Escape')
  await page
    .getByTestId('explored')
    .getByRole('button', { name: /^Hours needed/ })
    .click()
  const plans = page.locator('.v-overlay .why').getByRole('row')
  await expect(plans.filter({ hasText: 'no study but the tests' })).toBeVisible()
  const odds = (await page.getByTestId('plan-odds').innerText()).trim()
  await expect(plans.filter({ hasText: /^your plan/ })).toContainText(odds)
  await page.keyboard.press('Escape')

  await goTo(page, 'Topics')
  await page.getByRole('button', { name: 'the odds', exact: true }).click()
  await expect(
    page.getByText(/more questions, spread like this, are expected to move the odds/),
  ).toBeVisible()
  await expect(page.getByTestId('telling').getByRole('listitem').first()).toContainText('up or down')
})

test('Scores: every number opens, and a deleted test comes back', async ({ page }) => {
  await enterDemo(page, 'Corvane Tessel')
  await openDemo(page, 'Idrel Pellowick', 'Scores')
  const before = await numberIn(page.getByTestId('forecast'))
  await page.getByRole('button', { name: /Forecast for exam day: where this comes from/ }).click()
  await expect(page.getByText(/says that you learn at\s+\d/)).toBeVisible()
  await page.keyboard.press('Escape')
  const rows = page.getByTestId('tests').getByRole('row')
  const count = await rows.count()
  await rows.nth(1).getByRole('button', { name: 'Delete' }).click()
  await expect(rows).toHaveCount(count - 1)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(rows).toHaveCount(count)
  await expect.poll(() => numberIn(page.getByTestId('forecast'))).toBe(before)
  await rows.nth(1).getByRole('button', { name: 'Edit' }).click()
  const right = page.getByRole('dialog').getByLabel('Passage work: right')
  const was = Number(await right.inputValue())
  await right.fill(String(was + 40))
  await page.getByRole('button', { name: 'Keep it' }).click()
  await expect(page.getByRole('dialog')).toContainText(/too many/)
  await expect(right).toHaveValue(String(was + 40))
  await page.getByRole('button', { name: 'Not now' }).click()
})

test('nobody reads another’s plan by its address, and signing out ends it', async ({ page, browser }) => {
  // A candidate alone is on the day at once.
  await enterDemo(page, 'Wenna Tarrowby')
  await page.getByTestId('next-title').waitFor()
  const address = page.url()
  const other = await (await browser.newContext()).newPage()
  await enterDemo(other, 'Idrel Pellowick')
  await other.goto(address)
  await expect(other.getByText('There is nothing here that you may see.')).toBeVisible()
  await page.getByRole('button', { name: /^Account/ }).click()
  await page.getByText('Sign out', { exact: true }).click()
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible()
  await page.goto(address)
  await expect(page).toHaveURL(new RegExp(`^${at('DEMO')}/sign-in\\?to=`))
})

test('the chosen theme stays', async ({ page }) => {
  await enterDemo(page, 'Corvane Tessel')
  await page.getByRole('button', { name: 'Light or dark' }).click()
  await expect(page.locator('.v-application')).toHaveClass(/v-theme--dark/)
  await page.reload()
  await expect(page.locator('.v-application')).toHaveClass(/v-theme--dark/)
})

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true })
  test('the week stands upright and a tap frees half an hour', async ({ page }) => {
    await enterDemo(page, 'Corvane Tessel')
    await openDemo(page, 'Wenna Tarrowby', 'Set-up')
    await page.getByRole('tab', { name: 'Free time' }).click()
    const cell = page.getByRole('gridcell', { name: /^Wed 19:00:/ })
    const box = (await cell.boundingBox())!
    expect(box.width).toBeGreaterThan(40)
    await cell.tap()
    await expect(page.getByRole('gridcell', { name: 'Wed 19:00: free' })).toBeVisible()
    await page.getByRole('gridcell', { name: 'Wed 19:00: free' }).tap()
    await expect(page.getByRole('gridcell', { name: 'Wed 19:00: not free' })).toBeVisible()
    // A finger that moves on scrolls; one that rests first paints along.
    await cell.scrollIntoViewIfNeeded()
    const touch = await page.context().newCDPSession(page)
    const finger = (type: 'touchStart' | 'touchMove' | 'touchEnd', x: number, y: number) =>
      touch.send('Input.dispatchTouchEvent', { type, touchPoints: type === 'touchEnd' ? [] : [{ x, y }] })
    const drag = async (rest: number) => {
      const { x, y, width, height } = (await cell.boundingBox())!
      const [middle, top] = [x + width / 2, y + height / 2]
      await finger('touchStart', middle, top)
      await page.waitForTimeout(rest)
      for (let by = 1; by <= 3; by++) {
        await finger('touchMove', middle, top + by * height)
        await page.waitForTimeout(50)
      }
      await finger('touchEnd', middle, top + 3 * height)
    }
    const free = () => page.getByRole('gridcell', { name: /^Wed (19|20):.0: free$/ }).count()
    const scrolled = () => page.evaluate(() => scrollY)
    const before = await scrolled()
    await drag(0)
    expect(await free()).toBe(0)
    await drag(700)
    await expect.poll(free).toBe(4)
    expect(Math.abs((await scrolled()) - before)).toBeLessThan(80)
  })
})

test('the plan has a private calendar address, shown once, that ends when it is ended', async ({
  page,
  request,
}) => {
  await enterDemo(page, 'Corvane Tessel')
  await openDemo(page, 'Maudra Okonby', 'Today')
  await candidateMenu(page).click()
  await page.getByText('Calendar address', { exact: true }).click()
  await page.getByRole('button', { name: 'Make an address' }).click()
  const address = await page.getByRole('textbox', { name: 'Calendar address' }).inputValue()
  expect(address).toMatch(/\/api\/feeds\/[\w-]{32}\/plan\.ics$/)
  const read = await request.get(address)
  expect(read.headers()['content-type']).toContain('text/calendar')
  expect(await read.text()).toContain('BEGIN:VEVENT')
  await page.getByRole('button', { name: 'End it' }).click()
  await expect(page.getByRole('button', { name: 'Make an address' })).toBeVisible()
  expect((await request.get(address)).status()).toBe(404)
})
