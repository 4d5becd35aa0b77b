import { hash, verify } from '@node-rs/argon2'
import { randomUUID } from 'node:crypto'
import { UniqueConstraintError } from 'sequelize'
import type { UserRow } from '../models'
import { invalid, Refusal } from '../refusal'
import { type Context, together } from './context'

/** Argon2id with the parameters that OWASP's password storage sheet gives first: 19 MiB, 2 passes, 1 lane. */
const cost = { memoryCost: 19_456, timeCost: 2, parallelism: 1 }
/** Checked when no such account exists, so that both cases take as long. */
const nobody = hash(randomUUID(), cost)

const wrong = (): Refusal =>
  new Refusal({
    code: 'wrong-password',
    message: 'E-mail and password do not belong together.',
    field: 'password',
  })

/** A new user with a workspace of their own. Sent twice with the same password it is one user. */
export async function signUp(
  context: Context,
  input: { email: string; password: string; name: string },
): Promise<UserRow> {
  const passwordHash = await hash(input.password, cost)
  try {
    return await together(context, async (transaction) => {
      const user = await context.models.users.create(
        { id: randomUUID(), email: input.email, name: input.name, passwordHash },
        { transaction },
      )
      const workspace = await context.models.workspaces.create(
        { id: randomUUID(), name: input.name },
        { transaction },
      )
      await context.models.memberships.create({ workspaceId: workspace.id, userId: user.id }, { transaction })
      return user
    })
  } catch (error) {
    if (!(error instanceof UniqueConstraintError)) throw error
    const existing = await context.models.users.findOne({ where: { email: input.email } })
    if (existing && (await verify(existing.passwordHash, input.password))) return existing
    throw invalid([{ field: 'email', message: 'there is an account with this address; sign in instead' }])
  }
}

export async function signIn(context: Context, input: { email: string; password: string }): Promise<UserRow> {
  const user = await context.models.users.findOne({ where: { email: input.email } })
  const right = await verify(user?.passwordHash ?? (await nobody), input.password)
  if (!user || !right) throw wrong()
  return user
}

/** Accounts that the demo's sign-in page offers with one press. */
export const demoAccounts = [
  { email: 'tutor@demo.example', name: 'Corvane Tessel', about: 'Tutor of all three' },
  { email: 'wenna@demo.example', name: 'Wenna Tarrowby', about: 'Candidate, just starting' },
  { email: 'idrel@demo.example', name: 'Idrel Pellowick', about: 'Candidate, half-way and slipping' },
  { email: 'maudra@demo.example', name: 'Maudra Okonby', about: 'Candidate, in the last week' },
]

/** Signs a demo account in without a password; only in demo mode. */
export async function demoSignIn(context: Context, email: string): Promise<UserRow> {
  const offered = context.demo && demoAccounts.some((account) => account.email === email)
  const user = offered ? await context.models.users.findOne({ where: { email } }) : null
  if (!user) throw wrong()
  return user
}
