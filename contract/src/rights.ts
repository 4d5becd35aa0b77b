import { z } from 'zod'

/** What somebody is to a candidate's record. A member of its workspace has the member's role for all of its records. */
export const Role = z.enum(['owner', 'tutor', 'candidate', 'reader'])
export type Role = z.infer<typeof Role>

/**
 * What one may do with a record: read it; work in it (sessions done, what was sat); edit it (parts, the plan); share it
 * (invitations, the calendar's address); delete it.
 */
export type RecordRight = 'read' | 'work' | 'edit' | 'share' | 'delete'
/** With an exam format: read it; edit it, or begin a new edition; delete it. */
export type ExamRight = 'read' | 'edit' | 'delete'

export const recordRights: Record<Role, readonly RecordRight[]> = {
  owner: ['read', 'work', 'edit', 'share', 'delete'],
  tutor: ['read', 'work', 'edit', 'share'],
  candidate: ['read', 'work', 'edit', 'share'],
  reader: ['read'],
}
export const examRights: Record<Role, readonly ExamRight[]> = {
  owner: ['read', 'edit', 'delete'],
  tutor: ['read', 'edit'],
  candidate: ['read'],
  reader: ['read'],
}

/** What a route asks for. Whoever lacks the right to read hears "not found", as of something that does not exist. */
export type Right = 'anyone' | 'signed-in' | `record:${RecordRight}` | `exam:${ExamRight}`
