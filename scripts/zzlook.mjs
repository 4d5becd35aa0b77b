import { chromium as playwright } from '@playwright/test'
import { chromium } from './chromium.mjs'
const base = 'http://127.0.0.1:4480'
const size = process.argv[2] ?? 'wide'
const what = (process.argv[3] ?? 'time').split(',')
const browser = await playwright.launch(chromium)
const page = await browser.newPage({ viewport: size === 'wide' ? { width: 1280, height: 800 } : { width: 390, height: 844 } })
page.on('pageerror', (e) => console.log('ERR', e.message))
page.on('console', (m) => ['error', 'warning'].includes(m.type()) && console.log(m.text().slice(0, 200)))
await page.goto(base)
await page.getByRole('button', { name: /Corvane Tessel/ }).click()
await page.waitForTimeout(800)
const link = page.getByRole('link', { name: /Idrel Pellowick/ }).first()
const href = await link.getAttribute('href')
const id = /c\/([^/]+)/.exec(href)[1]
const shot = (name, full) => page.screenshot({ path: `/tmp/look/p/${name}-${size}.png`, fullPage: Boolean(full) })
const go = async (p) => { await page.goto(`${base}/c/${id}/${p}`); await page.waitForLoadState('networkidle'); await page.waitForTimeout(500) }
if (what.includes('time')) {
  await go('set-up')
  await page.getByRole('tab', { name: 'Free time' }).click()
  await page.waitForTimeout(500)
  const holidays = page.getByTestId('holidays')
  await holidays.getByLabel('Another holiday').fill('26 Dec')
  await holidays.getByLabel('What it is called').fill('Harbour Day')
  await holidays.getByRole('button', { name: 'Add the holiday' }).click()
  const weekly = page.getByTestId('weekly')
  await weekly.getByLabel('What is on').fill('Choir')
  await weekly.getByRole('button', { name: 'Add it' }).click()
  await page.waitForTimeout(800)
  await holidays.scrollIntoViewIfNeeded()
  await shot('time')
  await weekly.scrollIntoViewIfNeeded()
  await shot('time2')
  await shot('time-full', true)
}
if (what.includes('anew')) {
  await go('set-up')
  await page.getByTestId('make-plan').click()
  await page.getByTestId('replan-odds').waitFor()
  await page.waitForTimeout(1500)
  await shot('anew')
}
if (what.includes('today')) { await go('today'); await shot('today') }
if (what.includes('plan')) { await go('plan'); await shot('plan') }
if (what.includes('replan')) { await go('plan?replan=mend'); await page.waitForTimeout(1500); await shot('replan') }
if (what.includes('compare')) {
  await go('set-up')
  await page.getByRole('tab', { name: 'How you work' }).click()
  await page.getByRole('button', { name: 'Compare' }).click()
  await page.getByTestId('compared').waitFor({ timeout: 60000 })
  await page.getByTestId('compared').scrollIntoViewIfNeeded()
  await page.getByRole('button', { name: 'by kind' }).click()
  await page.waitForTimeout(500)
  await shot('compare')
}
for (const one of what.filter((w) => w.startsWith('go:'))) { await go(one.slice(3)); await shot(one.slice(3).replace(/\W/g, '-')) }
await browser.close()
