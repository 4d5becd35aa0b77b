import net from 'node:net'

const isFree = (port: number) =>
  new Promise<boolean>((resolve) => {
    const probe = net.createServer().once('error', () => resolve(false))
    probe.listen(port, '127.0.0.1', () => probe.close(() => resolve(true)))
  })

/**
 * A port of the loopback interface that nobody listens on; below those that the system gives to connections, so that it is still
 * free when a killed server comes back to it.
 */
export async function freePort(): Promise<number> {
  for (;;) {
    const port = 20_000 + Math.floor(Math.random() * 12_000)
    if (await isFree(port)) return port
  }
}
