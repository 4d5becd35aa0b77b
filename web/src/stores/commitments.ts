import type { BusyCalendar } from '@climber/contract'
import { call } from '../api'
import { plain } from '../workers/core'
import { useSession } from './session'
import { useWorkspace } from './workspace'

/** A calendar with an address is read again when it is this old. */
const staleMs = 86_400_000

/** Keeps a calendar in place of the one with the same id, or beside the others. */
export function keepCalendar(calendar: Omit<BusyCalendar, 'id'>, id?: string): void {
  useWorkspace().saves!.commitments.edit((document) => {
    const at = document.calendars.findIndex((one) => one.id === id)
    const next = { ...calendar, id: id ?? crypto.randomUUID() } as BusyCalendar
    if (at < 0) document.calendars.push(next)
    else document.calendars[at] = next
  })
}

/** Reads a calendar at its address and keeps it; what was read before stays where that fails. */
export async function readCalendar(address: string, old?: BusyCalendar): Promise<void> {
  const found = await call('readCommitments', { candidateId: useWorkspace().candidate!.id }, { address })
  keepCalendar({ title: old?.title ?? new URL(address).hostname, address, ...found }, old?.id)
}

/** Reads again what is a day old, when a candidate is opened. Set-up shows when each was read last. */
export async function rereadStale(): Promise<void> {
  const workspace = useWorkspace()
  const id = workspace.candidate?.id
  const now = Date.parse(useSession().now())
  for (const calendar of plain(workspace.saves?.commitments.state.document.calendars ?? []))
    if (calendar.address && now - Date.parse(calendar.readAt) > staleMs && workspace.candidate?.id === id)
      await readCalendar(calendar.address, calendar).catch(() => undefined)
}
