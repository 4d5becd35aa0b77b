import { clientsClaim } from 'workbox-core'
import { cleanupOutdatedCaches, matchPrecache, precacheAndRoute } from 'workbox-precaching'
import { NavigationRoute, registerRoute } from 'workbox-routing'

/** The built files with their revisions, put in by scripts/build.mjs. */
declare const builtFiles: { url: string; revision: string | null }[]

/**
 * Keeps the application itself in the browser, so that the pace card opens with the network off. Pages come from the server
 * whenever it answers: each has a nonce of its own, and a new version shows at once. Nothing of the API is kept here.
 */
clientsClaim()
cleanupOutdatedCaches()
registerRoute(
  new NavigationRoute(
    async ({ request }) => {
      try {
        return await fetch(request)
      } catch {
        return (await matchPrecache('/index.html')) ?? Response.error()
      }
    },
    { denylist: [/^\/api\//] },
  ),
)
precacheAndRoute(builtFiles, { directoryIndex: '' })
