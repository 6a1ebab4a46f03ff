/** @jest-environment ./test/environment.mjs */
import { afterEach, beforeEach, expect, it, jest } from '@jest/globals';
import { Hearing } from '../src/features/soundcheck/useHearing';
import type { HostCommand } from '../src/protocol';

beforeEach(() => void jest.useFakeTimers());
afterEach(() => void jest.useRealTimers());

const message = (atMs: number, status: number, data1: number, data2: number) => ({
  atMs,
  input: { type: 'message' as const, device: 'Aster 73', status, data1, data2 },
});
const CASE = [
  message(300, 0xe0, 127, 127),
  message(500, 0x90, 60, 80),
  { atMs: 1000, input: { type: 'recall' as const, position: 4 } },
  message(1800, 0xe0, 0, 64),
  message(2000, 0x80, 60, 64),
  message(2600, 0x90, 64, 80),
  message(3200, 0x80, 64, 64),
];
const words = (posted: HostCommand[]): string[] =>
  posted.map((command) =>
    command.type === 'bench'
      ? JSON.stringify(command.gesture)
      : `${command.type} ${(command as { position: number }).position}`,
  );
const key = (number: number, velocity: number): string =>
  JSON.stringify({ device: 'Aster 73', kind: 'key', key: number, velocity });
const wheel = (value: number): string => JSON.stringify({ device: 'Aster 73', kind: 'wheel', value });

it('a case is played as hands would, to its end', () => {
  const posted: HostCommand[] = [];
  new Hearing({ post: (command) => void posted.push(command) }, 3, CASE);
  jest.advanceTimersByTime(5000);
  expect(words(posted)).toEqual([
    'recall 3',
    wheel(8191 / 8192),
    key(60, 80),
    'recall 4',
    wheel(0),
    key(60, 0),
    key(64, 80),
    key(64, 0),
  ]);
});

it('one that is left lets go of what it holds at once, and recalls nothing more', () => {
  const posted: HostCommand[] = [];
  const hearing = new Hearing({ post: (command) => void posted.push(command) }, 3, CASE);
  jest.advanceTimersByTime(700);
  hearing.end();
  jest.advanceTimersByTime(5000);
  expect(words(posted)).toEqual(['recall 3', wheel(8191 / 8192), key(60, 80), wheel(0), key(60, 0), key(64, 0)]);
});
