/** Half of a pair of UTF-16 units, standing alone. */
const HALF = /[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/

/** Whether text can be kept in a database: no zero character, and no half of a pair of UTF-16 units. */
export const isStorable = (text: string): boolean => !text.includes('\0') && !HALF.test(text)
