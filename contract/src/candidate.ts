import { z } from 'zod'
import { open, Title } from './shared'

export const Profile = open({
  name: Title,
  note: z.string().max(4000).default(''),
})

export type Profile = z.infer<typeof Profile>
