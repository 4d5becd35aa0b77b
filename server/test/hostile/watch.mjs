// A process of its own that asks a server, and a bare one beside it, again and again how they are, and says how long each took.
import http from 'node:http'

const [address] = process.argv.slice(2)
const bare = http.createServer((_request, response) => response.end('{}'))
await new Promise((resolve) => bare.listen(0, '127.0.0.1', resolve))
const agent = new http.Agent({ keepAlive: true, maxSockets: 4 })
const took = (url) =>
  new Promise((resolve) => {
    const begun = performance.now()
    const request = http.get(url, { agent }, (response) => {
      response.resume()
      response.on('end', () => resolve({ ms: performance.now() - begun, status: response.statusCode }))
    })
    request.on('error', () => resolve({ ms: performance.now() - begun, status: 0 }))
  })
const beside = `http://127.0.0.1:${bare.address().port}/`
process.on('message', () => process.exit(0))
process.on('disconnect', () => process.exit(0))
for (;;) {
  const at = Date.now()
  const [health, control] = await Promise.all([took(address), took(beside)])
  process.send({ at, health: health.ms, status: health.status, control: control.ms })
  await new Promise((resolve) => setTimeout(resolve, 20))
}
