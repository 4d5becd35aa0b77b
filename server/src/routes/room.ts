import type { Context } from '../services/context'
import { hearRoom, listRooms, noteRoom, openRoom, readRoom } from '../services/room'
import type { Bind } from './bind'

export function roomRoutes(bind: Bind, context: Context): void {
  bind.here('openRoom', ({ candidate, params, body }) =>
    openRoom(context, candidate, params.roomId, body.setup),
  )
  bind.here('noteRoom', ({ candidate, params, body }) => noteRoom(context, candidate, params.roomId, body))
  bind.here('hearRoom', ({ candidate, params }) => hearRoom(context, candidate, params.roomId))
  bind.here('listRooms', ({ candidate }) => listRooms(context, candidate))
  bind.aside('readRoom', ({ candidate, params }) => readRoom(context, candidate, params.roomId))
}
