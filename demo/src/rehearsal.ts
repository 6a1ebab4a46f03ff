import { writeSmf, type WriteMessage } from '@rackle/core/formats';
import type { Show } from '@rackle/core/show';

const TICKS_PER_QUARTER = 480;
const US_PER_QUARTER = 500_000;
const tickOf = (seconds: number): number => Math.round(seconds * 2 * TICKS_PER_QUARTER);

/** A player at the keys, and a foot on the Treadle, noted in seconds. */
class Hands {
  readonly keys: WriteMessage[] = [];
  readonly feet: WriteMessage[] = [];

  chord(fromS: number, toS: number, keys: number[], velocity = 84): void {
    keys.forEach((key, i) => {
      this.key(fromS + i * 0.012, 0x90, key, velocity - i * 3);
      this.key(toS + i * 0.008, 0x80, key, 64);
    });
  }

  pedal(fromS: number, toS: number): void {
    this.key(fromS, 0xb0, 64, 127);
    this.key(toS, 0xb0, 64, 0);
  }

  key(atS: number, status: number, data1: number, data2: number): void {
    this.keys.push({ kind: 'message', atTick: tickOf(atS), status, data1, data2 });
  }

  recall(atS: number, program: number): void {
    this.feet.push({ kind: 'message', atTick: tickOf(atS), status: 0xc0, data1: program, data2: 0 });
  }
}

/**
 * The rehearsal: four songs with chords held over recalls, the pedal held over recalls, a wheel left bent and let go,
 * a recall of what is current, and a number that is not in the setlist.
 */
export function rehearsal(show: Show): Uint8Array {
  const [setlist] = show.setlists;
  const number = (songId: string, patch: string, blend: string | null = null): number => {
    const line = setlist.programs.find(
      ({ target }) =>
        target.songId === songId &&
        target.patchId === `${songId}/${patch}` &&
        target.blendId === (blend === null ? null : `${songId}/${patch}/${blend}`),
    );
    if (!line) throw new Error(`${songId}, ${patch}: no number`);
    return line.program;
  };
  const hands = new Hands();
  // Biscuit Tin Regatta: bass and electric piano, a chord held into Oars and on into Regatta.
  hands.chord(0.5, 2, [43, 62, 67, 71]);
  hands.chord(2.2, 4.6, [40, 64, 67, 71]);
  hands.recall(4, number('biscuit-tin-regatta', 'oars'));
  hands.chord(4.8, 8.4, [45, 60, 64, 69], 90);
  hands.recall(7, number('biscuit-tin-regatta', 'regatta'));
  hands.chord(7.4, 9, [67, 71, 74], 96);
  // Third Ferry Home: the pedal stays down over two recalls, the second to a blend.
  hands.recall(10, number('third-ferry-home', 'quay'));
  hands.pedal(10.4, 16);
  hands.chord(10.5, 11.4, [38, 62, 65, 69]);
  hands.recall(12, number('third-ferry-home', 'gangway'));
  hands.chord(12.2, 13.5, [41, 60, 65, 69]);
  hands.recall(14, number('third-ferry-home', 'gangway', 'quiet'));
  hands.chord(14.2, 15, [43, 58, 62, 67], 60);
  hands.recall(14.6, number('third-ferry-home', 'gangway', 'quiet'));
  // Stabs are cut by the recall to Bell buoy while the keys are down.
  hands.recall(17, number('third-ferry-home', 'open-water'));
  hands.chord(17.3, 19, [74, 77, 81], 118);
  hands.recall(18.5, number('third-ferry-home', 'bell-buoy'));
  // A number that nobody has, and a key right after Skerry has been told to switch.
  hands.recall(19.5, 120);
  hands.recall(20, number('moth-and-lamp', 'ash'));
  hands.chord(20.05, 22, [45, 52, 57], 80);
  hands.chord(20.3, 22.5, [69, 72, 76], 80);
  // Flame: bent, recalled, let go.
  hands.recall(23, number('moth-and-lamp', 'flame'));
  hands.chord(23.2, 25, [72], 100);
  for (let i = 0; i <= 8; i++) hands.key(23.6 + i * 0.05, 0xe0, 0, 64 + Math.min(63, i * 7));
  hands.recall(24.3, number('moth-and-lamp', 'dusk'));
  for (let i = 8; i >= 0; i--) hands.key(24.6 + (8 - i) * 0.05, 0xe0, 0, 64 + Math.min(63, i * 7));
  // Salt on the Strings: long bows carry into Rinse.
  hands.recall(26, number('salt-on-the-strings', 'long-bows'));
  hands.chord(26.3, 31, [43, 50, 58, 62, 67], 88);
  hands.recall(28, number('salt-on-the-strings', 'rinse'));
  hands.chord(28.4, 30, [48, 70, 74], 76);
  const inOrder = (messages: WriteMessage[]): WriteMessage[] => [...messages].sort((a, b) => a.atTick - b.atTick);
  return writeSmf(
    [
      { name: 'Keys', messages: inOrder(hands.keys) },
      { name: 'Treadle 6', messages: inOrder(hands.feet) },
    ],
    TICKS_PER_QUARTER,
    US_PER_QUARTER,
  );
}
