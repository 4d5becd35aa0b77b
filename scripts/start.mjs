import path from 'node:path'
import { dataRoot } from './folders.mjs'
import { serve } from './serve.mjs'
import { setUp } from './setup.mjs'

await setUp(process.env.DATABASE_URL ? [] : ['mariadb-server'])
await serve({ folderOf: () => path.join(dataRoot, 'own'), demo: false })
