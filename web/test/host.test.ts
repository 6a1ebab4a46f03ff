import { beforeEach, describe, expect, it, jest } from '@jest/globals';
import type { LastPlace } from '@rackle/core/engine';
import { Effect, GearList, SharedEffect, Song, playingOrder } from '@rackle/core/show';
import type { Topics } from '../src/protocol';
import { demo, setlist, setUp } from './runningSide';

describe('the engine’s host', () => {
  beforeEach(() => {
    jest.useFakeTimers();
  });

  it('recalls by a Treadle pedal, says so, and does not hear the same pedal twice', async () => {
    const { bench, last, topics, events } = setUp();
    bench({ device: 'Treadle 6', kind: 'pedal', pedal: 2 });
    bench({ device: 'Treadle 6', kind: 'pedal', pedal: 2 });
    expect((await topics()).place.patchId).toBe('biscuit-tin-regatta/regatta');
    expect(last('lastWord')!.text).toBe('Treadle 6 · ch 1 · program 3 → Biscuit Tin Regatta: Regatta');
    expect(events.filter((event) => event.type === 'lastWord')).toHaveLength(1);
  });

  it('says when a program is in no setlist, and changes nothing', async () => {
    const { bench, last, topics } = setUp();
    for (let i = 0; i < 8; i++) bench({ device: 'Treadle 6', kind: 'page', direction: 1 });
    bench({ device: 'Treadle 6', kind: 'pedal', pedal: 5 });
    expect(last('lastWord')!.text).toContain('program 54 → no such program in this setlist');
    // For the soundcheck too, with nobody watching the monitor.
    expect(last('unanswered')!.heard).toEqual({ port: 'Treadle 6', msb: 0, lsb: 0, program: 53 });
    expect((await topics()).place.position).toBe(0);
  });

  it('steps by Updown’s counter, which repeats while it is held; the guard keeps a nervous foot out', async () => {
    const { bench, topics } = setUp();
    bench({ device: 'Updown 2', kind: 'switch', direction: 1, down: true });
    bench({ device: 'Updown 2', kind: 'switch', direction: 1, down: false });
    expect((await topics()).place.position).toBe(0);
    bench({ device: 'Updown 2', kind: 'switch', direction: 1, down: true });
    await jest.advanceTimersByTimeAsync(820);
    bench({ device: 'Updown 2', kind: 'switch', direction: 1, down: false });
    expect((await topics()).place.position).toBe(4);
  });

  it('tells the sound of effects, sends, echo and live layers of the song that is played; live sound ends with its song', async () => {
    const { host, sound, topics, become } = setUp();
    const [song] = demo.songs;
    const [first, second] = song.layers;
    const changed = {
      ...song,
      echoNote: '1/4' as const,
      layers: [
        { ...first, effects: [Effect.parse({ id: 'e', kind: 'chorus' })] },
        { ...second, source: { kind: 'live' as const, input: 'Quay mic' as never, mono: true } },
        ...song.layers.slice(2),
      ],
      patches: song.patches.map((patch, i) =>
        i > 0
          ? patch
          : {
              ...patch,
              parts: patch.parts.map((part) =>
                part.layerId === first.id ? { ...part, sends: [{ to: 'Cathedral' as never, percent: 25 }] } : part,
              ),
            },
      ),
    };
    host.command({ type: 'startSound' });
    await topics();
    become({
      songs: [changed as Song, ...demo.songs.slice(1)],
      setlist: { ...setlist, sharedEffects: [SharedEffect.parse({ id: 's', name: 'Cathedral' })] },
    });
    expect(sound.told.some((line) => /effects of \d+: chorus/.test(line))).toBe(true);
    expect(sound.told).toEqual(
      expect.arrayContaining(['send Cathedral 25', 'echo 1/4', 'shared Cathedral whole ', 'live Quay mic true']),
    );
    host.command({ type: 'bench', gesture: { device: 'Quay mic', kind: 'loop', on: true } });
    expect(sound.told.at(-1)).toBe('loop true');
    host.command({ type: 'recall', position: 4 });
    expect(sound.told).toContain('live null false');
  });

  it('takes effects to where a blend has them in its time, a knob moves them on, and making the sound ready anew does not lose it', async () => {
    const { host, sound, bench, topics, become } = setUp();
    const [song] = demo.songs;
    const [patch] = song.patches;
    const { layerId } = patch.parts[0];
    const changed = Song.parse({
      ...song,
      layers: song.layers.map((layer) =>
        layer.id === layerId ? { ...layer, effects: [Effect.parse({ id: 'e', kind: 'chorus', depth: 10 })] } : layer,
      ),
      patches: [
        {
          ...patch,
          blends: [
            {
              id: 'wide',
              name: 'wide',
              timeMs: 700,
              values: [{ layerId, effects: [{ effectId: 'e', values: { depth: 80 } }] }],
            },
          ],
        },
        ...song.patches.slice(1),
      ],
      bindings: [{ role: 'Bright', action: { kind: 'effectValue', layerId, effectId: 'e', parameter: 'depth' } }],
    });
    const gear = GearList.parse({
      ...demo.gearLists[0],
      roles: [{ role: 'Bright', source: { kind: 'controller', port: 'Cobble 25', number: 20 }, pickUp: 'atOnce' }],
    });
    host.command({ type: 'startSound' });
    await topics();
    become({ songs: [changed, ...demo.songs.slice(1)], gear });
    host.command({ type: 'recall', position: 1 });
    const destination = [...sound.depths].find(([, told]) => told.some(([, rampMs]) => rampMs === 700))![0];
    const told = (): [number, number][] => sound.depths.get(destination)!;
    expect(told().filter(([depth]) => depth === 80)[0]).toEqual([80, 700]);
    expect(told().at(-1)![0]).toBe(80);
    expect((await topics()).balance.layers.flatMap(({ effects }) => effects)).toEqual([
      { effectId: 'e', values: { depth: 80 } },
    ]);
    bench({ device: 'Cobble 25', kind: 'knob', knob: 0, value: 127 });
    expect(sound.told.at(-1)).toBe(`${destination} e depth 100`);
    host.command({ type: 'recall', position: 0 });
    expect(told().at(-1)![0]).toBe(10);
  });

  it('brings a sound that starts late to where its controllers stand', async () => {
    const { host, sound, topics, become } = setUp();
    const [song] = demo.songs;
    const [patch] = song.patches;
    const dark = Song.parse({
      ...song,
      patches: [
        { ...patch, parts: patch.parts.map((part) => ({ ...part, parameters: [{ controller: 74, value: 20 }] })) },
        ...song.patches.slice(1),
      ],
    });
    become({ songs: [dark, ...demo.songs.slice(1)] });
    host.command({ type: 'recall', position: 0 });
    expect(sound.heard).toEqual([]);
    host.command({ type: 'startSound' });
    await topics();
    expect(sound.heard.filter(([, status, controller]) => status === 0xb0 && controller === 74)).toHaveLength(
      patch.parts.length,
    );
  });

  it('tells which keys were struck and how hard, for the curves that are drawn of them', async () => {
    const { host, bench, last } = setUp();
    host.command({ type: 'watch', monitor: false, meters: true });
    bench({ device: 'Aster 73', kind: 'key', key: 60, velocity: 90 });
    bench({ device: 'Aster 73', kind: 'key', key: 60, velocity: 0 });
    bench({ device: 'Aster 73', kind: 'key', key: 64, velocity: 31 });
    await jest.advanceTimersByTimeAsync(100);
    expect(last('strikes')!.strikes).toMatchObject([
      { serial: 0, key: 60, velocity: 90 },
      { serial: 1, key: 64, velocity: 31 },
    ]);
    for (let i = 0; i < 120; i++) bench({ device: 'Aster 73', kind: 'key', key: 50, velocity: 1 + (i % 100) });
    await jest.advanceTimersByTimeAsync(100);
    expect(last('strikes')!.strikes).toHaveLength(100);
    expect(last('strikes')!.strikes.at(-1)!.serial).toBe(121);
  });

  it('tells of a key under which no layer is in which patch that was, with nobody watching the monitor', async () => {
    const { host, bench, last, edit } = setUp();
    const song = demo.songs.find(({ id }) => id === 'third-ferry-home')!;
    // Without what stands under all its patches, its bell buoy has nothing below C3.
    edit({ ...song, standing: [] });
    const position = playingOrder(setlist, Object.fromEntries(demo.songs.map((each) => [each.id, each]))).find(
      ({ patch }) => patch.name === 'Bell buoy',
    )!.position;
    host.command({ type: 'watch', monitor: false, meters: true });
    host.command({ type: 'recall', position });
    for (const key of [36, 60]) bench({ device: 'Aster 73', kind: 'key', key, velocity: 90 });
    await jest.advanceTimersByTimeAsync(100);
    expect(last('strikes')!.strikes.map(({ silent }) => silent)).toEqual([
      { device: 'Aster 73', songId: song.id, patchId: 'third-ferry-home/bell-buoy' },
      null,
    ]);
  });

  it('steps by Clack’s pedals', async () => {
    const { bench, topics } = setUp();
    bench({ device: 'Clack 2', kind: 'pedal', pedal: 0, down: true });
    expect((await topics()).place.position).toBe(1);
  });

  it('sounds notes through the built-in layers once sound is on, each off where its on was', async () => {
    const { host, sound, bench, topics } = setUp();
    bench({ device: 'Aster 73', kind: 'key', key: 60, velocity: 90 });
    expect(sound.heard).toEqual([]);
    bench({ device: 'Aster 73', kind: 'key', key: 60, velocity: 0 });
    host.command({ type: 'startSound' });
    expect((await topics()).sound.sound).toBe('on');
    bench({ device: 'Aster 73', kind: 'key', key: 60, velocity: 90 });
    host.command({ type: 'recall', position: 8 });
    bench({ device: 'Aster 73', kind: 'key', key: 60, velocity: 0 });
    expect(sound.heard.filter(([, status]) => status === 0x90 || status === 0x80).map(([, status]) => status)).toEqual([
      0x90, 0x80,
    ]);
    expect(
      new Set(sound.heard.filter(([, status]) => (status & 0xe0) === 0x80).map(([destination]) => destination)).size,
    ).toBe(1);
  });

  it('switches Skerry with its bank, and Skerry takes its 180 ms', async () => {
    const { host, last } = setUp();
    host.command({ type: 'recall', position: 16 });
    await jest.advanceTimersByTimeAsync(60);
    expect(last('bench')!.bench.skerry.channels).toEqual([
      expect.objectContaining({ channel: 1, name: 'Grey Choir', switching: true }),
    ]);
    await jest.advanceTimersByTimeAsync(300);
    expect(last('bench')!.bench.skerry.channels[0].switching).toBe(false);
  });

  it('sends Skerry its address anew when it has been pulled out and is back', async () => {
    const { host, bench, last } = setUp();
    host.command({ type: 'recall', position: 16 });
    bench({ device: 'Skerry', kind: 'plug', plugged: false });
    await jest.advanceTimersByTimeAsync(300);
    expect(last('ports')!.ports.find((port) => port.name === 'Skerry')!.alive).toBe(false);
    const before = last('bench')!.bench.skerry.heard.length;
    bench({ device: 'Skerry', kind: 'plug', plugged: true });
    await jest.advanceTimersByTimeAsync(300);
    const { heard } = last('bench')!.bench.skerry;
    expect(heard.slice(0, heard.length - before).reverse()).toEqual([
      'ch 1 · bank select MSB 0',
      'ch 1 · bank select LSB 0',
      'ch 1 · program 18',
    ]);
  });

  it('ends the keys of a keyboard that is pulled out with a chord down', async () => {
    const { host, bench, topics } = setUp();
    host.command({ type: 'startSound' });
    for (const key of [60, 64, 67]) bench({ device: 'Aster 73', kind: 'key', key, velocity: 90 });
    expect((await topics()).hands.keys).toHaveLength(3);
    bench({ device: 'Aster 73', kind: 'plug', plugged: false });
    expect((await topics()).hands.keys).toEqual([]);
  });

  it('stands at the same patch with the same references after a reload', async () => {
    const before = setUp();
    before.bench({ device: 'Updown 2', kind: 'switch', direction: 1, down: true });
    before.bench({ device: 'Updown 2', kind: 'switch', direction: 1, down: false });
    before.host.command({ type: 'recall', position: 9 });
    const after = setUp((await before.topics()).restart.last);
    expect((await after.topics()).place).toMatchObject({
      songId: 'third-ferry-home',
      blendId: 'third-ferry-home/gangway/quiet',
    });
    expect((await before.topics()).restart.last!.counters).toEqual([{ device: 'Updown 2', channel: 0, program: 1 }]);
    // Its own counter starts anew at 0 and goes to 1: no step, as 1 was the last reference; the next press is one.
    after.bench({ device: 'Updown 2', kind: 'switch', direction: 1, down: true });
    after.bench({ device: 'Updown 2', kind: 'switch', direction: 1, down: false });
    await jest.advanceTimersByTimeAsync(200);
    after.bench({ device: 'Updown 2', kind: 'switch', direction: 1, down: true });
    expect((await after.topics()).place.patchId).toBe('third-ferry-home/open-water');
  });

  it('takes an edit without disturbing what sounds', async () => {
    const { host, bench, sound, topics, edit } = setUp();
    host.command({ type: 'startSound' });
    await topics();
    bench({ device: 'Aster 73', kind: 'key', key: 60, velocity: 90 });
    const song = structuredClone(demo.songs[0]);
    song.patches[0].parts = [];
    edit(song);
    expect(sound.heard.filter(([, status]) => status === 0x80)).toEqual([]);
    bench({ device: 'Aster 73', kind: 'key', key: 60, velocity: 0 });
    expect(sound.heard.filter(([, status]) => status === 0x80)).toHaveLength(1);
  });

  it('tells what hands played while a timeline ran when it has stopped, and nothing that was played beside it', async () => {
    const { bench, host, events } = setUp();
    const strike = (key: number): void => {
      bench({ device: 'Aster 73', kind: 'key', key, velocity: 90 });
      bench({ device: 'Aster 73', kind: 'key', key, velocity: 0 });
    };
    strike(50);
    host.command({ type: 'perform', action: 'play' });
    await jest.advanceTimersByTimeAsync(1000);
    strike(60);
    await jest.advanceTimersByTimeAsync(500);
    strike(64);
    expect(events.some(({ type }) => type === 'played')).toBe(false);
    host.command({ type: 'perform', action: 'stop' });
    strike(70);
    const played = events.flatMap((event) => (event.type === 'played' ? [event] : []));
    expect(played.map(({ songId, notes }) => ({ songId, keys: notes.map(({ key }) => key) }))).toEqual([
      { songId: 'biscuit-tin-regatta', keys: [60, 64] },
    ]);
    const [{ atTick: first }, { atTick: second }] = played[0].notes;
    expect(second - first).toBeGreaterThan(0);
    expect(first).toBeGreaterThan(960);
  });

  it('tells what another player calls only when there is something new, however the playhead moves', async () => {
    const { host, events, topics } = setUp();
    await topics();
    const told = (topic: keyof Topics): number =>
      events.filter((event) => event.type === 'topics' && topic in event.topics).length;
    const before = told('calls');
    host.command({ type: 'perform', action: 'play' });
    await jest.advanceTimersByTimeAsync(2000);
    expect(told('transport')).toBeGreaterThan(10);
    expect(told('calls')).toBe(before);
  });

  it('plays a song elsewhere by Pilot Cutter, which calls patches at their bars', async () => {
    const { bench, topics, edit } = setUp();
    const stomp = structuredClone(demo.songs[6]);
    stomp.cues[1].atTick = 3840;
    edit(stomp);
    bench({ device: 'Pilot Cutter', kind: 'song', entryId: 'tern-ledge/7' });
    bench({ device: 'Pilot Cutter', kind: 'play' });
    expect((await topics()).place.patchId).toBe('lamp-room-stomp/stomp');
    await jest.advanceTimersByTimeAsync((4 * 60_000) / 140);
    expect((await topics()).place.patchId).toBe('lamp-room-stomp/brass-rail');
  });

  it('sends records only while the monitor watches', async () => {
    const { host, bench, events } = setUp();
    bench({ device: 'Aster 73', kind: 'key', key: 60, velocity: 90 });
    await jest.advanceTimersByTimeAsync(300);
    expect(events.some((event) => event.type === 'records')).toBe(false);
    host.command({ type: 'watch', monitor: true, meters: false });
    bench({ device: 'Aster 73', kind: 'key', key: 62, velocity: 90 });
    await jest.advanceTimersByTimeAsync(300);
    const records = events.flatMap((event) => (event.type === 'records' ? event.records : []));
    // What its second port repeats is told too, and that it was not used.
    expect(records.map(({ record }) => record.type)).toEqual(['in', 'out', 'played', 'in', 'ignored']);
  });

  it('learns a row of roles: what is moved meanwhile is not played, what was played before still ends', async () => {
    const { host, bench, sound, events, topics } = setUp();
    host.command({ type: 'startSound' });
    await topics();
    bench({ device: 'Aster 73', kind: 'key', key: 60, velocity: 90 });
    host.command({ type: 'learn', roles: ['Next song', 'Echo'] });
    expect((await topics()).controls.learn).toMatchObject({ waitsFor: 'Next song', left: 2 });
    bench({ device: 'Aster 73', kind: 'key', key: 60, velocity: 0 });
    for (const down of [true, false]) {
      bench({ device: 'Clack 2', kind: 'pedal', pedal: 0, down });
      await jest.advanceTimersByTimeAsync(100);
    }
    await jest.advanceTimersByTimeAsync(1000);
    // It plays “Next patch” already.
    expect((await topics()).controls.learn).toMatchObject({ waitsFor: 'Next song', taken: { by: 'Next patch' } });
    bench({ device: 'Keg 4', kind: 'hit', pad: 1, zone: 'rim', velocity: 90 });
    await jest.advanceTimersByTimeAsync(1000);
    for (let value = 0; value < 120; value += 5) bench({ device: 'Cobble 25', kind: 'knob', knob: 2, value });
    await jest.advanceTimersByTimeAsync(1000);
    const learned = events.flatMap((event) => (event.type === 'learned' ? [[event.role, event.learned.source]] : []));
    expect(learned).toEqual([
      ['Next song', { kind: 'note', port: 'Keg 4', channel: 10, number: 40 }],
      ['Echo', { kind: 'controller', port: 'Cobble 25', channel: 1, number: 22, coding: 'absolute' }],
    ]);
    const after = await topics();
    expect(after.controls.learn).toBeNull();
    expect(after.place.position).toBe(0);
    expect(sound.heard.filter(([, status]) => status === 0x90 || status === 0x80)).toHaveLength(2);
  });

  it('never learns the second port of Aster 73', async () => {
    const { host, bench, events } = setUp();
    host.command({ type: 'learn', roles: ['Next song'] });
    for (const velocity of [80, 0]) bench({ device: 'Aster 73', kind: 'key', key: 28, velocity });
    await jest.advanceTimersByTimeAsync(1000);
    expect(events.find((event) => event.type === 'learned')).toMatchObject({
      learned: { source: { port: 'Keys', number: 28 } },
    });
  });

  it('moves the whole level by the reversed pedal, mutes reeds by a pad, keeps what sounds by a drum pad', async () => {
    const { host, bench, sound, topics } = setUp();
    host.command({ type: 'startSound' });
    await topics();
    bench({ device: 'Heel 1', kind: 'heel', stands: 0 });
    bench({ device: 'Heel 1', kind: 'heel', stands: 1 });
    expect(sound.told.filter((line) => line.startsWith('whole 0')).at(-1)).toBe('whole 0 0');
    bench({ device: 'Heel 1', kind: 'heel', stands: 0 });
    expect(sound.told.at(-1)).toBe('whole 0 -30');
    bench({ device: 'Aster 73', kind: 'key', key: 60, velocity: 90 });
    bench({ device: 'Keg 4', kind: 'hit', pad: 0, zone: 'head', velocity: 90 });
    bench({ device: 'Aster 73', kind: 'key', key: 60, velocity: 0 });
    expect(sound.heard.filter(([, status]) => status === 0x80)).toEqual([]);
    expect((await topics()).hands.holding).toBe(true);
    await jest.advanceTimersByTimeAsync(200);
    bench({ device: 'Keg 4', kind: 'hit', pad: 0, zone: 'head', velocity: 90 });
    expect(sound.heard.filter(([, status]) => status === 0x80)).toHaveLength(1);
  });

  it('steps an instrument’s preset, and tells the sound which', async () => {
    const { host, sound, topics, become } = setUp();
    const gear = structuredClone(demo.gearLists[0]);
    gear.roles.push({
      ...gear.roles[0],
      role: 'Other stop' as (typeof gear.roles)[0]['role'],
      source: { kind: 'computerKey', code: 'KeyO' },
    });
    become({ gear });
    host.command({ type: 'startSound' });
    await topics();
    host.command({ type: 'recall', position: 17 });
    host.command({ type: 'computerKey', code: 'KeyO', down: true });
    host.command({ type: 'computerKey', code: 'KeyO', down: false });
    expect(sound.told).toContain('drawbar-house drawbar-house/full-house');
  });

  it('changes the gear list without ending a note, and hears the new one at once', async () => {
    const { host, bench, sound, topics, become } = setUp();
    host.command({ type: 'startSound' });
    await topics();
    bench({ device: 'Aster 73', kind: 'key', key: 60, velocity: 90 });
    become({ gear: demo.gearLists[1] });
    expect(sound.heard.filter(([, status]) => status === 0x80)).toEqual([]);
    bench({ device: 'Cobble 25', kind: 'key', key: 64, velocity: 90 });
    expect(sound.heard.filter(([, status]) => status === 0x90)).toHaveLength(2);
    bench({ device: 'Aster 73', kind: 'key', key: 60, velocity: 0 });
    expect(sound.heard.filter(([, status]) => status === 0x80)).toHaveLength(1);
  });

  it('writes a sheet into Treadle 6, whose pedals then send it with its bank', async () => {
    const { host, bench, events, topics } = setUp();
    host.command({ type: 'watch', monitor: true, meters: false });
    bench({
      device: 'Treadle 6',
      kind: 'write',
      buttons: [{ page: 1, button: 2, channel: 3, msb: 0, lsb: 0, program: 7 }],
    });
    bench({ device: 'Treadle 6', kind: 'pedal', pedal: 0 });
    bench({ device: 'Treadle 6', kind: 'pedal', pedal: 1 });
    await jest.advanceTimersByTimeAsync(300);
    const came = events
      .flatMap((event) => (event.type === 'records' ? event.records : []))
      .flatMap(({ record }) => (record.type === 'in' ? [[record.status, record.data1, record.data2]] : []));
    expect(came).toEqual([
      [0xb2, 0, 0],
      [0xb2, 32, 0],
      [0xc2, 7, 0],
    ]);
    expect((await topics()).place.patchId).toBe('third-ferry-home/quay');
  });

  it('plays a test tone through an output, and sends everything to all gear again when it is asked', async () => {
    const { host, sound, last, topics } = setUp();
    host.command({ type: 'startSound' });
    await topics();
    host.command({ type: 'testTone', output: 'Main' });
    expect(sound.told.at(-1)).toBe('tone Main');
    host.command({ type: 'recall', position: 16 });
    await jest.advanceTimersByTimeAsync(400);
    const before = last('bench')!.bench.skerry.heard.length;
    host.command({ type: 'perform', action: 'resend' });
    await jest.advanceTimersByTimeAsync(300);
    expect(last('bench')!.bench.skerry.heard.length).toBeGreaterThan(before);
  });

  it('a flood of system exclusive and mode messages changes nothing that sounds, and is counted', async () => {
    const { host, bench, sound, topics } = setUp();
    host.command({ type: 'startSound' });
    await topics();
    bench({ device: 'Aster 73', kind: 'key', key: 60, velocity: 90 });
    for (let i = 0; i < 5000; i++) {
      host.onSysex('Treadle 6', 100_000, Date.now());
      host.onMessage('Treadle 6', 0xb0, i % 2 === 0 ? 121 : 123, 0, Date.now());
    }
    expect(sound.heard.filter(([, status]) => status === 0x80)).toEqual([]);
    expect((await topics()).hands.keys).toHaveLength(1);
  });

  it('that browsers hold back until a click takes no notes, which would all sound at once later, and tries again', async () => {
    jest.useFakeTimers();
    const { host, sound, topics, bench } = setUp();
    sound.isRunning = false;
    host.command({ type: 'startSound' });
    await jest.advanceTimersByTimeAsync(100);
    expect((await topics()).sound.sound).toBe('waits');
    bench({ device: 'Aster 73', kind: 'key', key: 60, velocity: 90 });
    expect(sound.heard.filter(([, status]) => (status & 0xf0) === 0x90)).toEqual([]);
    // A click: asked for until the browser has understood.
    host.command({ type: 'startSound' });
    await jest.advanceTimersByTimeAsync(150);
    expect(sound.told.filter((word) => word === 'resume').length).toBeGreaterThan(1);
    sound.isRunning = true;
    sound.onRunning(true);
    expect((await topics()).sound.sound).toBe('on');
    bench({ device: 'Aster 73', kind: 'key', key: 64, velocity: 90 });
    expect(sound.heard.filter(([, status]) => (status & 0xf0) === 0x90).length).toBeGreaterThan(0);
  });

  it('of a device whose clock is ahead, or says nothing, counts as come now: what follows is not put behind it', async () => {
    jest.useFakeTimers();
    const { host, topics } = setUp();
    for (const stampMs of [Date.now() + 60_000, NaN]) {
      host.onMessage('Treadle 6', 0xc0, 7, 0, stampMs);
      expect((await topics()).place.patchId).toBe('third-ferry-home/quay');
      host.command({ type: 'recall', position: 0 });
      expect((await topics()).place.patchId).not.toBe('third-ferry-home/quay');
    }
    // A chord memory, an arpeggio or a fade that is due soon is due by the host's clock, not by the device's.
    host.onMessage('Aster 73', 0x90, 60, 90, Date.now() + 60_000);
    host.onMessage('Aster 73', 0x80, 60, 0, Date.now());
    expect((await topics()).hands.keys).toEqual([]);
  });

  it('that was started again stands where hands had moved it: levels, the whole output, transposition, sounds', async () => {
    jest.useFakeTimers();
    const before = setUp();
    before.host.command({ type: 'recall', position: 8 });
    before.bench({ device: 'Heel 1', kind: 'heel', stands: 0.4 });
    for (const value of [60, 80, 20]) {
      before.bench({ device: 'Cobble 25', kind: 'knob', knob: 0, value });
      before.bench({ device: 'Cobble 25', kind: 'knob', knob: 1, value });
    }
    before.host.command({ type: 'perform', action: 'transposeUp' });
    const told = await before.topics();
    // Over the page's storage, as a crash leaves it.
    const after = setUp(JSON.parse(JSON.stringify(told.restart.last)) as LastPlace);
    after.host.command({ type: 'startSound' });
    const now = await after.topics();
    expect(now.place.patchId).toBe(told.place.patchId);
    expect(now.hands.transpose).toBe(1);
    expect(now.balance).toEqual(told.balance);
    expect(after.sound.told.filter((word) => word.startsWith('whole 0')).at(-1)).not.toBe('whole 0 0');
    // Without it all is as stored.
    const fresh = setUp({ ...told.restart.last!, hands: null });
    expect((await fresh.topics()).balance).not.toEqual(told.balance);
  });

  it('tells of a wait that was over before anything could be told, once, and then that it is over', async () => {
    const { host, bench, events, topics } = setUp();
    await topics();
    const songs = Object.fromEntries(demo.songs.map((song) => [song.id, song]));
    const ash = playingOrder(setlist, songs).find(({ patch }) => patch.id === 'moth-and-lamp/ash')!;
    events.length = 0;
    host.command({ type: 'recall', position: ash.position });
    // The machine is busy: Skerry has long switched when the next thing happens.
    jest.setSystemTime(Date.now() + 500);
    bench({ device: 'Aster 73', kind: 'key', key: 60, velocity: 90 });
    expect((await topics()).sound.loading).toEqual([]);
    const told = events.flatMap((event) =>
      event.type === 'topics' && event.topics.sound ? [event.topics.sound.loading] : [],
    );
    expect(told.some((loading) => loading.length > 0)).toBe(true);
  });
});
