import { mkdtempSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { startDatabase } from '../../scripts/database.mjs'

/** One MariaDB for all server tests of a run, in a folder of its own. */
export default async () => {
  const folder = mkdtempSync(path.join(os.tmpdir(), 'climber-test-'))
  const database = await startDatabase(folder, { quick: true })
  process.env.CLIMBER_TEST_DATABASE = database.url
  globalThis.climberTestDatabase = { ...database, folder }
}
