import path from 'node:path'
import { root } from './folders.mjs'

/** The built server, which everything here starts in the same way. */
export const serverFile = path.join(root, 'server/dist/main.mjs')

/**
 * The environment in which the server is started. Its threads share two arenas of the C library's allocator: left to itself it
 * makes up to eight for each core, and each keeps what one large answer once needed (docs/measurements.md).
 */
export const serverEnvironment = (environment) => ({ MALLOC_ARENA_MAX: '2', ...environment })
