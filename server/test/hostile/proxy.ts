import { type ChildProcess, spawn } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import net from 'node:net'
import os from 'node:os'
import path from 'node:path'
import { setTimeout as wait } from 'node:timers/promises'
import { generate } from 'selfsigned'
import { freePort } from './freePort'

const listens = (port: number) =>
  new Promise<boolean>((resolve) => {
    const socket = net.connect(port, '127.0.0.1', () => {
      socket.destroy()
      resolve(true)
    })
    socket.once('error', () => resolve(false))
  })

/** Debian's haproxy before a server of ours, with a certificate made for the occasion; tells who visits and over what. */
export async function proxyBefore(url: string): Promise<{ port: number; certificate: string; end(): void }> {
  const folder = mkdtempSync(path.join(os.tmpdir(), 'climber-proxy-'))
  const { cert, private: key } = await generate([{ name: 'commonName', value: 'localhost' }], {
    keySize: 2048,
    extensions: [{ name: 'subjectAltName', altNames: [{ type: 2, value: 'localhost' }] }],
  })
  const pem = path.join(folder, 'both.pem')
  writeFileSync(pem, `${cert}\n${key}\n`, { mode: 0o600 })
  const port = await freePort()
  const config = path.join(folder, 'haproxy.cfg')
  writeFileSync(
    config,
    [
      'defaults',
      '  mode http',
      '  timeout connect 5s',
      '  timeout client 60s',
      '  timeout server 60s',
      '  option forwardfor',
      'frontend tls',
      `  bind 127.0.0.1:${port} ssl crt ${pem}`,
      '  http-request set-header X-Forwarded-Proto https',
      '  default_backend climber',
      'backend climber',
      `  server one ${new URL(url).host}`,
      '',
    ].join('\n'),
  )
  const child: ChildProcess = spawn('haproxy', ['-db', '-f', config], {
    stdio: ['ignore', 'ignore', 'pipe'],
    env: { ...process.env, PATH: `${process.env['PATH'] ?? ''}:/usr/sbin` },
  })
  let said = ''
  child.stderr?.on('data', (text) => (said += String(text)))
  for (let tries = 0; !(await listens(port)); tries++) {
    if (child.exitCode !== null || tries > 400) throw new Error(`haproxy does not listen: ${said}`)
    await wait(50)
  }
  return {
    port,
    certificate: cert,
    end() {
      child.kill('SIGKILL')
      rmSync(folder, { recursive: true, force: true })
    },
  }
}
