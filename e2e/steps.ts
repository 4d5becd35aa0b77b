import { randomUUID } from 'node:crypto'
import type { Kind } from './servers'
import { expect, type Locator, type Page } from './test'

export function at(server: Kind): string {
  const address = process.env[`CLIMBER_${server}_URL`]
  if (!address)
    throw new Error(`this file asks for no ${server} server: test.use({ kinds: […, '${server}'] })`)
  return address
}

/** Waits until a screen is drawn: nothing is fetched, nothing stands in for what is to come, and it stays as it is for a moment. */
export async function drawn(page: Page): Promise<void> {
  await page.waitForLoadState('networkidle')
  const look = () =>
    page.evaluate(
      () =>
        `${location.href} ${document.querySelectorAll('*').length} ${document.querySelector('.v-skeleton-loader') === null}`,
    )
  let seen = ''
  const stays = async () => {
    const before = seen
    seen = await look()
    return seen === before && seen.endsWith('true')
  }
  await expect.poll(stays, { intervals: [300], timeout: 30_000 }).toBe(true)
}

/** Signs a demo account in. */
export async function enterDemo(page: Page, who: string): Promise<void> {
  await page.goto(`${at('DEMO')}/sign-in`)
  await page.getByRole('button', { name: who }).click()
  await page.waitForURL((address) => !address.pathname.includes('sign-in'))
}

/** The places with more than one part, and the parts. */
const partsOf: Record<string, string[]> = {
  Practise: ['Sit', 'Review', 'Recall', 'Pacing', 'Guessing'],
  Progress: ['Scores', 'What tests say', 'Topics', 'Gap'],
}
const inNav = (page: Page, nav: string, link: string): Locator =>
  page.getByRole('navigation', { name: nav, exact: true }).getByRole('link', { name: link, exact: true })

/** The menu behind the candidate's name. */
export const candidateMenu = (page: Page): Locator =>
  page.getByRole('button', { name: /: set-up, sharing and files$/ })

/** A place's own link; an empty screen may offer a second way there, which is not meant. */
export const placeLink = (page: Page, place: string): Locator => inNav(page, 'Places', place)

/** Goes to a screen of a candidate as a person does: by its place, and its part there. */
export async function goTo(page: Page, screen: string): Promise<void> {
  if (screen === 'Set-up') {
    await candidateMenu(page).click()
    await page.locator('.v-overlay a', { hasText: /^Set-up$/ }).click()
    return
  }
  const place = Object.keys(partsOf).find((one) => partsOf[one]?.includes(screen))
  await placeLink(page, place ?? screen).click()
  if (place) await inNav(page, place, screen).click()
}

/** Opens a screen of a demo candidate, as their tutor, by the links a person uses. */
export async function openDemo(page: Page, candidate: string, screen: string): Promise<void> {
  await page.goto(`${at('DEMO')}/`)
  const link = page.getByRole('link', { name: candidate })
  // Whoever is the only candidate there is taken to the day at once.
  await expect(link.or(candidateMenu(page).filter({ hasText: candidate })).first()).toBeVisible()
  if (await link.isVisible()) await link.click()
  await goTo(page, screen)
  await expect(page.getByTestId('plan-odds').or(page.getByTestId('forecast')).first()).toBeVisible()
}

export async function makeAccount(page: Page, server: 'EMPTY' | 'OTHER' | URL): Promise<void> {
  await page.goto(`${server instanceof URL ? server.origin : at(server)}/sign-in`)
  await page.getByRole('button', { name: 'I am new here' }).click()
  await page.getByLabel('Your name').fill('Tamsel Orrin')
  await page.getByLabel('E-mail').fill(`${randomUUID()}@mail.example`)
  await page.getByLabel('Password').fill('a long enough secret')
  await page.getByRole('button', { name: 'Make the account' }).click()
  await expect(page.getByRole('heading', { name: 'Plans' })).toBeVisible()
}

/** A new plan on the sample exam, left on Set-up where its baseline is entered. */
export async function beginPlan(page: Page): Promise<void> {
  await page.getByRole('link', { name: 'New plan' }).click()
  await page.getByRole('radio', { name: /Tidal Pilot's Certificate/ }).check()
  await page.getByRole('button', { name: 'Begin' }).click()
  await page.getByRole('tab', { name: 'Where you stand' }).click()
}

/** What stands chosen in a list that opens. */
export const chosenIn = (page: Page, label: string, scope: Page | Locator = page): Locator =>
  scope
    .locator('.v-select', { has: page.getByRole('combobox', { name: label }) })
    .locator('.v-select__selection')

/** Chooses from a list that opens. It may still move when it is pressed, on a busy machine: what was chosen is seen, or chosen again. */
export async function choose(scope: Page | Locator, label: string, option: string | RegExp): Promise<void> {
  const page = 'page' in scope ? scope.page() : scope
  const box = scope.getByRole('combobox', { name: label })
  const wanted = page.getByRole('option', { name: option, exact: typeof option === 'string' })
  await expect(async () => {
    if (!(await wanted.isVisible())) await box.press('ArrowDown')
    await wanted.click({ timeout: 10_000 })
    await expect(chosenIn(page, label, scope)).toHaveText(option, { timeout: 5000 })
  }).toPass({ timeout: 90_000 })
}

/** Adds a topic to some, by typing the beginning of its name. */
export async function addTopic(scope: Page | Locator, label: string, topic: string): Promise<void> {
  const page = 'page' in scope ? scope.page() : scope
  const box = scope.getByRole('combobox', { name: label, exact: true })
  await box.fill(topic)
  await page.getByRole('option', { name: topic, exact: true }).click()
  await box.press('Escape')
}

const baseline: Record<string, [number, number, number]> = {
  'Tides and streams': [18, 14, 8],
  'Passage work': [12, 11, 7],
  'Lights, marks and signals': [26, 13, 6],
}
export async function fillCounts(scope: Page | Locator, counts = baseline): Promise<void> {
  for (const [section, [right, wrong, blank]] of Object.entries(counts)) {
    await scope.getByLabel(`${section}: right`).fill(String(right))
    await scope.getByLabel(`${section}: wrong`).fill(String(wrong))
    await scope.getByLabel(`${section}: left blank`).fill(String(blank))
  }
}

/** Paints free time on a weekday, by mouse, between two times of day. */
export async function paint(page: Page, day: string, from: string, to: string): Promise<void> {
  const cell = (time: string) => page.getByRole('gridcell', { name: new RegExp(`^${day} ${time}:`) })
  await cell(from).hover()
  await page.mouse.down()
  await cell(to).hover({ force: true })
  await page.mouse.up()
}

/** Everything is stored. What was pressed last is on the disk, and said to be saving, only a moment later. */
export async function saved(page: Page): Promise<void> {
  await page.waitForTimeout(150)
  await expect(page.getByTestId('save-state')).toHaveText('Saved')
}

export const numberIn = async (locator: Locator): Promise<number> =>
  Number(/-?\d+/.exec((await locator.textContent()) ?? '')?.[0])

/** Asks the server as this page does. */
export async function ask<T>(page: Page, method: string, path: string, body?: object): Promise<T> {
  return page.evaluate(
    async ([verb, address, sent]) => {
      const { csrf } = (await (await fetch('/api/session')).json()) as { csrf: string }
      const answer = await fetch(address, {
        method: verb,
        headers: { 'content-type': 'application/json', 'x-csrf-token': csrf },
        ...(sent && { body: sent }),
      })
      if (!answer.ok) throw new Error(`${address}: ${answer.status} ${await answer.text()}`)
      return (await answer.json()) as T
    },
    [method, path, body && JSON.stringify(body)] as const,
  )
}

/** Sessions on the rulers whose name is cut off, or that have none. */
export const cutNames = (page: Page): Promise<string[]> =>
  page.locator('.rulers .session').evaluateAll((sessions) =>
    sessions.flatMap((session) => {
      const word = session.querySelector('.word')!
      const name = document.createRange()
      name.selectNodeContents(word)
      const [text, box] = [name.getBoundingClientRect(), session.getBoundingClientRect()]
      const fits = text.width > 0 && text.left >= box.left && text.right <= box.right + 0.5
      return fits ? [] : [`${word.textContent}: ${session.getAttribute('aria-label')}`]
    }),
  )
