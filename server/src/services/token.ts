import { createHash, randomBytes } from 'node:crypto'

/** An address that nobody can guess; only its hash is kept, so that who reads the database cannot use it. */
export const newToken = (bytes = 24): string => randomBytes(bytes).toString('base64url')
export const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex')
