import { type ChildProcess, spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { createInterface } from 'node:readline'
import { type Browser, type BrowserContext, chromium as playwright } from '@playwright/test'
import { chromium } from '../scripts/chromium.mjs'

/** A browser of one's own with its files on the disk, which may be killed outright and started again on the same files. */
export class OwnBrowser {
  private readonly folder = mkdtempSync(path.join(os.tmpdir(), 'climber-browser-'))
  private child: ChildProcess | undefined
  private browser: Browser | undefined

  async start(): Promise<BrowserContext> {
    this.child = spawn(
      chromium.executablePath!,
      [
        '--headless',
        ...chromium.args,
        '--remote-debugging-port=0',
        `--user-data-dir=${this.folder}`,
        'about:blank',
      ],
      // With a group of its own: what it started ends with it, and lets go of its files.
      { stdio: ['ignore', 'ignore', 'pipe'], detached: true },
    )
    for await (const line of createInterface({ input: this.child.stderr! })) {
      const address = /ws:\/\/\S+/.exec(line)?.[0]
      if (!address) continue
      // What it says from now on is nobody's concern, and must not fill its pipe.
      this.child.stderr!.resume()
      this.browser = await playwright.connectOverCDP(address)
      const [context] = this.browser.contexts()
      context!.setDefaultTimeout(40_000)
      return context!
    }
    throw new Error('the browser ended before it listened')
  }
  /** Ends it as a dead battery does. */
  async kill(): Promise<void> {
    const { child } = this
    const gone = new Promise((resolve) => child?.once('exit', resolve))
    if (!child?.pid || child.exitCode !== null || child.signalCode !== null) return
    process.kill(-child.pid, 'SIGKILL')
    await gone
    await this.browser?.close().catch(() => undefined)
  }
  async end(): Promise<void> {
    await this.kill()
    rmSync(this.folder, { recursive: true, force: true, maxRetries: 10 })
  }
}
