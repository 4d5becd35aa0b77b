import { rmSync } from 'node:fs'

export default async () => {
  await globalThis.climberTestDatabase.stop()
  rmSync(globalThis.climberTestDatabase.folder, { recursive: true, force: true })
}
