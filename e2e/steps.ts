import { randomUUID } from 'node:crypto'
import { expect, type Locator, type Page } from './test'

export const at = (server: 'DEMO' | 'EMPTY' | 'OTHER'): string => process.env[`CLIMBER_${server}_URL`]!

/** Signs a demo account in. */
export async function enterDemo(page: Page, who: string): Promise<void> {
  await page.goto(`${at('DEMO')}/sign-in`)
  await page.getByRole('button', { name: who }).click()
  await page.waitForURL(`${at('DEMO')}/`)
}

/** A screen's own link; an empty screen may offer a second way there, which is not meant. */
export const screenLink = (page: Page, screen: string): Locator =>
  page.getByRole('navigation', { name: 'Screens' }).getByRole('link', { name: screen, exact: true })

/** Opens a screen of a demo candidate, as their tutor, by the links a person uses. */
export async function openDemo(page: Page, candidate: string, screen: string): Promise<void> {
  await page.goto(`${at('DEMO')}/`)
  await page.getByRole('link', { name: candidate }).click()
  await screenLink(page, screen).click()
  await expect(page.getByTestId('plan-odds').or(page.getByTestId('forecast')).first()).toBeVisible()
}

export async function makeAccount(page: Page, server: 'EMPTY' | 'OTHER'): Promise<void> {
  await page.goto(`${at(server)}/sign-in`)
  await page.getByRole('button', { name: 'I am new here' }).click()
  await page.getByLabel('Your name').fill('Tamsel Orrin')
  await page.getByLabel('E-mail').fill(`${randomUUID()}@mail.example`)
  await page.getByLabel('Password').fill('a long enough secret')
  await page.getByRole('button', { name: 'Make the account' }).click()
  await expect(page.getByRole('heading', { name: 'Plans' })).toBeVisible()
}

/** A new plan on the sample exam, left on Set-up. */
export async function beginPlan(page: Page): Promise<void> {
  await page.getByRole('link', { name: 'New plan' }).click()
  await page.getByRole('radio', { name: /Tidal Pilot's Certificate/ }).check()
  await page.getByRole('button', { name: 'Begin' }).click()
  await expect(page.getByRole('tab', { name: 'Where you stand' })).toBeVisible()
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

export async function saved(page: Page): Promise<void> {
  await expect(page.getByTestId('save-state')).toHaveText('Saved')
}

export const numberIn = async (locator: Locator): Promise<number> =>
  Number(/-?\d+/.exec((await locator.textContent()) ?? '')?.[0])
