/** How the texts of a file are written. */
export const TEXT_CODES = ['utf-8', 'windows-1252', 'shift_jis'] as const;
export type TextCode = (typeof TEXT_CODES)[number];

/** A tag at the start of a text names its code (Recommended Practice 26). */
const TAGS: Record<string, TextCode> = { '{@LATIN}': 'windows-1252', '{@JP}': 'shift_jis' };

function isUtf8(bytes: Uint8Array): boolean {
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    return true;
  } catch {
    return false;
  }
}

/** The code of some texts together: strict UTF-8 where all of them are, else the one that a tag names, else Windows-1252. */
export function textCodeOf(texts: readonly Uint8Array[]): TextCode {
  if (texts.every(isUtf8)) return 'utf-8';
  for (const bytes of texts) {
    const start = String.fromCharCode(...bytes.subarray(0, 8));
    const tag = Object.keys(TAGS).find((one) => start.startsWith(one));
    if (tag !== undefined) return TAGS[tag];
  }
  return 'windows-1252';
}

/** Windows-1252 from 0x80 to 0x9f; not all runtimes know it as it is. */
const UPPER = '€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ';
const windows1252 = (bytes: Uint8Array): string =>
  Array.from(bytes, (byte) => (byte >= 0x80 && byte < 0xa0 ? UPPER[byte - 0x80] : String.fromCharCode(byte))).join('');

/** A text without its tag; bytes that its code has not become U+FFFD. */
export const decodedText = (bytes: Uint8Array, code: TextCode = textCodeOf([bytes])): string =>
  (code === 'windows-1252' ? windows1252(bytes) : new TextDecoder(code).decode(bytes)).replace(/^\{@[A-Z]+\}/, '');
