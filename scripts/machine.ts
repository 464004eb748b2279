import { spawnSync } from 'node:child_process'
import { existsSync, readdirSync } from 'node:fs'

/** What Plain Cut needs of the machine beyond Node.js: Debian packages, by what shows that they are there. */

const isRoot = process.getuid?.() === 0

const onPath = (program: string): boolean => (process.env.PATH ?? '').split(':').some((folder) => existsSync(`${folder}/${program}`))

/** Where Debian keeps the newest PostgreSQL's programs; null where there is none. */
export function postgresPrograms(): string | null {
  const base = '/usr/lib/postgresql'
  const versions = existsSync(base) ? readdirSync(base).filter((version) => existsSync(`${base}/${version}/bin/initdb`)) : []
  const newest = versions.sort((a, b) => Number(b) - Number(a))[0]
  return newest ? `${base}/${newest}/bin` : null
}

const needs = {
  postgresql: () => postgresPrograms() !== null,
  ffmpeg: () => onPath('ffmpeg') && onPath('ffprobe'),
  'chromium-headless-shell': () => onPath('chromium-headless-shell'),
  pocketsphinx: () => onPath('pocketsphinx_continuous'),
  'pocketsphinx-en-us': () => existsSync('/usr/share/pocketsphinx/model/en-us/en-us.lm.bin'),
  flite: () => onPath('flite'),
  festival: () => onPath('festival'),
  'festvox-kallpc16k': () => existsSync('/usr/share/festival/voices/english/kal_diphone'),
  'festvox-us-slt-hts': () => existsSync('/usr/share/festival/voices/us/cmu_us_slt_arctic_hts'),
  sox: () => onPath('sox'),
  mediainfo: () => onPath('mediainfo'),
}

export type Need = keyof typeof needs

/** Installs what is missing, or says what to run and ends. */
export function requirePackages(...names: Need[]): void {
  const missing = names.filter((name) => !needs[name]())
  if (!missing.length) return
  const command = `apt-get install -y --no-install-recommends ${missing.join(' ')}`
  const viaSudo = !isRoot && spawnSync('sudo', ['-n', 'true'], { stdio: 'ignore' }).status === 0
  if (!isRoot && !viaSudo) {
    console.error(
      `Plain Cut needs these Debian packages: ${missing.join(', ')}.\n` +
        `They can't be installed without the rights to. Run this, then start again:\n\n  sudo ${command}\n`,
    )
    process.exit(1)
  }
  console.log(`Installing Debian packages: ${missing.join(', ')} …`)
  const environment = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }
  const run = (line: string) => {
    const words = [...(viaSudo ? ['sudo', '-n'] : []), ...line.split(' ')]
    return spawnSync(words[0], words.slice(1), { stdio: ['ignore', 'ignore', 'inherit'], env: environment }).status === 0
  }
  if (!run(command) && !(run('apt-get update') && run(command))) {
    console.error(`That did not work. Run “${command}” by hand to see why, then start again.`)
    process.exit(1)
  }
}
