import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { Engine, InputLog, Registry, SilentSink, type LastPlace, type MovedByHand } from '../src/engine';
import { playingArb, showArb, type Playing } from './arbitraries';
import { RUNS, SEED, check, play, rigFor } from './generatedPlaying';

describe(`always true (seed ${SEED}, ${RUNS} runs each)`, () => {
  it('5: the same input gives the same output', () => {
    check(fc.tuple(showArb(), playingArb()), ([generated, playing]) => {
      const [first, second] = [rigFor(generated), rigFor(generated)];
      play(first, playing as Playing);
      play(second, playing as Playing);
      expect(second.sent).toEqual(first.sent);
      expect(second.records).toEqual(first.records);
    });
  });

  it('5: the log of a run, as plain values, gives the same bytes when it is played again', () => {
    check(fc.tuple(showArb(), playingArb()), ([generated, playing]) => {
      const [run, again] = [rigFor(generated), rigFor(generated)];
      play(run, playing as Playing);
      const log = new InputLog(run.registry);
      // As a host writes it: what can be is packed, the rest stands as it came.
      for (const { input, atMs } of run.fed) {
        const port = input.type === 'message' ? run.registry.findInput(input.device) : -1;
        if (input.type === 'message' && port >= 0) log.message(port, input.status, input.data1, input.data2, atMs);
        else log.add(input, atMs);
      }
      expect(log.lost).toBe(0);
      again.simulation.play(structuredClone(log.entries()));
      expect([again.sent, again.balances, again.fades, again.told]).toEqual([
        run.sent,
        run.balances,
        run.fades,
        run.told,
      ]);
      expect(again.records).toEqual(run.records);
    });
  });

  it('6: loading the same show anew at any moment changes nothing that is sent', () => {
    check(fc.tuple(showArb(), playingArb(), fc.integer({ min: 1, max: 5 })), ([generated, playing, every]) => {
      const [plain, reloaded] = [rigFor(generated), rigFor(generated)];
      // A reload also does what has fallen due by then; at the end both have.
      plain.engine.advance(play(plain, playing as Playing));
      reloaded.engine.advance(
        play(
          reloaded,
          (playing as Playing).flatMap((entry, i): Playing =>
            i % every === 0 ? [entry, [0, { kind: 'reload' }]] : [entry],
          ),
        ),
      );
      expect(reloaded.sent).toEqual(plain.sent);
    });
  });

  it('what hands have moved stands again after a restart in the same place', () => {
    let restarts = 0;
    let moved = 0;
    check(fc.tuple(showArb(), playingArb()), ([generated, playing]) => {
      const rig = rigFor(generated);
      rig.engine.advance(play(rig, playing as Playing));
      const { engine, show } = rig;
      const { step } = engine;
      // One that was deleted under the hands is not found again.
      if (step === null || !Number.isInteger(step.position)) return;
      restarts++;
      const kept = engine.movedByHand();
      if (kept !== null && kept.layers.length + kept.effects.length > 0) moved++;
      const place = {
        setlistId: show.setlists[0].id,
        entryId: step.entryId,
        patchId: step.patch.patchId,
        blendId: step.balance.blendId,
        counters: engine.counters(),
        hands: structuredClone(kept),
      };
      const again = new Engine(new Registry(), new SilentSink());
      again.apply(
        { type: 'show', show, setlistId: place.setlistId, place: JSON.parse(JSON.stringify(place)) as LastPlace },
        1,
      );
      const balances = (of: Engine) => of.balanceNow().map(({ parameters: _, ...balance }) => balance);
      expect(balances(again)).toEqual(balances(engine));
      expect(step.patch.layers.map((_, part) => again.presetOf(part))).toEqual(
        step.patch.layers.map((_, part) => engine.presetOf(part)),
      );
      expect(again.transpose).toBe(engine.transpose);
      const sorted = (moved: MovedByHand | null) =>
        moved && {
          ...moved,
          layers: [...moved.layers].sort((a, b) => a.key.localeCompare(b.key)),
          effects: moved.effects.map((effect) => JSON.stringify(effect)).sort(),
          parameters: [],
        };
      if (kept?.parameters.length === 0) expect(sorted(again.movedByHand())).toEqual(sorted(kept));
    });
    // Most runs can be restarted, and hands have moved something in a good part of them.
    expect(restarts).toBeGreaterThan(RUNS / 2);
    expect(moved).toBeGreaterThan(RUNS / 50);
  });
});
