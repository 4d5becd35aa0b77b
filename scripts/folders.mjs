import { createHash } from 'node:crypto'
import { accessSync, constants, existsSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { fileURLToPath } from 'node:url'

/** The project's folder. */
export const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..')

export function writable(file) {
  try {
    accessSync(file, constants.W_OK)
    return true
  } catch {
    return false
  }
}

/** Where a checkout that belongs to another account keeps what this one makes while running. */
function elsewhere() {
  const home = process.env.XDG_DATA_HOME ?? path.join(os.homedir(), '.local', 'share')
  return path.join(home, 'climber', createHash('sha256').update(root).digest('hex').slice(0, 12))
}

function besideTheCode() {
  const folder = path.join(root, '.data')
  return writable(existsSync(folder) ? folder : root) ? folder : elsewhere()
}

/** The folder that holds everything the project makes while running: databases, secrets, locks. */
export const dataRoot = process.env.CLIMBER_DATA ? path.resolve(process.env.CLIMBER_DATA) : besideTheCode()
