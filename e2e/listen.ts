import type { Page } from 'playwright-core'
import type { Player } from '../web/sound/player'

export type Window = { plainCutPlayer: Player; finish: () => Promise<Float32Array[][]> }

/** Presses play and gives every sample that went out until the end, left and right. */
export const listen = (page: Page, press: () => Promise<void>): Promise<Float32Array[]> =>
  heardDuring(page, async () => {
    await press()
    await page.waitForFunction(() => (globalThis as unknown as Window).plainCutPlayer.playing)
    await page.waitForFunction(() => !(globalThis as unknown as Window).plainCutPlayer.playing, undefined, {
      timeout: 90_000,
      polling: 200,
    })
  })

/** Every sample that goes out while something is done. */
export async function heardDuring(page: Page, act: () => Promise<void>): Promise<Float32Array[]> {
  await page.evaluate(async () => {
    const here = globalThis as unknown as Window
    here.finish = await here.plainCutPlayer.capture()
  })
  await act()
  const sides = await page.evaluate(async () => {
    const blocks = await (globalThis as unknown as Window).finish()
    const encode = (side: number) => {
      const all = new Float32Array(blocks.reduce((sum, block) => sum + block[side].length, 0))
      let at = 0
      for (const block of blocks) {
        all.set(block[side], at)
        at += block[side].length
      }
      let text = ''
      const bytes = new Uint8Array(all.buffer)
      for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000))
      return btoa(text)
    }
    return [encode(0), encode(1)]
  })
  return sides.map((text) => {
    const bytes = Buffer.from(text, 'base64')
    return new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length))
  })
}
