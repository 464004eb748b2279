/**
 * How a word that no dictionary has is probably said, in the 39 sounds of the CMU dictionary
 * (ARPAbet, without stress): English spelling read by rule, the longest spelling first.
 */

/** The ways in which a word of the dictionary is said, each as sounds with blanks between; none where it is not there. */
export type Dictionary = (word: string) => readonly string[]

type Rule = readonly [spelling: RegExp, sounds: string]

const rule = (spelling: string, sounds: string): Rule => [new RegExp(spelling, 'y'), sounds]

/** In order; `^` and `$` are the word's ends, what stands in brackets is looked at and not taken. */
const RULES: readonly Rule[] = [
  rule('^(?:kn|gn|pn)', 'N'),
  rule('^wr', 'R'),
  rule('^ps', 'S'),
  rule('^x', 'Z'),
  rule('^mc', 'M AH K'),
  rule('tion(?=s?$)', 'SH AH N'),
  rule('sion(?=s?$)', 'ZH AH N'),
  rule('cian(?=s?$)', 'SH AH N'),
  rule('ture(?=s?$)', 'CH ER'),
  rule('sure(?=s?$)', 'ZH ER'),
  rule('[ct]ious$', 'SH AH S'),
  rule('ous$', 'AH S'),
  rule('ough(?=t)', 'AO'),
  rule('ough', 'OW'),
  rule('augh', 'AO'),
  rule('eigh', 'EY'),
  rule('igh', 'AY'),
  rule('tch', 'CH'),
  rule('sch', 'S K'),
  rule('dge', 'JH'),
  rule('chr', 'K R'),
  rule('ch', 'CH'),
  rule('sh', 'SH'),
  rule('th', 'TH'),
  rule('ph', 'F'),
  rule('gh(?=[aeiou])', 'G'),
  rule('gh', ''),
  rule('wh', 'W'),
  rule('qu', 'K W'),
  rule('ck', 'K'),
  rule('ng$', 'NG'),
  rule('ng(?=[^aeiouy])', 'NG'),
  rule('nk', 'NG K'),
  rule('mb$', 'M'),
  rule('mn$', 'M'),
  rule('eau', 'OW'),
  rule('eer', 'IH R'),
  rule('ear', 'IH R'),
  rule('air', 'EH R'),
  rule('oar', 'AO R'),
  rule('oor', 'AO R'),
  rule('our', 'AW ER'),
  rule('ure$', 'Y UH R'),
  rule('ere$', 'IH R'),
  rule('are$', 'EH R'),
  rule('ore', 'AO R'),
  rule('ire', 'AY ER'),
  rule('ee', 'IY'),
  rule('ea', 'IY'),
  rule('oo', 'UW'),
  rule('ou', 'AW'),
  rule('ow$', 'OW'),
  rule('ow', 'AW'),
  rule('oa', 'OW'),
  rule('oe', 'OW'),
  rule('oi', 'OY'),
  rule('oy', 'OY'),
  rule('ai', 'EY'),
  rule('ay', 'EY'),
  rule('au', 'AO'),
  rule('aw', 'AO'),
  rule('eu', 'Y UW'),
  rule('ew', 'Y UW'),
  rule('ei', 'EY'),
  rule('ey$', 'IY'),
  rule('ey', 'EY'),
  rule('ie$', 'IY'),
  rule('ie', 'IY'),
  rule('ue$', 'UW'),
  rule('ui', 'UW'),
  rule('uy', 'AY'),
  rule('ar', 'AA R'),
  rule('er$', 'ER'),
  rule('[eiu]r(?=[^aeiouyr])', 'ER'),
  rule('[iu]r$', 'ER'),
  rule('or', 'AO R'),
  rule('le$', 'AH L'),
  rule('les$', 'AH L Z'),
  // a vowel before one consonant and a silent e says its name
  rule('a(?=[^aeiouy](?:e[sdr]?|ing)$)', 'EY'),
  rule('e(?=[^aeiouy](?:e[sdr]?|ing)$)', 'IY'),
  rule('i(?=[^aeiouy](?:e[sdr]?|ing)$)', 'AY'),
  rule('o(?=[^aeiouy](?:e[sdr]?|ing)$)', 'OW'),
  rule('u(?=[^aeiouy](?:e[sdr]?|ing)$)', 'UW'),
  rule('y(?=[^aeiouy](?:e[sdr]?|ing)$)', 'AY'),
  // she, the, we: the only vowel is said
  rule('(?<=^[^aeiou]+)e$', 'IY'),
  rule('(?<=[^aeiou])e$', ''),
  rule('(?<=[aeiouy].*[td])ed$', 'AH D'),
  rule('(?<=[aeiouy].*[pkfs])ed$', 'T'),
  rule('(?<=[aeiouy].*[^aeiou])ed$', 'D'),
  rule('(?<=[sxz])es$', 'AH Z'),
  rule('(?<=[^aeiou])es$', 'Z'),
  rule('^y', 'Y'),
  rule('(?<=^[^aeiou]{1,3})y$', 'AY'),
  rule('y$', 'IY'),
  rule('y', 'IH'),
  rule('a$', 'AH'),
  rule('o$', 'OW'),
  rule('i$', 'IY'),
  rule('u$', 'UW'),
  rule('e$', 'IY'),
  rule('a', 'AE'),
  rule('e', 'EH'),
  rule('i', 'IH'),
  rule('o', 'AA'),
  rule('u', 'AH'),
  rule('c(?=[eiy])', 'S'),
  rule('g(?=[eiy])', 'JH'),
  rule('x', 'K S'),
  rule("'s$", 'Z'),
  rule('(?<=[pktf])s$', 'S'),
  rule('(?<=[bdgvmnlrewy])s$', 'Z'),
  rule('bb?', 'B'),
  rule('cc?', 'K'),
  rule('dd?', 'D'),
  rule('ff?', 'F'),
  rule('gg?', 'G'),
  rule('h', 'HH'),
  rule('j', 'JH'),
  rule('kk?', 'K'),
  rule('ll?', 'L'),
  rule('mm?', 'M'),
  rule('nn?', 'N'),
  rule('pp?', 'P'),
  rule('q', 'K'),
  rule('rr?', 'R'),
  rule('ss?', 'S'),
  rule('tt?', 'T'),
  rule('v', 'V'),
  rule('w', 'W'),
  rule('zz?', 'Z'),
]

/** How the letters are called, in order. */
const LETTERS = (
  'EY|B IY|S IY|D IY|IY|EH F|JH IY|EY CH|AY|JH EY|K EY|EH L|EH M|EH N|OW|P IY|K Y UW|AA R|EH S|T IY|Y UW|V IY|' +
  'D AH B AH L Y UW|EH K S|W AY|Z EH D'
).split('|')

/** The sounds of a word by rule; `n.` is the letter's name, and a word of which nothing can be read is a single neutral vowel. */
export function pronounced(word: string): string[] {
  const letters = word.toLowerCase()
  if (/^[a-z]\.$/.test(letters)) return LETTERS[letters.charCodeAt(0) - 97].split(' ')
  const sounds: string[] = []
  for (let at = 0; at < letters.length;) {
    const found = RULES.find(([spelling]) => {
      spelling.lastIndex = at
      return spelling.test(letters) && spelling.lastIndex > at
    })
    if (!found) {
      at++
      continue
    }
    found[0].lastIndex = at
    found[0].test(letters)
    at = found[0].lastIndex
    if (found[1]) sounds.push(...found[1].split(' '))
  }
  return sounds.length ? sounds : ['AH']
}
