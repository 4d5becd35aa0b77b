import Holidays from 'date-holidays'
import type { Holiday } from '@climber/contract'
import { invalid, notFound } from '../refusal'

const longest = 3

export interface Country {
  id: string
  title: string
  regions: { id: string; title: string }[]
  zones: string[]
}

let countries: Country[] | undefined
/** Countries whose public holidays are known, by their titles. */
export function listCountries(): Country[] {
  const all = new Holidays()
  return (countries ??= Object.entries(all.getCountries('en'))
    .map(([id, title]) => ({
      id,
      title,
      regions: Object.entries(all.getStates(id, 'en') ?? {}).map(([region, name]) => ({
        id: `${id}-${region}`,
        title: name,
      })),
      zones: new Holidays(id).getTimezones() ?? [],
    }))
    .sort((a, b) => a.title.localeCompare(b.title, 'en')))
}

/** Public holidays of a country or a region of one, in order of time; each day once. Refuses a region that is not known. */
export function listHolidays(region: string, from: string, to: string): Holiday[] {
  if (to < from) throw invalid([{ field: 'to', message: 'the last day must not come before the first' }])
  const years = Number(to.slice(0, 4)) - Number(from.slice(0, 4))
  if (years > longest) throw invalid([{ field: 'to', message: `at most ${longest} years` }])
  const known = listCountries().flatMap(({ id, regions }) => [id, ...regions.map((one) => one.id)])
  const place = known.find((id) => id.toLowerCase() === region.toLowerCase())
  if (place === undefined) throw notFound()
  const [country = '', ...parts] = place.split('-')
  const own = parts.length ? new Holidays(country, parts.join('-')) : new Holidays(country)
  const days = new Map<string, string[]>()
  for (let year = Number(from.slice(0, 4)); year <= Number(to.slice(0, 4)); year++)
    for (const { date, start, end, name, type } of own.getHolidays(year, 'en')) {
      if (type !== 'public') continue
      const nights = Math.max(1, Math.round((end.getTime() - start.getTime()) / 86_400_000))
      const first = Date.parse(`${date.slice(0, 10)}T00:00:00Z`)
      for (let night = 0; night < nights; night++) {
        const day = new Date(first + night * 86_400_000).toISOString().slice(0, 10)
        const names = days.get(day) ?? []
        if (day >= from && day <= to && !names.includes(name)) days.set(day, [...names, name])
      }
    }
  return [...days]
    .map(([date, names]) => ({ date, title: names.join(', ').slice(0, 100) }))
    .sort((a, b) => a.date.localeCompare(b.date))
}
