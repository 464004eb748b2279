import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { here } from './here'
import { AMBIENCE, COUNCIL, pieceOf, QUAY, sheetDrawn, useBrowser, visit } from './newsroom'

useBrowser()

const written = async (id: string, as: string, more = '') => fetch(`${here.address}/api/transcripts/${id}?as=${as}${more}`)

describe('words', () => {
  it('are written out from the tape, as what one chooses', async () => {
    const { page } = await visit(`/tapes/${COUNCIL}`)
    await sheetDrawn(page)
    await page.getByRole('button', { name: 'More', exact: true }).click()
    await page.getByRole('menuitem', { name: 'Export transcript' }).click()
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: /SubRip/ }).click()])
    expect(download.suggestedFilename()).toBe('Council, by phone.srt')
    const text = readFileSync((await download.path())!, 'utf8')
    expect(text).toMatch(/^1\n00:00:00,\d{3} --> 00:00:0\d,\d{3}\nTamsin Roe: Good afternoon/)
    expect(text).toContain('Maren Ferris: Hello')
  })

  it('of a piece are what it keeps, timed from its start', async () => {
    const { id } = await pieceOf('Nobody told us')
    const list = (await (await written(id, 'json')).json()) as { start: number; text: string }[]
    expect(list[0].text).toBe('I')
    expect(list[0].start).toBeLessThan(1)
    expect(await (await written(id, 'txt')).text()).toContain('tie her up.')
  })

  it('of a stretch are that stretch, and a Word file is one', async () => {
    const whole = await (await written(QUAY, 'vtt')).text()
    const part = await (await written(QUAY, 'vtt', `&from=${48_000 * 20}&to=${48_000 * 30}`)).text()
    expect(part.length).toBeLessThan(whole.length / 4)
    expect(part).toMatch(/^WEBVTT\n\n00:00:0/)
    const file = Buffer.from(await (await written(QUAY, 'docx')).arrayBuffer())
    expect(file.subarray(0, 2).toString()).toBe('PK')
    expect(file.length).toBeGreaterThan(4000)
  })

  it('that are not there are not written', async () => {
    const answer = await written(AMBIENCE, 'txt')
    expect(answer.status).toBe(409)
    expect(await answer.text()).toContain('There are no words here yet')
    expect((await written(QUAY, 'exe')).status).toBe(400)
  })
})
