import path from 'node:path'
import { rmSync } from 'node:fs'
import { dataRoot } from './folders.mjs'
import { choosePort, serve } from './serve.mjs'
import { setUp } from './setup.mjs'

await setUp(process.env.DATABASE_URL ? [] : ['mariadb-server'])
// A data folder for each port, so that demos beside each other do not share one.
const folderOf = (port) => path.join(dataRoot, `demo-${port}`)
if (process.argv.includes('--reset')) rmSync(folderOf(await choosePort()), { recursive: true, force: true })
await serve({ folderOf, demo: true })
