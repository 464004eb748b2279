import { chromium, type Browser } from 'playwright-core'

/** Debian's Chromium without a window's own work, and without what it would otherwise ask of the network. */
export const CHROMIUM = {
  executablePath: '/usr/bin/chromium-headless-shell',
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    '--autoplay-policy=no-user-gesture-required',
    '--disable-backgrounding-occluded-windows',
    '--disable-renderer-backgrounding',
  ],
}

export const launch = (): Promise<Browser> => chromium.launch(CHROMIUM)
