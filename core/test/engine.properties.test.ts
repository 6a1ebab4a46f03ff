import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { playingArb, showArb, type GeneratedShow, type Playing } from './arbitraries';
import { outboardInstrument, type Sent } from './build';
import { RUNS, SEED, check, letGo, play, rigFor } from './generatedPlaying';

class Balance {
  readonly down = new Map<string, number>();
  readonly pedals = new Map<string, number>();

  add({ to, status, data1, data2 }: Sent): void {
    const place = `${to} ${status & 15} ${data1}`;
    const kind = status & 0xf0;
    if (kind === 0x90) this.down.set(place, (this.down.get(place) ?? 0) + 1);
    if (kind === 0x80) this.down.set(place, (this.down.get(place) ?? 0) - 1);
    if (kind === 0xb0 && [64, 66, 67].includes(data1)) this.pedals.set(place, data2);
    if (kind === 0x80 && this.down.get(place)! < 0) throw new Error(`a note-off before its note-on: ${place}`);
  }
}

describe(`always true (seed ${SEED}, ${RUNS} runs each)`, () => {
  it('1, 2: when everything is let go nothing sounds; note-offs equal note-ons, each after its own', () => {
    check(fc.tuple(showArb(), playingArb()), ([generated, playing]) => {
      const rig = rigFor(generated);
      letGo(rig, play(rig, playing as Playing) + 1);
      expect(rig.engine.sounding()).toEqual([]);
      const balance = new Balance();
      rig.sent.forEach((message) => balance.add(message));
      expect([...balance.down].filter(([, count]) => count !== 0)).toEqual([]);
      expect([...balance.pedals].filter(([, value]) => value >= 64)).toEqual([]);
    });
  });

  it('3: in a recall, only bank select (and the end of what is cut) precedes the program of an outboard instrument', () => {
    check(fc.tuple(showArb('any', false), playingArb()), ([generated, playing]) => {
      const rig = rigFor(switchingAtOnce(generated));
      play(rig, playing as Playing, (happening, sent) => {
        if (happening.kind !== 'recall') return;
        const skerry = sent.filter((message) => message.to === 'Skerry' && message.atMs === rig.engine.nowMs);
        skerry.forEach((program, at) => {
          if ((program.status & 0xf0) !== 0xc0) return;
          const before = skerry.slice(0, at).filter((message) => (message.status & 15) === (program.status & 15));
          const allowed = before.every(
            ({ status, data1, data2 }) =>
              (status & 0xf0) === 0x80 ||
              ((status & 0xf0) === 0xb0 && ([0, 32].includes(data1) || ([64, 66, 67].includes(data1) && data2 === 0))),
          );
          expect(allowed).toBe(true);
        });
      });
    });
  });

  it('4: with carry "hold" no recall ends a note whose key or pedal is down', () => {
    check(fc.tuple(showArb('hold', false), playingArb(false)), ([generated, playing]) => {
      const rig = rigFor(withoutArpeggios(switchingAtOnce(generated)));
      play(rig, playing as Playing, (happening, sent) => {
        if (happening.kind !== 'recall' && happening.kind !== 'step') return;
        // A key switch is a note of its own, over at once.
        const isKeySwitch = (at: number): boolean =>
          (sent[at].status & 0xf0) === 0x80 &&
          at > 0 &&
          sent[at - 1].status === sent[at].status + 16 &&
          sent[at - 1].data1 === sent[at].data1 &&
          sent[at - 1].to === sent[at].to;
        const ends = sent.filter(
          ({ status, data1, data2 }, at) =>
            ((status & 0xf0) === 0x80 && !isKeySwitch(at)) ||
            ((status & 0xf0) === 0xb0 && [64, 66, 67].includes(data1) && data2 < 64),
        );
        expect(ends).toEqual([]);
      });
    });
  });
});

/** What the arpeggiator plays ends by itself, at any moment. */
function withoutArpeggios(generated: GeneratedShow): GeneratedShow {
  const plain = <T extends { arpeggio: unknown }>(parts: T[]): T[] =>
    parts.map((part) => ({ ...part, arpeggio: null }));
  return {
    ...generated,
    songs: generated.songs.map((song) => ({
      ...song,
      standing: plain(song.standing),
      patches: song.patches.map((patch) => ({ ...patch, parts: plain(patch.parts) })),
    })) as unknown as GeneratedShow['songs'],
  };
}

/** Without switching times nothing of before falls due within a recall: what is sent then belongs to it. */
const switchingAtOnce = (generated: GeneratedShow): GeneratedShow => ({
  ...generated,
  instruments: [outboardInstrument({ switchMs: 0 })],
});
