import { quartersOf, type Song } from '@rackle/core/show';

/** Notes by which a tempo is counted, and how each is written before it. */
export const TEMPO_NOTES: readonly { note: Song['tempoNote']; sign: string }[] = [
  { note: '1/2.', sign: 'dotted half' },
  { note: '1/2', sign: 'half' },
  { note: '1/4.', sign: '♩.' },
  { note: '1/4', sign: '♩' },
  { note: '1/8.', sign: '♪.' },
  { note: '1/8', sign: '♪' },
];

type Counted = Pick<Song, 'tempoNote'>;

/** A tempo (in quarter notes a minute) as a song counts it. */
export const countedTempo = ({ tempoNote }: Counted, bpm: number): number => bpm / quartersOf(tempoNote);

/** The same as it reads, with at most so many decimals. */
export const tempoText = (song: Counted, bpm: number, decimals = 1): string =>
  String(Math.round(countedTempo(song, bpm) * 10 ** decimals) / 10 ** decimals);

/** What stands before it: “♩.”. */
export const tempoSign = ({ tempoNote }: Counted): string =>
  TEMPO_NOTES.find(({ note }) => note === tempoNote)?.sign ?? '♩';
