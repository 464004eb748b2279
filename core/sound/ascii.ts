/** Letters that no accent makes, and signs that keyboards of another time did not have. */
const PLAIN: Readonly<Record<string, string>> = {
  ß: 'ss',
  æ: 'ae',
  Æ: 'AE',
  ø: 'o',
  Ø: 'O',
  œ: 'oe',
  Œ: 'OE',
  ð: 'd',
  Ð: 'D',
  þ: 'th',
  Þ: 'Th',
  ł: 'l',
  Ł: 'L',
  đ: 'd',
  Đ: 'D',
  ı: 'i',
  '‘': "'",
  '’': "'",
  '‚': ',',
  '“': '"',
  '”': '"',
  '„': '"',
  '–': '-',
  '—': '-',
  '−': '-',
  '…': '...',
  '€': 'EUR',
  '£': 'GBP',
}

/** Text as standards have it that know ASCII alone: without accents, with a question mark for what has no plain form. */
export const asciiOf = (text: string): string =>
  text
    .replace(/[^ -~]/gu, (sign) => PLAIN[sign] ?? sign)
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/\p{Cc}+/gu, ' ')
    .replace(/[^ -~]/gu, '?')
