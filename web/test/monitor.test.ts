import { describe, expect, it } from '@jest/globals';
import type { EngineRecord } from '@rackle/core';
import { recordInWords } from '../src/features/monitor/recordInWords';

const words = (record: EngineRecord, programsFrom: 0 | 1 = 1): string => {
  const { mark, where, what } = recordInWords(record, { programsFrom, middleC: 'C4' });
  return [mark, where, what].filter((part) => part !== '').join(' ');
};

describe('a record in a player’s words', () => {
  it('says what came in and what became of it', () => {
    expect(words({ type: 'in', atMs: 0, port: 'Keys', status: 0x91, data1: 60, data2: 90 })).toBe('→ Keys ch 2 · note on C4, velocity 90');
    expect(words({ type: 'out', atMs: 0, to: 'Causeway / Slow Bell / Toll / Far', status: 0x80, data1: 60, data2: 64 })).toBe('← Far ch 1 · note off C4');
    expect(words({ type: 'played', atMs: 0, layers: ['A', 'B'] })).toBe('→ layers A, B');
    expect(words({ type: 'ignored', atMs: 0, reason: 'no-such-program', port: 'Feet', status: 0xc0, data1: 34, data2: 0 })).toBe('ignored: no such program in this setlist');
  });

  it('counts programs as the player does', () => {
    const record: EngineRecord = { type: 'in', atMs: 0, port: 'Feet', status: 0xc0, data1: 33, data2: 0 };
    expect([words(record, 0), words(record, 1)]).toEqual(['→ Feet ch 1 · program 33', '→ Feet ch 1 · program 34']);
  });

  it('names recalls, warnings, roles, the timeline and panic', () => {
    const recall: EngineRecord = { type: 'recall', atMs: 0, cause: 'program', again: false, position: 1, entryId: 'e', songId: 's', patchId: 'p', blendId: 'b', song: 'Slow Bell', patch: 'Toll', blend: 'quiet' };
    expect(words(recall)).toBe('● Slow Bell Toll, quiet (program)');
    expect(words({ ...recall, again: true, blend: null, blendId: null })).toBe('● Slow Bell again Toll (program)');
    expect(words({ type: 'warning', atMs: 0, code: 'program-under-held-notes', about: 'Skerry, channel 1' })).toBe('! Skerry, channel 1 program under held notes');
    expect(words({ type: 'action', atMs: 0, role: 'Next', action: 'nextStep' })).toBe('Next → next step');
    expect(words({ type: 'timeline', atMs: 0, state: 'play', tick: 960 })).toBe('timeline play at tick 960');
    expect(words({ type: 'fade', atMs: 0, layer: 'Hold', fadeMs: 500 })).toBe('Hold fades over 500 ms');
    expect(words({ type: 'cursor', atMs: 0, position: 4 })).toBe('cursor position 5');
    expect(words({ type: 'panic', atMs: 0, strength: 2 })).toBe('! panic all gear reset');
  });
});
