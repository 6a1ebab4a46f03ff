import type { SmfFile } from '../formats/smf';

/** A text of a file, in its own bytes. */
export interface FileText {
  kind: 'marker' | 'cuePoint' | 'text' | 'lyric' | 'copyright';
  atTick: number;
  /** Number of its track, from 1. */
  track: number;
  bytes: Uint8Array;
}

const KINDS: Partial<Record<number, FileText['kind']>> = {
  1: 'text',
  2: 'copyright',
  5: 'lyric',
  6: 'marker',
  7: 'cuePoint',
};
const LINE = 0x2f;
const VERSE = 0x5c;
const HEAD = 0x40;

/** Texts of all tracks, by tick. Those of a track in which any begins with a line sign are what is sung. */
export function textsOf(file: SmfFile, place: (tick: number, track: number) => number): FileText[] {
  return file.tracks
    .flatMap(({ metas }, t) => {
      const texts = metas.flatMap((meta) => (meta.kind === 'text' ? [meta] : []));
      const isSung = texts.some(({ type, bytes }) => type === 1 && (bytes[0] === LINE || bytes[0] === VERSE));
      return texts.flatMap(({ type, bytes, atTick }): FileText[] => {
        const kind = KINDS[type];
        // An empty cue point takes the text before it away.
        if (kind === undefined || (bytes.length === 0 && kind !== 'cuePoint')) return [];
        // Lines that begin with @ say what the file is.
        const sung = isSung && kind === 'text' && bytes[0] !== HEAD;
        return [{ kind: sung ? 'lyric' : kind, atTick: place(atTick, t), track: t + 1, bytes }];
      });
    })
    .sort((a, b) => a.atTick - b.atTick);
}
