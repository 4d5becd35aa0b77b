import net, { type AddressInfo } from 'node:net'

/** A port of the loopback interface that nobody listens on. */
export const freePort = () =>
  new Promise<number>((resolve) => {
    const probe = net.createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as AddressInfo
      probe.close(() => resolve(port))
    })
  })
