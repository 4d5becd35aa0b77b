import { randomUUID } from 'node:crypto'
import { at, enterDemo, makeAccount, openDemo } from '../../e2e/steps'
import { expect, test } from '../../e2e/test'
import { allowed } from '../shared/machine'

/** A time beside what is wished for, which is longer by as much as this machine is slower just now than usual. */
const against = (what: string, milliseconds: number, wished: number): void =>
  console.log(`${what}: ${(milliseconds / allowed(wished)).toFixed(2)} of the ${wished} ms wished for`)

test('a changed field moves the verdict within a tenth of a second', async ({ page }) => {
  await enterDemo(page, 'Corvane Tessel')
  await openDemo(page, 'Wenna Tarrowby', 'Set-up')
  await page.getByRole('tab', { name: 'Target' }).click()
  await page.getByTestId('verdict-odds').waitFor()
  const waits: number[] = []
  for (const target of [250, 330, 260, 340, 270, 350, 280, 290, 312]) {
    waits.push(
      await page.evaluate(async (text) => {
        const field = document.querySelector<HTMLInputElement>('#target')!
        const verdict = document.querySelector('[data-testid="verdict-odds"]')!
        const begun = performance.now()
        return new Promise<number>((resolve) => {
          new MutationObserver((_changes, observer) => {
            observer.disconnect()
            resolve(performance.now() - begun)
          }).observe(verdict, { characterData: true, subtree: true, childList: true })
          field.value = text
          field.dispatchEvent(new Event('input', { bubbles: true }))
        })
      }, String(target)),
    )
    await page.waitForTimeout(150)
  }
  const sorted = waits.sort((a, b) => a - b)
  console.log(
    `verdict after a changed field: median ${sorted[4]!.toFixed(0)} ms, most ${sorted[8]!.toFixed(0)} ms`,
  )
  against('median', sorted[4]!, 100)
})

test('a lever moved on Gap moves the whole verdict within 100 ms, and every other lever within 600', async ({
  page,
}) => {
  await enterDemo(page, 'Corvane Tessel')
  await openDemo(page, 'Wenna Tarrowby', 'Gap')
  await page.getByTestId('explored').getByTestId('levers').waitFor()
  const waits: { verdict: number; levers: number }[] = []
  for (const [lever, value] of [
    ['minutes', 60],
    ['target', 300],
    ['minutes', 240],
    ['target', 330],
    ['minutes', 120],
    ['target', 318],
    ['minutes', 300],
  ] as const) {
    waits.push(
      await page.evaluate(
        async ([name, to]) => {
          const field = document.querySelector<HTMLInputElement>(`[data-testid="lever-${name}"]`)!
          const explored = document.querySelector('[data-testid="explored"]')!
          const odds = explored.querySelector('.odds')!
          const before = odds.textContent
          const begun = performance.now()
          return new Promise<{ verdict: number; levers: number }>((resolve) => {
            let [verdict, gone] = [0, false]
            const look = (observer: MutationObserver) => {
              if (!verdict && explored.querySelector('.odds')?.textContent !== before)
                verdict = performance.now() - begun
              const told = explored.querySelector('[data-testid="levers"]')
              gone ||= !told
              if (!verdict || !gone || !told) return
              observer.disconnect()
              resolve({ verdict, levers: performance.now() - begun })
            }
            new MutationObserver((_changes, observer) => look(observer)).observe(explored, {
              characterData: true,
              subtree: true,
              childList: true,
            })
            field.value = String(to)
            field.dispatchEvent(new Event('input', { bubbles: true }))
          })
        },
        [lever, value] as const,
      ),
    )
    await page.waitForTimeout(150)
  }
  for (const [what, wished] of [
    ['verdict', 100],
    ['levers', 600],
  ] as const) {
    const sorted = waits.map((wait) => wait[what]).sort((a, b) => a - b)
    console.log(`lever to ${what}: median ${sorted[3]!.toFixed(0)} ms, most ${sorted[6]!.toFixed(0)} ms`)
    against('median', sorted[3]!, wished)
  }
})

test('while 100 000 sittings are simulated the page stays responsive: no task over 50 ms', async ({
  page,
}) => {
  await enterDemo(page, 'Corvane Tessel')
  await openDemo(page, 'Maudra Okonby', 'Pacing')
  await page.getByRole('button', { name: 'Ways compared' }).click()
  await page.getByLabel('Sittings').selectOption('100000')
  // Pressed and awaited in the page: finding by role and name is the tester's own work, and would be measured too.
  const sit = () =>
    page.evaluate(async () => {
      const tasks: number[] = []
      const observer = new PerformanceObserver((list) =>
        list.getEntries().forEach(({ duration }) => tasks.push(duration)),
      )
      observer.observe({ type: 'longtask', buffered: false })
      const button = [...document.querySelectorAll('button')].find(
        ({ textContent }) => textContent.trim() === 'Sit them',
      )!
      const page = document.querySelector('main')!
      const begun = performance.now()
      button.click()
      const stopShown = () =>
        [...page.querySelectorAll('button')].some((one) => one.textContent.trim() === 'Stop')
      for (const wanted of [true, false])
        await new Promise<void>((resolve) => {
          const changes = new MutationObserver(() => look())
          const look = () => {
            if (stopShown() !== wanted) return
            changes.disconnect()
            resolve()
          }
          changes.observe(page, { subtree: true, childList: true })
          look()
        })
      const took = performance.now() - begun
      await new Promise((resolve) => setTimeout(resolve, 300))
      observer.disconnect()
      return { took, longest: Math.max(0, ...tasks) }
    })
  // A busy machine can only add to a task, so the best of three is the page's own.
  const tries: number[] = []
  do {
    const { took, longest } = await sit()
    tries.push(longest)
    console.log(`7 ways x 100 000 sittings of 40 items: ${Math.round(took)} ms; longest task ${longest} ms`)
    await expect(page.getByTestId('approaches').locator('tbody tr')).toHaveCount(7)
  } while (tries.at(-1)! > 50 && tries.length < 3)
  against('longest task', Math.min(...tries), 50)
})

test('the table of guessing moves with its question within a tenth of a second', async ({ page }) => {
  await enterDemo(page, 'Corvane Tessel')
  await openDemo(page, 'Idrel Pellowick', 'Guessing')
  await expect(page.getByTestId('sentence')).toContainText('options left')
  const waits: number[] = []
  for (const left of ['two', 'three', 'two', 'three', 'two'])
    waits.push(
      await page.evaluate(async (word) => {
        const sentence = document.querySelector('[data-testid="sentence"]')!
        const button = [...document.querySelectorAll<HTMLElement>('[aria-label="Options left"] button')].find(
          (one) => one.textContent?.trim() === word,
        )!
        const begun = performance.now()
        return new Promise<number>((resolve) => {
          new MutationObserver((_changes, observer) => {
            observer.disconnect()
            resolve(performance.now() - begun)
          }).observe(sentence, { characterData: true, subtree: true, childList: true })
          button.click()
        })
      }, left),
    )
  const sorted = waits.sort((a, b) => a - b)
  console.log(`options left to sentence: median ${sorted[2]!.toFixed(0)} ms`)
  against('median', sorted[2]!, 100)
})

test('a keystroke on a record with 3,000 busy spans', async ({ page }) => {
  await makeAccount(page, 'EMPTY')
  const { csrf } = (await (await page.request.get(`${at('EMPTY')}/api/session`)).json()) as { csrf: string }
  const samples = (await (await page.request.get(`${at('EMPTY')}/api/samples`)).json()) as {
    title: string
    file: Record<string, unknown>
  }[]
  const { file } = samples.find(({ title }) => title.includes('Tidal Pilot'))!
  const busy = Array.from({ length: 3000 }, (_, at) => ({
    date: `2030-${String(2 + Math.floor(at / 600)).padStart(2, '0')}-${String(1 + (at % 28)).padStart(2, '0')}`,
    from: `${String(6 + (Math.floor(at / 28) % 16)).padStart(2, '0')}:00`,
    to: `${String(6 + (Math.floor(at / 28) % 16)).padStart(2, '0')}:30`,
  }))
  const calendar = {
    id: '00000000-0000-4000-8000-0000000000aa',
    title: 'Ferry',
    readAt: '2030-01-15T08:00:00Z',
    events: 3000,
    busy,
  }
  const id = randomUUID()
  const put = await page.request.put(`${at('EMPTY')}/api/candidates/${id}/file`, {
    headers: { 'x-csrf-token': csrf },
    data: {
      file: {
        ...file,
        candidate: { name: 'Busy' },
        availability: { windows: [{ weekday: 6, from: '09:00', to: '17:00' }] },
        commitments: { calendars: [calendar] },
      },
    },
  })
  expect(put.status()).toBe(200)
  await page.goto(`${at('EMPTY')}/c/${id}/set-up`)
  await page.getByRole('tab', { name: 'Target' }).click()
  await page.getByTestId('verdict-odds').waitFor()
  const costs: number[] = []
  for (let press = 0; press < 45; press++) {
    costs.push(
      // From the event to when the page is free again: what it does at once, and what Vue does right after.
      await page.evaluate(
        async (text) => {
          const field = document.querySelector<HTMLInputElement>('#target')!
          const channel = new MessageChannel()
          const begun = performance.now()
          const free = new Promise<number>((resolve) => {
            channel.port1.onmessage = () => resolve(performance.now() - begun)
          })
          field.value = text
          field.dispatchEvent(new Event('input', { bubbles: true }))
          channel.port2.postMessage(0)
          return free
        },
        String(300 + press),
      ),
    )
    await page.waitForTimeout(150)
  }
  costs.sort((a, b) => a - b)
  console.log(
    `a keystroke with 3,000 busy spans: median ${costs[22]!.toFixed(1)} ms, nine tenths ${costs[40]!.toFixed(1)} ms of 45`,
  )
  against('median', costs[22]!, 5)
})
