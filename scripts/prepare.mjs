import { ensureBuild, ensureModules } from './setup.mjs'

/** `npm run build`: packages and build, for whoever uses this checkout afterwards. */
ensureModules()
await ensureBuild()
