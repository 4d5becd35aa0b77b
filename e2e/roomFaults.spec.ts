import { mkdtempSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { randomUUID } from 'node:crypto'
import type { BrowserContext } from '@playwright/test'
import type { RoomEvent, RoomRecord } from '@climber/contract'
import { timed } from '@climber/core'
import { OwnBrowser } from './browser'
import { ownServer } from './servers'
import { dice } from './sitting'
import { choose } from './steps'
import { expect, type Page, test } from './test'

/**
 * A sitting to which things happen, at moments that a seed draws: ten of them in a run, a hundred with CLIMBER_KILLS=all. What was
 * pressed and shown is then in the record, once, in order, and at the time at which it was pressed.
 */
const sittings = process.env['CLIMBER_KILLS'] === 'all' ? 10 : 1
const faultsEach = Number(process.env['CLIMBER_TRIES'] ?? 10)
const seed = Number(process.env['CLIMBER_SEED'] ?? 20_301)

interface Pressed {
  item: number
  answer: string
  /** Milliseconds since 1970, before and after the press. */
  from: number
  to: number
}

test.use({ kinds: [] })
test.setTimeout(sittings * 900_000)

/** A database, a server and two devices, all of which may fail. */
class Trial {
  page!: Page
  context!: BrowserContext
  readonly pressed: Pressed[] = []
  readonly roomId = randomUUID()
  item = 1
  private readonly folder = mkdtempSync(path.join(os.tmpdir(), 'climber-room-'))
  private database!: { url: string; pid: number; stop(): Promise<void> }
  private server!: Awaited<ReturnType<typeof ownServer>>
  private readonly browser = new OwnBrowser()
  private readonly other = new OwnBrowser()
  private candidateId = ''

  constructor(
    private readonly name: string,
    private readonly random: () => number,
  ) {}

  async start(): Promise<void> {
    const { startDatabase } = await import('../scripts/database.mjs')
    this.database = await startDatabase(this.folder, { quick: true, keep: true })
    this.server = await ownServer(this.name, {}, this.database.url)
    this.context = await this.browser.start()
    this.page = await this.context.newPage()
    await this.enter(this.page)
    this.candidateId = await this.page.evaluate(
      async () => ((await (await fetch('/api/candidates')).json()) as { id: string }[])[0]!.id,
    )
    await this.page.goto(`${this.server.url}/c/${this.candidateId}/sit`)
    await this.page.evaluate(async () => (await navigator.serviceWorker.ready).active?.state)
    await choose(this.page, 'Paper', /^Pilotage Board paper 2/)
    await this.page.getByRole('button', { name: 'Enter the room' }).click()
    await this.page.getByRole('button', { name: 'Start the clock' }).click()
    await this.stands()
    this.address = this.page.url()
  }
  async end(): Promise<void> {
    await this.browser.end()
    await this.other.end()
    this.server.kill()
    await this.database.stop()
    rmSync(this.folder, { recursive: true, force: true, maxRetries: 10 })
  }
  private async enter(page: Page): Promise<void> {
    await page.goto(`${this.server.url}/sign-in`)
    await this.signIn(page)
  }
  private async signIn(page: Page): Promise<void> {
    await page.getByRole('button', { name: 'Idrel Pellowick' }).click()
    await page.waitForURL((address) => !address.pathname.includes('sign-in'))
  }
  /** Of the room. */
  private address = ''

  /** The page shows the item at which the sitting stands. */
  async stands(page = this.page): Promise<void> {
    await expect(page.getByTestId('place')).toContainText(new RegExp(`^item\\s+${this.item}\\b`), {
      timeout: 60_000,
    })
  }
  async press(page = this.page): Promise<void> {
    const answer = 'ABCD'[Math.floor(this.random() * 4)]!
    const from = Date.now()
    await page.keyboard.press(answer.toLowerCase())
    const item = this.item++
    await this.stands(page)
    // On the disk: what is shown a moment before is not promised yet.
    await expect(page.getByTestId('room')).toHaveAttribute('data-kept', 'true', { timeout: 60_000 })
    this.pressed.push({ item, answer, from, to: Date.now() })
  }
  private async carryOn(page: Page): Promise<void> {
    const button = page.getByRole('button', { name: 'Carry it on here' })
    await button.click({ timeout: 90_000 })
    await expect(button).toHaveCount(0)
  }
  private async again(): Promise<void> {
    await this.page.goto(this.address)
    // A browser writes its cookies down now and then: killed before, it knows nobody.
    const out = this.page.getByRole('button', { name: 'Idrel Pellowick' })
    await expect(out.or(this.page.getByTestId('place'))).toBeVisible({ timeout: 60_000 })
    if (await out.isVisible()) await this.signIn(this.page)
    await this.stands()
  }

  readonly faults: Record<string, () => Promise<void>> = {
    'the tab is closed': async () => {
      await this.page.close()
      this.page = await this.context.newPage()
      await this.again()
    },
    'the page crashes': async () => {
      await this.page.goto('chrome://crash').catch(() => undefined)
      await this.page.close().catch(() => undefined)
      this.page = await this.context.newPage()
      await this.again()
    },
    'the browser is killed': async () => {
      await this.browser.kill()
      this.context = await this.browser.start()
      this.page = await this.context.newPage()
      await this.again()
    },
    'the server is killed': async () => {
      this.server.kill()
      for (let at = 0; at < 3; at++) await this.press()
      if (this.random() < 0.5) await this.again()
      await this.server.restart()
    },
    'the database is killed': async () => {
      process.kill(this.database.pid, 'SIGKILL')
      for (let at = 0; at < 3; at++) await this.press()
    },
    'the network is away': async () => {
      await this.context.setOffline(true)
      for (let at = 0; at < 3; at++) await this.press()
      if (this.random() < 0.5) await this.again()
      for (let at = 0; at < 2; at++) await this.press()
      await this.context.setOffline(false)
    },
    'the clock of the device is moved': async () => {
      const by = Math.round((this.random() - 0.5) * 7_200_000)
      await this.page.evaluate((moved) => {
        const real = Date.now.bind(Date)
        Date.now = () => real() + moved
      }, by)
    },
    'the device sleeps': async () => {
      const long = 3000 + Math.round(this.random() * 4000)
      // Nothing of the page runs, and its own clock stands still; that of the device goes on.
      await this.page.evaluate((slept) => {
        const real = performance.now.bind(performance)
        const until = real() + slept
        while (real() < until);
        performance.now = () => real() - slept
      }, long)
      await new Promise((resolve) => setTimeout(resolve, 1500))
    },
    'another device takes over': async () => {
      const context = await this.other.start()
      const page = await context.newPage()
      await this.enter(page)
      await page.goto(this.address)
      await this.carryOn(page)
      await this.stands(page)
      for (let at = 0; at < 2; at++) await this.press(page)
      // The first hears of it, and takes it back.
      await this.carryOn(this.page)
      await this.stands()
      await this.other.kill()
    },
  }

  /** Everything that the server has of it, once nothing waits any more. */
  async record(): Promise<RoomRecord> {
    const id = /room\/([^/?]+)/.exec(this.address)![1]!
    const path = `/api/candidates/${this.candidateId}/rooms/${id}`
    let record: RoomRecord | undefined
    await expect
      .poll(
        async () => {
          record = await this.page.evaluate(
            async (address) => (await (await fetch(address)).json()) as RoomRecord,
            path,
          )
          return record.events?.filter(({ kind }) => kind === 'answer').length ?? 0
        },
        { timeout: 90_000 },
      )
      .toBeGreaterThanOrEqual(this.pressed.length)
    return record!
  }
  /** What the page has waiting, for whoever looks into a failure. */
  async waiting(): Promise<string> {
    return this.page.evaluate(
      () =>
        new Promise<string>((resolve) => {
          const opening = indexedDB.open('climber')
          opening.onsuccess = () => {
            const all = opening.result.transaction('entries').objectStore('entries').getAll()
            all.onsuccess = () => resolve(JSON.stringify(all.result).slice(0, 4000))
          }
        }),
    )
  }
}

/** How far a press was from its time, in seconds: the room's clock against this machine's. */
function offsOf(pressed: Pressed[], events: RoomEvent[]): number[] {
  const { events: all, began } = timed(events)
  const answers = all.filter(({ event }) => event.kind === 'answer')
  return answers.map(({ seconds }, at) => {
    const when = began + seconds * 1000
    const { from, to } = pressed[at]!
    return Math.max(0, from - when, when - to) / 1000
  })
}

for (let sitting = 0; sitting < sittings; sitting++)
  test(`nothing of a sitting is lost, doubled or out of order, whatever happens to it (${sitting + 1})`, async () => {
    const random = dice(seed + sitting * 977)
    const trial = new Trial(`room_${test.info().parallelIndex}_${sitting}`, random)
    await trial.start()
    const only = process.env['CLIMBER_FAULTS']?.split(',')
    const kinds = only ?? Object.keys(trial.faults)
    const happened: string[] = []
    try {
      for (let fault = 0; fault < faultsEach; fault++) {
        for (let press = 0; press < 1 + Math.floor(random() * 2); press++) await trial.press()
        // Each kind comes in its turn, begun at another one in each sitting, so that all come in any run.
        const kind = kinds[(fault + sitting * 3) % kinds.length]!
        happened.push(kind)
        await test.step(kind, trial.faults[kind]!)
        await trial.stands()
      }
      for (let press = 0; press < 2 && trial.item < 40; press++) await trial.press()
      const { events } = await trial.record().catch(async (error: unknown) => {
        console.log('waiting:', await trial.waiting())
        throw error
      })
      const answers = timed(events).events.flatMap(({ event }) => (event.kind === 'answer' ? [event] : []))
      expect(answers.map(({ item, answer }) => `${item}${answer}`)).toEqual(
        trial.pressed.map(({ item, answer }) => `${item}${answer}`),
      )
      const off = Math.max(...offsOf(trial.pressed, events))
      if (off >= 1) console.log(JSON.stringify({ events, pressed: trial.pressed }))
      console.log(`${happened.length} faults, ${answers.length} presses, off by ${off.toFixed(2)} s at most`)
      expect(off).toBeLessThan(1)
    } finally {
      await trial.end()
    }
  })
