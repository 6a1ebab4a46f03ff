/** “1 cue”, “3 cues”. */
export const counted = (count: number, word: string): string => `${count} ${word}${count === 1 ? '' : 's'}`;
/** 4:06 */
export const minutesText = (seconds: number): string =>
  `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`;
/** 20:34, also past midnight. */
export const clockText = (minutes: number): string =>
  `${String(Math.floor(minutes / 60) % 24).padStart(2, '0')}:${String(Math.floor(minutes % 60)).padStart(2, '0')}`;
/** “4:06” or “246” in seconds; null when it cannot be read. */
export function readMinutes(text: string): number | null {
  const match = /^\s*(\d{1,3})(?::(\d{2}))?\s*$/.exec(text);
  return match ? (match[2] === undefined ? Number(match[1]) : Number(match[1]) * 60 + Number(match[2])) : null;
}
/** “20 Jun 2026” of a day or a moment in ISO 8601. */
export const dayText = (iso: string): string =>
  new Date(iso.length === 10 ? `${iso}T12:00` : iso).toLocaleDateString('en-GB', {
    day: 'numeric',
    month: 'short',
    year: 'numeric',
  });
/** −4 dB, with a real minus. */
export const dbText = (db: number): string => `${String(Math.round(db * 10) / 10).replace('-', '−')} dB`;
/** “left 20”, “middle”. */
export const panText = (pan: number): string =>
  pan === 0 ? 'middle' : `${pan < 0 ? 'left' : 'right'} ${Math.abs(pan)}`;
/** “up an octave”, “down 3 semitones”, “as played”. */
export function shiftText(shift: number): string {
  if (shift === 0) return 'as played';
  const octaves = Math.trunc(Math.abs(shift) / 12);
  const semitones = Math.abs(shift) % 12;
  const words = [
    octaves === 0 ? '' : octaves === 1 ? 'an octave' : `${octaves} octaves`,
    semitones === 0 ? '' : `${semitones} semitone${semitones === 1 ? '' : 's'}`,
  ].filter((word) => word !== '');
  return `${shift > 0 ? 'up' : 'down'} ${words.join(' and ')}`;
}
/** −12, +7: short. */
export const shiftNote = (shift: number): string => (shift === 0 ? '' : `${shift > 0 ? '+' : '−'}${Math.abs(shift)}`);
/** 440 Hz, 2.5 kHz. */
export const hzText = (hz: number): string =>
  hz >= 1000 ? `${Math.round(hz / 100) / 10} kHz` : `${hz >= 20 ? Math.round(hz) : Math.round(hz * 100) / 100} Hz`;
/** A value with its unit, as texts of that unit go. */
export function unitText(value: number, unit: string): string {
  switch (unit) {
    case 'dB':
      return dbText(value);
    case 'Hz':
      return hzText(value);
    case '%':
      return `${Math.round(value)} %`;
    default:
      return `${String(Math.round(value * 10) / 10).replace('-', '−')}${unit === '' ? '' : ` ${unit}`}`;
  }
}
const NOTE_WORDS: Record<string, string> = {
  1: 'whole note',
  2: 'half',
  4: 'quarter',
  8: 'eighth',
  16: 'sixteenth',
  32: 'thirty-second',
};
/** “dotted eighth” of “1/8.”, “quarter triplet” of “1/4t”. */
export function noteText(note: string): string {
  const [, below, sign] = /^1\/(\d+)(\.|t)?$/.exec(note) ?? [];
  const word = NOTE_WORDS[below] ?? note;
  return sign === '.' ? `dotted ${word}` : sign === 't' ? `${word} triplet` : word;
}
