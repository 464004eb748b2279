import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Receipt } from '../contract/sends'

/** What ffprobe and mediainfo read of a WAV file's broadcast extension. */
export function readBack(path: string): {
  tags: Record<string, string>
  general: Record<string, string>
  loudness: Record<string, string>
} {
  const probe = execFileSync('ffprobe', ['-v', 'error', '-show_entries', 'format_tags', '-of', 'json', path], { encoding: 'utf8' })
  const info = execFileSync('mediainfo', ['--Output=JSON', path], { encoding: 'utf8' })
  const { tags } = (JSON.parse(probe) as { format: { tags: Record<string, string> } }).format
  const [general, audio] = (JSON.parse(info) as { media: { track: (Record<string, string> & { extra: Record<string, string> })[] } }).media
    .track
  return { tags, general: { ...general, ...general.extra }, loudness: { Delay: audio.Delay, ...audio.extra } }
}

/**
 * How many of the fields that both programs know of are read back as they were meant. `from`: frames at 48 kHz at which it
 * begins on its tape.
 */
export function fieldsReadRight(file: Buffer, receipt: Receipt, title: string, from: number): { right: number; all: number } {
  const folder = mkdtempSync(join(tmpdir(), 'plain-cut-sent-'))
  const path = join(folder, 'sent.wav')
  writeFileSync(path, file)
  const { tags, general, loudness } = readBack(path)
  rmSync(folder, { recursive: true })
  const { order, id, at } = receipt
  const reference = id.replaceAll('-', '')
  const local = new Date(at)
  const two = (value: number) => String(value).padStart(2, '0')
  const day = `${local.getFullYear()}-${two(local.getMonth() + 1)}-${two(local.getDate())}`
  const time = [local.getHours(), local.getMinutes(), local.getSeconds()].map(two).join(':')
  const history = `A=PCM,F=${order.rate},W=${order.bits},M=${order.channels === 1 ? 'mono' : 'stereo'},T=Plain Cut`
  const near = (a: string, b: number) => Math.abs(Number(a) - b) < 0.006
  const checks: [string, boolean][] = [
    ['ffprobe description', tags.comment === title],
    ['ffprobe originator', tags.encoded_by === 'Plain Cut'],
    ['ffprobe reference', tags.originator_reference === reference],
    ['ffprobe date', tags.date === day],
    ['ffprobe time', tags.creation_time === time],
    ['ffprobe time reference', Number(tags.time_reference) === Math.round((from * order.rate) / 48_000)],
    ['ffprobe coding history', tags.coding_history?.trim() === history],
    ['mediainfo description', general.Description === title],
    ['mediainfo originator', general.Producer === 'Plain Cut'],
    ['mediainfo reference', general.Producer_Reference === reference],
    ['mediainfo date and time', general.Encoded_Date === `${day} ${time}`],
    ['mediainfo coding history', general.Encoded_Library_Settings?.trim() === history],
    ['mediainfo version', general.bext_Version === '2'],
    ['mediainfo delay', near(loudness.Delay, from / 48_000)],
    ['mediainfo loudness', near(loudness.LoudnessValue, receipt.loudness!)],
    ['mediainfo true peak', near(loudness.MaxTruePeakLevel, receipt.truePeak!)],
  ]
  for (const [name, right] of checks) if (!right) console.error(`${name} is not read back right`)
  return { right: checks.filter(([, right]) => right).length, all: checks.length }
}
