import { findProgram } from './setup.mjs'

/** How Chromium is started here: Debian's, without a sandbox of its own, and with nothing that asks the network. */
export const chromium = {
  executablePath: process.env.CHROMIUM ?? findProgram('chromium-headless-shell', 'chromium'),
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
}
