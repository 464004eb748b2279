import { bare } from '../find/bare'

/** What is said where something is written: `11` is “eleven”, `17:52` is “seventeen fifty two”. */

const ONES =
  'zero one two three four five six seven eight nine ten eleven twelve thirteen fourteen fifteen sixteen seventeen eighteen nineteen'.split(
    ' ',
  )
const TENS = '_ _ twenty thirty forty fifty sixty seventy eighty ninety'.split(' ')
// Maps, not objects: what every object has, “constructor” among it, is a word like any other
const ORDINALS = new Map([
  ['one', 'first'],
  ['two', 'second'],
  ['three', 'third'],
  ['five', 'fifth'],
  ['eight', 'eighth'],
  ['nine', 'ninth'],
  ['twelve', 'twelfth'],
])
const SCALES = [
  [1_000_000_000, 'billion'],
  [1_000_000, 'million'],
  [1000, 'thousand'],
  [100, 'hundred'],
] as const
const SIGNS = new Map([
  ['%', 'percent'],
  ['&', 'and'],
  ['+', 'plus'],
  ['=', 'equals'],
  ['@', 'at'],
])
const MONEY = new Map([
  ['£', 'pounds'],
  ['$', 'dollars'],
  ['€', 'euros'],
])
const SHORT = new Map([
  ['mr', 'mister'],
  ['mrs', 'missus'],
  ['ms', 'miz'],
  ['dr', 'doctor'],
  ['st', 'saint'],
  ['vs', 'versus'],
  ['etc', 'et cetera'],
  ['km', 'kilometres'],
  ['kg', 'kilos'],
  ['approx', 'approximately'],
])

function number(value: number): string[] {
  if (value < 20) return [ONES[value]]
  if (value < 100) return [TENS[Math.floor(value / 10)], ...(value % 10 ? [ONES[value % 10]] : [])]
  for (const [scale, name] of SCALES)
    if (value >= scale) {
      const rest = value % scale
      return [...number(Math.floor(value / scale)), name, ...(rest ? [...(rest < 100 ? ['and'] : []), ...number(rest)] : [])]
    }
  return []
}

const ordinal = (words: string[]): string[] => {
  const last = words[words.length - 1]
  return [...words.slice(0, -1), ORDINALS.get(last) ?? (last.endsWith('y') ? `${last.slice(0, -1)}ieth` : `${last}th`)]
}

/** Four figures are read as a year where they can be one. */
const year = (value: number): string[] =>
  value % 100 === 0
    ? [...number(value / 100), 'hundred']
    : [...number(Math.floor(value / 100)), ...(value % 100 < 10 ? ['oh'] : []), ...number(value % 100)]

function figures(text: string): string[] {
  const clock = /^(\d{1,2})[:.](\d\d)$/.exec(text)
  if (clock && text.includes(':'))
    return [
      ...number(Number(clock[1])),
      ...(clock[2] === '00' ? [] : [...(clock[2].startsWith('0') ? ['oh'] : []), ...number(Number(clock[2]))]),
    ]
  const [whole, part] = text.replaceAll(',', '').split('.')
  if (whole.length > 12) return [...whole].map((digit) => ONES[Number(digit)])
  const value = Number(whole)
  const read =
    !text.includes(',') && !part && value >= 1100 && value < 2100 && !(value >= 2000 && value < 2010) ? year(value) : number(value)
  return part ? [...read, 'point', ...[...part].map((digit) => ONES[Number(digit)])] : read
}

/** Letters one by one, each as the dictionary has it: `n.`. */
const spelled = (letters: string): string[] => [...letters.toLowerCase()].map((letter) => `${letter}.`)

/** A web or mail address: its dots and slashes are said. */
const ADDRESS = /^(?:https?:\/\/)?((?:[\p{L}\d_-]+[.@])+[a-z]{2,}(?:\/[\p{L}\d./_-]*)?)$/u
const IN_ADDRESS = new Map([
  ['.', 'dot'],
  ['/', 'slash'],
  ['@', 'at'],
  ['-', 'dash'],
  ['_', 'underscore'],
])
/** Ends of addresses that are said as words; other ends of two letters are spelled. */
const SAID_ENDS = new Set(['com', 'org', 'net', 'info', 'gov'])

function address(text: string): string[] {
  const parts = text.split(/([./@_-])/).filter(Boolean)
  return parts.flatMap((part, i): string[] => {
    const sign = IN_ADDRESS.get(part)
    if (sign) return i === parts.length - 1 ? [] : [sign]
    const end = parts[i - 1] === '.' && !SAID_ENDS.has(part.toLowerCase()) && part.length === 2
    return end || part.toLowerCase() === 'www' ? spelled(part) : spoken(part)
  })
}

/** Money with its scale: “£1.2m” is one point two million pounds. */
const SUM = /^([£$€])(\d[\d.,]*)(k|m|bn)$/i
const SUM_SCALES = new Map([
  ['k', 'thousand'],
  ['m', 'million'],
  ['bn', 'billion'],
])

/** A time of day: `3.30pm`, `5 a.m.`; figures may have gone before. */
const OF_DAY = /^(?:(\d{1,2})(?:[:.](\d\d))?)?([ap])\.?m\.?$/i

/** The spoken words of one written word, in small letters; none where nothing of it is said. */
export function spoken(text: string): string[] {
  const plain = text.replace(/^[\s"'“”‘’([]+|[\s"'“”‘’)\],;:!?…]+$/gu, '')
  const found = ADDRESS.exec(plain.replace(/\.$/, ''))
  // initials with dots are not an address
  if (found && !/^(?:\p{L}\.)+\p{L}?$/u.test(plain)) return address(found[1])
  const sum = SUM.exec(plain.replace(/\.$/, ''))
  if (sum) return [...figures(sum[2]), SUM_SCALES.get(sum[3].toLowerCase())!, MONEY.get(sum[1])!]
  const time = /^\d|^[ap]\.m/i.test(plain) ? OF_DAY.exec(plain) : null
  if (time) return [...(time[1] ? figures(`${time[1]}:${time[2] ?? '00'}`) : []), ...spelled(`${time[3]}m`)]
  const decade = /^[‘’']?(\d{2}|\d{3}0)s$/.exec(plain.replace(/\.$/, ''))
  if (decade) {
    const read = decade[1].length === 4 ? year(Number(decade[1])) : number(Number(decade[1]))
    return [...read.slice(0, -1), read.at(-1)!.replace(/y$/, 'ie') + 's']
  }
  if (/^(?:\p{L}\.){2,}$/u.test(plain)) return spelled(plain.replaceAll('.', ''))
  return parted(text)
}

/** The spoken words of what is neither an address, a sum, a time of day, a decade nor initials with dots. */
function parted(text: string): string[] {
  const pieces = text.split(/[-–—/_]+|(?<=\p{L})(?=\d)|(?<=\d)(?=[\p{L}%])|(?<=[£$€&+=@])|(?=[£$€&+=@])/u)
  return pieces.flatMap((part, i, parts): string[] => {
    const sign = SIGNS.get(part.trim())
    if (sign) return [sign]
    if (MONEY.has(part)) return []
    const digits = /\d[\d.,:]*/.exec(part)?.[0].replace(/[.,:]+$/, '')
    if (digits) {
      const after = parts[i + 1]?.toLowerCase().replace(/[^a-z]/g, '')
      const read = after && /^(st|nd|rd|th)$/.test(after) ? ordinal(figures(digits)) : figures(digits)
      const money = MONEY.get(parts[i - 1])
      return money ? [...read, money] : read
    }
    const word = bare(part)
    if (i > 0 && /\d/.test(parts[i - 1]) && /^(st|nd|rd|th)$/.test(word)) return []
    const short = SHORT.get(word)
    if (short && (part.endsWith('.') || word.length < 3)) return short.split(' ')
    // a name in capitals is spelled out
    if (/^(\p{Lu}\.?){2,4}$/u.test(part.replace(/[^\p{L}.]/gu, '')) && !/[AEIOUY]/.test(part)) return spelled(word)
    // of single letters, these alone are words
    if (/^[b-hj-np-z]$/.test(word)) return spelled(word)
    return word ? [word] : []
  })
}
