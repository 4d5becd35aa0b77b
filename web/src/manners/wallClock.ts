const formats = new Map<string, Intl.DateTimeFormat>()
function formatIn(zone: string): Intl.DateTimeFormat {
  const known = formats.get(zone)
  if (known) return known
  const made = new Intl.DateTimeFormat('en-GB', {
    timeZone: zone,
    hourCycle: 'h23',
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
    hour: '2-digit',
    minute: '2-digit',
  })
  formats.set(zone, made)
  return made
}

/**
 * What calendar and clock in `zone` show at an instant, as the core's `wallClock`; by the browser's own tables, since the first
 * screen needs no other calendar arithmetic and would load all of Temporal for it. Years 1000 to 9999.
 */
export function clockIn(instant: string, zone: string): { date: string; minute: number } {
  const parts = new Map(
    formatIn(zone)
      .formatToParts(new Date(instant))
      .map(({ type, value }) => [type, value]),
  )
  const part = (name: Intl.DateTimeFormatPartTypes) => parts.get(name) ?? ''
  return {
    date: `${part('year')}-${part('month')}-${part('day')}`,
    minute: Number(part('hour')) * 60 + Number(part('minute')),
  }
}
