import path from 'node:path'
import { dataRoot } from './folders.mjs'
import { choosePort, serve } from './serve.mjs'
import { setUp } from './setup.mjs'

await setUp(process.env.DATABASE_URL ? [] : ['mariadb-server'])
await serve({ folder: path.join(dataRoot, 'own'), port: await choosePort(), demo: false })
