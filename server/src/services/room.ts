import { performance } from 'node:perf_hooks'
import {
  type Body,
  isDropped,
  type RoomEvent,
  type RoomHeard,
  type RoomRecord,
  type RoomSetup,
} from '@climber/contract'
import type { CandidateRow, RoomRow } from '../models'
import { invalid, notFound } from '../refusal'
import { type Context, lockCandidate, together } from './context'

/** Tests under way of one candidate, and events of one of them: far more than anybody's. */
const most = { rooms: 200, events: 50_000 }
/** Days after which a room that is over, or that nobody came back to, is forgotten; what was sat is an attempt by then. */
const keptDays = 60

/** Milliseconds since 1970 by a clock that nobody sets while the server runs: pages measure their own by it. */
const steadyNow = (): number => Math.round(performance.timeOrigin + performance.now())

const heardOf = (room: RoomRow): RoomHeard => ({
  holder: room.holder,
  device: room.device,
  heardAgo: Math.max(0, Date.now() - room.heardAt.getTime()),
  stands: room.stands,
  server: steadyNow(),
})

/** Opens a test room as it was set up; sent twice it is opened once. */
export async function openRoom(
  context: Context,
  candidate: CandidateRow,
  id: string,
  setup: RoomSetup,
): Promise<RoomHeard> {
  const { models } = context
  return together(context, async (transaction) => {
    await lockCandidate(context, candidate, transaction)
    const key = { candidateId: candidate.id, id }
    const found = await models.rooms.findOne({ where: key, transaction })
    if (found) return heardOf(found)
    const rooms = await models.rooms.findAll({ where: { candidateId: candidate.id }, transaction })
    const old = Date.now() - keptDays * 86_400_000
    for (const room of rooms) if (room.heardAt.getTime() < old) await room.destroy({ transaction })
    if (rooms.filter(({ heardAt }) => heardAt.getTime() >= old).length >= most.rooms)
      throw invalid([{ field: '', message: `${most.rooms} tests are under way already; end one first` }])
    const now = new Date()
    const made = await models.rooms.create(
      {
        ...key,
        document: { ...setup, id },
        holder: null,
        device: '',
        heardAt: now,
        stands: 'open',
        events: 0,
        createdAt: now,
      },
      { transaction },
    )
    return heardOf(made)
  })
}

const deciding = new Set<RoomEvent['kind']>(['drop', 'keep', 'finish'])
/** Whether a test goes on, from all that was pressed in it: what is over stays over. */
const standsAfter = (all: RoomEvent[]): RoomHeard['stands'] =>
  isDropped(all) ? 'dropped' : all.some(({ kind }) => kind === 'finish') ? 'over' : 'open'

/**
 * Keeps what was pressed, each event once however often it is sent, whoever carries the test on. The page becomes the one that
 * carries it on where it asks for that, or where nobody does.
 */
export async function noteRoom(
  context: Context,
  candidate: CandidateRow,
  id: string,
  { life, device, take, events }: Body<'noteRoom'>,
): Promise<RoomHeard> {
  const { models, sequelize } = context
  return together(context, async (transaction) => {
    const key = { candidateId: candidate.id, id }
    const room = await models.rooms.findOne({ where: key, transaction, lock: true })
    if (!room) throw notFound()
    // What was sent twice was counted twice: near the limit they are counted anew.
    const before =
      room.events + events.length > most.events
        ? await models.roomEvents.count({ where: { candidateId: candidate.id, roomId: id }, transaction })
        : room.events
    if (before + events.length > most.events)
      throw invalid([{ field: 'events', message: `at most ${most.events} are kept of one test` }])
    // Written out: this is done for every press, and building rows costs more than storing them.
    await sequelize.query(
      'INSERT IGNORE INTO room_events (candidate_id, room_id, life, n, document) VALUES :rows',
      {
        replacements: {
          rows: events.map((event) => [candidate.id, id, life, event.n, JSON.stringify(event)]),
        },
        transaction,
      },
    )
    // Most of what is pressed decides nothing of that.
    const decides = events.some(({ kind }) => deciding.has(kind))
    const all = decides
      ? await models.roomEvents.findAll({ where: { candidateId: candidate.id, roomId: id }, transaction })
      : []
    // A device that comes back to its own test takes nothing from anybody.
    const isBack = room.device === device && events.some(({ kind }) => kind === 'enter')
    const holds = take || room.holder === null || room.holder === life || isBack
    await room.update(
      {
        events: before + events.length,
        ...(decides && { stands: standsAfter(all.map(({ document }) => document)) }),
        ...(holds && { holder: life, device, heardAt: new Date() }),
      },
      { transaction },
    )
    return heardOf(room)
  })
}

/** Tests under way, and over but perhaps not marked yet, newest first. */
export async function listRooms(
  { models }: Context,
  candidate: CandidateRow,
): Promise<(RoomHeard & { setup: RoomSetup })[]> {
  const rooms = await models.rooms.findAll({
    where: { candidateId: candidate.id, stands: ['open', 'over'] },
    order: [['createdAt', 'DESC']],
  })
  return rooms.map((room) => ({ ...heardOf(room), setup: room.document }))
}

const roomOf = async ({ models }: Context, candidate: CandidateRow, id: string): Promise<RoomRow> => {
  const room = await models.rooms.findOne({ where: { candidateId: candidate.id, id } })
  if (!room) throw notFound()
  return room
}

/** Who carries a test on, how much was pressed in it, and what time it is. */
export async function hearRoom(
  context: Context,
  candidate: CandidateRow,
  id: string,
): Promise<RoomHeard & { events: number }> {
  const room = await roomOf(context, candidate, id)
  const events = await context.models.roomEvents.count({ where: { candidateId: candidate.id, roomId: id } })
  return { ...heardOf(room), events }
}

/** A test room with everything that was pressed in it. */
export async function readRoom(context: Context, candidate: CandidateRow, id: string): Promise<RoomRecord> {
  const room = await roomOf(context, candidate, id)
  const events = await context.models.roomEvents.findAll({
    where: { candidateId: candidate.id, roomId: id },
    order: [
      ['life', 'ASC'],
      ['n', 'ASC'],
    ],
  })
  return { ...heardOf(room), setup: room.document, events: events.map(({ document }) => document) }
}
