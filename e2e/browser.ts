import { chromium, type Browser } from 'playwright-core'

/** Debian's Chromium, without what it would otherwise ask of the network. */
export const CHROMIUM = {
  executablePath: '/usr/bin/chromium',
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
