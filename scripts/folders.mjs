import path from 'node:path'
import { fileURLToPath } from 'node:url'

/** The project's folder, and the one that holds everything it makes while running: databases, secrets, stamps. */
export const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..')
export const dataRoot = process.env.CLIMBER_DATA
  ? path.resolve(process.env.CLIMBER_DATA)
  : path.join(root, '.data')
