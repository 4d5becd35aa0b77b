// A process of its own that asks a server, and a bare one beside it on the same database, again and again how they are, and says
// how long each took.
import { readFileSync } from 'node:fs'
import http from 'node:http'
import mariadb from 'mariadb'

const [address, database, pid] = process.argv.slice(2)
const connection = await mariadb.createConnection(database)
const bare = http.createServer((_request, response) => {
  void connection.query('SELECT 1').finally(() => response.end('{}'))
})
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
/**
 * Milliseconds since it began for which the server's own thread worked, and for which it was ready and had no processor. Where the
 * machine does not say, all that it took counts as work.
 */
const thread = () => {
  try {
    const [worked, waited] = readFileSync(`/proc/${pid}/schedstat`, 'utf8').split(' ')
    return { worked: Number(worked) / 1e6, unserved: Number(waited) / 1e6 }
  } catch {
    return { worked: performance.now(), unserved: 0 }
  }
}
process.on('message', () => process.exit(0))
process.on('disconnect', () => process.exit(0))
for (;;) {
  const at = Date.now()
  const before = thread()
  const [health, control] = await Promise.all([took(address), took(beside)])
  const after = thread()
  process.send({
    at,
    health: health.ms,
    status: health.status,
    control: control.ms,
    worked: after.worked - before.worked,
    unserved: after.unserved - before.unserved,
  })
  await new Promise((resolve) => setTimeout(resolve, 20))
}
