import { wallClock } from '@climber/core'

/** Where the server takes the time from; standing still when `frozen` is given, so that tests and pictures repeat. */
export class Clock {
  constructor(private readonly frozen?: string) {}

  get stands(): boolean {
    return this.frozen !== undefined
  }

  now(): string {
    return this.frozen ? new Date(this.frozen).toISOString() : new Date().toISOString()
  }

  /** Date and minute that a clock in `zone` shows. */
  at(zone: string): { date: string; minute: number } {
    return wallClock(this.now(), zone)
  }
}
