// Pictures of the main views from a running demo, for docs/screenshots:
//   CLIMBER_NOW=2026-11-23T16:10:00Z PORT=4470 npm run demo
//   node scripts/pictures.mjs http://127.0.0.1:4470 docs/screenshots [view ...]
import { mkdirSync } from 'node:fs'
import path from 'node:path'
import { chromium as playwright } from '@playwright/test'
import { chromium } from './chromium.mjs'

const [base, folder, ...only] = process.argv.slice(2)
const idrel = 'Idrel Pellowick'
/** Name, who is signed in, candidate, screen, and what to do there first. */
const views = [
  ['sign-in', null],
  ['roster', 'Corvane Tessel'],
  ['today', 'Corvane Tessel', idrel, 'today'],
  ['plan', 'Corvane Tessel', idrel, 'plan'],
  ['replan', 'Corvane Tessel', idrel, 'plan', 'Re-plan'],
  ['plan-print', 'Corvane Tessel', idrel, 'plan', 'Print'],
  ['scores', 'Corvane Tessel', idrel, 'scores'],
  ['tests', 'Corvane Tessel', idrel, 'tests/5f0c9a00-0000-4000-8000-000200000003'],
  ['sit', 'Corvane Tessel', idrel, 'sit'],
  ['reviews', 'Corvane Tessel', idrel, 'review?part=causes'],
  ['review', 'Corvane Tessel', idrel, 'review/5f0c9a00-0000-4000-8000-000200000003', /show the answer/],
  ['recall', 'Corvane Tessel', idrel, 'recall'],
  ['recall-season', 'Corvane Tessel', idrel, 'recall?part=season'],
  ['room', 'Corvane Tessel', idrel, 'sit', ['Enter the room', 'Start the clock']],
  ['gap', 'Corvane Tessel', idrel, 'gap'],
  ['pacing', 'Corvane Tessel', 'Maudra Okonby', 'pacing'],
  ['pacing-leave', 'Corvane Tessel', 'Maudra Okonby', 'pacing', 'When to leave'],
  ['pacing-compare', 'Corvane Tessel', 'Maudra Okonby', 'pacing', ['Ways compared', 'Sit them']],
  ['pacing-drill', 'Corvane Tessel', 'Maudra Okonby', 'pacing', ['Drill', 'Start']],
  ['pace-card', 'Corvane Tessel', 'Maudra Okonby', 'card'],
  ['guessing', 'Corvane Tessel', idrel, 'guessing'],
  ['guessing-trainer', 'Corvane Tessel', idrel, 'guessing', ['Trainer', 'Begin']],
  ['exam-day', 'Corvane Tessel', 'Maudra Okonby', 'exam-day'],
  ['set-up-short', 'Corvane Tessel', 'Wenna Tarrowby', 'set-up', 'In short'],
  ['set-up-baseline', 'Corvane Tessel', 'Wenna Tarrowby', 'set-up', 'Where you stand'],
  ['set-up-target', 'Corvane Tessel', 'Wenna Tarrowby', 'set-up', 'Target'],
  ['set-up-time', 'Corvane Tessel', idrel, 'set-up', 'Free time'],
  ['set-up-materials', 'Corvane Tessel', idrel, 'set-up', 'Materials'],
  ['set-up-exam', 'Corvane Tessel', 'Wenna Tarrowby', 'set-up', 'Exam'],
  ['set-up-habits', 'Corvane Tessel', 'Wenna Tarrowby', 'set-up', 'How you work'],
  ['log-test', 'Corvane Tessel', idrel, 'scores', 'Log a test'],
  ['new', 'Corvane Tessel'],
  ['exams', 'Corvane Tessel'],
  // Item by item, with what was pressed on the way there.
  ['set-up-items', 'Corvane Tessel', 'Wenna Tarrowby', 'set-up', ['Where you stand', 'Item by item']],
  ['diagnosis', 'Corvane Tessel', idrel, 'diagnosis'],
  // An exam format: [name, who, exam title, part]
  ['exam-sections', 'Corvane Tessel', "Archive Cataloguers' Placement", 'exam', 'Sections'],
  ['exam-score', 'Corvane Tessel', 'Keeper of Garden Records', 'exam', 'Score'],
  ['exam-blueprint', 'Corvane Tessel', 'Warden of Old Timber, theory', 'exam', 'Blueprint'],
  ['exam-books', 'Corvane Tessel', 'Warden of Old Timber, theory', 'exam', 'Books'],
  ['exam-forms', 'Corvane Tessel', 'Keeper of Garden Records', 'exam', 'Practice tests'],
  [
    'exam-form',
    'Corvane Tessel',
    "Tidal Pilot's Certificate, second grade",
    'exam',
    ['Practice tests', 'Open Pilotage Board paper 2', 'Items and texts', /item 3:/],
  ],
  ['exam-rules', 'Corvane Tessel', 'Warden of Old Timber, theory', 'exam', 'Sittings and rules'],
]
const sizes = { wide: { width: 1280, height: 800 }, phone: { width: 390, height: 844 } }
const wanted = (name) => !only.length || only.some((one) => name === one || name.startsWith(`${one}@`))

mkdirSync(folder, { recursive: true })
const browser = await playwright.launch(chromium)
for (const [size, viewport] of Object.entries(sizes))
  for (const scheme of process.env.SCHEME ? [process.env.SCHEME] : ['light']) {
    const page = await browser.newPage({ viewport, colorScheme: scheme })
    page.on(
      'console',
      (message) =>
        ['error', 'warning'].includes(message.type()) &&
        console.log(`${size}: ${message.text().slice(0, 200)}`),
    )
    page.on('pageerror', (error) => console.log(`${size}: ${error.message}`))
    let signed = null
    for (const [name, who, candidate, screen, press] of views) {
      if (!wanted(name) || (process.env.SIZE && process.env.SIZE !== size)) continue
      if (who !== signed) {
        await page.goto(`${base}/sign-in`)
        await page.getByRole('button', { name: who }).click()
        await page.waitForURL(`${base}/`)
        signed = who
      }
      if (!who) await page.goto(`${base}/sign-in`)
      else if (screen === 'exam') {
        await page.goto(`${base}/exams`)
        await page.getByRole('link', { name: candidate }).click()
        await page
          .getByRole('navigation', { name: 'Parts of the exam format' })
          .getByRole('button', { name: [press].flat()[0] })
          .click()
        for (const one of [press].flat().slice(1))
          await page.getByRole('button', { name: one }).first().click()
      } else if (name === 'new' || name === 'exams') await page.goto(`${base}/${name}`)
      else {
        await page.goto(`${base}/`)
        await page.getByTestId('roster-row').first().waitFor()
        if (candidate) {
          await page.getByRole('link', { name: candidate }).click()
          await page.waitForURL(/\/c\//)
          const id = /\/c\/([^/]+)/.exec(page.url())[1]
          await page.goto(`${base}/c/${id}/${screen}`)
          for (const one of press ? [press].flat() : [])
            await page
              .getByRole(screen === 'set-up' && one === [press].flat()[0] ? 'tab' : 'button', { name: one })
              .click()
        }
      }
      await page.waitForLoadState('networkidle')
      await page.getByTestId('levers-waiting').waitFor({ state: 'detached' })
      await page.locator('.v-skeleton-loader').first().waitFor({ state: 'detached' })
      await page.waitForTimeout(
        ['replan', 'pace-card'].includes(name) ? 1500 : name === 'pacing-compare' ? 6000 : 400,
      )
      await page.screenshot({ path: path.join(folder, `${name}@${size}.png`) })
    }
    await page.close()
  }
await browser.close()
