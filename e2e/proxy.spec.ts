import { proxyBefore } from '../server/test/hostile/proxy'
import { ownServer } from './servers'
import { beginPlan, fillCounts, makeAccount, saved } from './steps'
import { expect, test } from './test'

test.use({ ignoreHTTPSErrors: true, kinds: [] })

test('behind a proxy that ends TLS one signs up, begins a plan, and is still signed in afterwards', async ({
  page,
}) => {
  const server = await ownServer('proxied', { CLIMBER_SECURE: '1', CLIMBER_PROXY: '1' })
  const proxy = await proxyBefore(server.url)
  try {
    await makeAccount(page, new URL(`https://localhost:${proxy.port}`))
    await beginPlan(page)
    await fillCounts(page)
    await saved(page)
    await page.reload()
    await expect(page.getByLabel('Tides and streams: right')).toHaveValue('18')
    const cookies = await page.context().cookies()
    expect(cookies.length).toBeGreaterThan(1)
    for (const cookie of cookies) expect(cookie).toMatchObject({ secure: true, httpOnly: true })
  } finally {
    proxy.end()
    server.kill()
  }
})
