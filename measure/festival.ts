import { spawnSync } from 'node:child_process'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { RATE, toFrames } from '../core/time'
import type { Say } from './tidyTape'

/** Debian's festival as a second maker of voices: it speaks a phrase and says when each word begins and ends. */

export const FESTIVAL_VOICES = ['kal_diphone', 'cmu_us_slt_arctic_hts'] as const

const folder = mkdtempSync(join(tmpdir(), 'festival-'))

/** Says phrases in one of the voices. Throws where festival does not, or does not tell of each word. */
export function festivalSays(voice: (typeof FESTIVAL_VOICES)[number]): Say {
  return (text, slower = 1) => {
    const [script, wave] = [join(folder, 'say.scm'), join(folder, 'said.wav')]
    writeFileSync(
      script,
      `(voice_${voice})
(Parameter.set 'Duration_Stretch ${slower.toFixed(2)})
(set! said (utt.synth (Utterance Text ${JSON.stringify(text)})))
(utt.save.wave said "${wave}" 'riff)
(mapcar (lambda (word) (format t "%s %s\\n" (item.feat word "word_start") (item.feat word "word_end"))) (utt.relation.items said 'Word))
`,
    )
    const { status, stdout, stderr } = spawnSync('festival', ['-b', script], { encoding: 'utf8' })
    if (status !== 0) throw new Error(`festival: ${stderr}`)
    const times = stdout
      .trim()
      .split('\n')
      .map((line) => line.split(' ').map(Number))
    const texts = text.split(/\s+/)
    if (times.length !== texts.length) throw new Error(`festival tells of ${times.length} words in “${text}”`)
    // the statistical voice knows no pace of its own: its sound is stretched, at its pitch
    const stretch = voice === 'kal_diphone' ? 1 : slower
    const pace = stretch > 1 ? ['-af', `atempo=${(1 / stretch).toFixed(4)}`] : []
    const decoded = spawnSync('ffmpeg', ['-v', 'error', '-i', wave, ...pace, '-ac', '1', '-ar', String(RATE), '-f', 'f32le', 'pipe:1'], {
      maxBuffer: 1 << 28,
    }).stdout
    return {
      samples: new Float32Array(decoded.buffer.slice(decoded.byteOffset, decoded.byteOffset + decoded.byteLength)),
      words: texts.map((word, i) => ({ text: word, from: toFrames(times[i][0] * stretch), to: toFrames(times[i][1] * stretch) })),
    }
  }
}
