import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { readSmf, writeSmf, type WriteMessage } from '../src/formats';

const bytesOf = (...parts: (number[] | string)[]): Uint8Array =>
  Uint8Array.from(
    parts.flatMap((part) => (typeof part === 'string' ? Array.from(part, (letter) => letter.charCodeAt(0)) : part)),
  );
const header = (format: number, tracks: number, division: [number, number]): Uint8Array =>
  bytesOf('MThd', [0, 0, 0, 6, 0, format, 0, tracks, ...division]);
const track = (...events: number[]): Uint8Array =>
  bytesOf('MTrk', [0, 0, 0, events.length + 4], events, [0, 0xff, 0x2f, 0]);
const file = (...chunks: Uint8Array[]): Uint8Array => Uint8Array.from(chunks.flatMap((chunk) => Array.from(chunk)));

const messageArb = fc.record({
  gap: fc.integer({ min: 0, max: 5000 }),
  status: fc.constantFrom(0x80, 0x90, 0xa0, 0xb0, 0xc0, 0xd0, 0xe0),
  channel: fc.integer({ min: 0, max: 15 }),
  data1: fc.integer({ min: 0, max: 127 }),
  data2: fc.integer({ min: 1, max: 127 }),
});
const tracksArb = fc.array(fc.array(messageArb, { maxLength: 20 }), { minLength: 1, maxLength: 3 }).map((tracks) =>
  tracks.map((messages, t) => {
    let atTick = 0;
    return {
      name: `Spur ${t} ♩`,
      messages: messages.map(({ gap, status, channel, data1, data2 }): WriteMessage => ({
        kind: 'message',
        atTick: (atTick += gap),
        status: status | channel,
        data1,
        data2: status === 0xc0 || status === 0xd0 ? 0 : data2,
      })),
    };
  }),
);

describe('a Standard MIDI File', () => {
  it('that was written reads back the same', () => {
    fc.assert(
      fc.property(tracksArb, (tracks) => {
        const read = readSmf(writeSmf(tracks, 1000, 1_000_000));
        if (!read.ok) throw new Error(read.error.message);
        expect(
          read.value.tracks.slice(1).map(({ name, messages }) => ({
            name,
            messages: messages.map((message) => ({ ...message, atMs: undefined })),
          })),
        ).toEqual(
          tracks.map(({ name, messages }) => ({
            name,
            messages: messages.map((message) => ({ ...message, atMs: undefined })),
          })),
        );
        for (const { messages } of read.value.tracks)
          for (const message of messages) expect(message.atMs).toBeCloseTo(message.atTick, 9);
      }),
      { seed: 7, numRuns: 200 },
    );
  });

  it('that is cut off anywhere is refused, never read in part', () => {
    const whole = writeSmf(
      [
        {
          name: 'Keys',
          messages: [
            { kind: 'message', atTick: 0, status: 0x90, data1: 60, data2: 90 },
            { kind: 'message', atTick: 480, status: 0x80, data1: 60, data2: 64 },
          ],
        },
      ],
      480,
      500_000,
    );
    expect(readSmf(whole).ok).toBe(true);
    for (let length = 0; length < whole.length; length++) expect(readSmf(whole.slice(0, length)).ok).toBe(false);
  });

  it('with any byte damaged is read or refused, but never throws and never gives values that are no MIDI', () => {
    const whole = writeSmf(
      [
        {
          name: 'Keys',
          messages: Array.from({ length: 12 }, (_, i): WriteMessage => ({
            kind: 'message',
            atTick: i * 100,
            status: 0x90,
            data1: 40 + i,
            data2: 90,
          })),
        },
      ],
      480,
      500_000,
    );
    fc.assert(
      fc.property(fc.integer({ min: 0, max: whole.length - 1 }), fc.integer({ min: 0, max: 255 }), (at, value) => {
        const damaged = whole.slice();
        damaged[at] = value;
        const read = readSmf(damaged);
        if (!read.ok) return;
        for (const { messages } of read.value.tracks) {
          for (const message of messages)
            if (message.kind === 'message')
              expect([message.data1, message.data2].every((data) => data >= 0 && data <= 127)).toBe(true);
        }
      }),
      { seed: 8, numRuns: 2000 },
    );
  });

  it('takes its times from all tempo changes', () => {
    const tempo = track(0, 0xff, 0x51, 3, 0x07, 0xa1, 0x20, 0x60, 0xff, 0x51, 3, 0x0f, 0x42, 0x40);
    const notes = track(0, 0x90, 60, 90, 0x60, 0x80, 60, 0, 0x60, 0x90, 62, 90, 0, 0x80, 62, 0);
    const read = readSmf(file(header(1, 2, [0, 96]), tempo, notes));
    expect(read.ok && read.value.tracks[1].messages.map((message) => message.atMs)).toEqual([0, 500, 1500, 1500]);
  });

  it('with an SMPTE division has time in its ticks', () => {
    const read = readSmf(file(header(0, 1, [0x100 - 25, 40]), track(0x64, 0x90, 60, 90, 0, 0x80, 60, 0)));
    expect(read.ok && read.value.tracks[0].messages[0].atMs).toBe(100);
  });

  it('gives port names, running status, real-time bytes in F7 escapes and system exclusive', () => {
    const events = [
      0, 0xff, 0x09, 4, 75, 101, 121, 115, 0, 0xff, 0x03, 1, 65, 0, 0x90, 60, 90, 10, 62, 90, 0, 0xf7, 2, 0xfa, 0xf8, 0,
      0xf0, 3, 0x7d, 1, 0xf7,
    ];
    const read = readSmf(file(header(0, 1, [0, 96]), track(...events)));
    if (!read.ok) throw new Error(read.error.message);
    const [only] = read.value.tracks;
    expect(only).toMatchObject({ name: 'A', device: 'Keys' });
    expect(only.messages.map((message) => (message.kind === 'message' ? message.status : [...message.bytes]))).toEqual([
      0x90,
      0x90,
      0xfa,
      0xf8,
      [0x7d, 1],
    ]);
  });

  it('of another kind is refused in words', () => {
    const codes = [
      bytesOf('RIFF'),
      header(3, 1, [0, 96]),
      file(header(1, 1, [0, 0]), track()),
      file(header(0, 1, [0, 96]), track(0, 0x40)),
    ].map((bytes) => {
      const read = readSmf(bytes);
      return read.ok ? 'read' : read.error.code;
    });
    expect(codes).toEqual(['not-midi', 'unsupported-format', 'corrupt', 'corrupt']);
  });

  it('passes over chunks that it does not know', () => {
    const read = readSmf(
      file(header(0, 1, [0, 96]), bytesOf('XTRA', [0, 0, 0, 2, 1, 2]), track(0, 0x90, 60, 90, 0, 0x80, 60, 0)),
    );
    expect(read.ok && read.value.tracks).toHaveLength(1);
  });
});

describe('a file from outside', () => {
  const refused = (bytes: Uint8Array): string => {
    const read = readSmf(bytes);
    return read.ok ? 'read' : `${read.error.code}: ${read.error.message}`;
  };

  it('whose division has no ticks, or a rate that no film has, is refused', () => {
    expect(refused(file(header(0, 1, [0xe8, 0]), track()))).toBe('corrupt: the division is 0');
    expect(refused(file(header(0, 1, [0x81, 40]), track()))).toMatch(/^corrupt: there are no 127 frames/);
    expect(refused(file(header(0, 1, [0xe8, 40]), track()))).toBe('read');
  });

  it('with events that say they are longer than their track is refused, meta and system exclusive alike', () => {
    expect(refused(file(header(0, 1, [0, 96]), track(0, 0xff, 0x01, 0x7f, 65)))).toMatch(/longer than its track/);
    expect(refused(file(header(0, 1, [0, 96]), track(0, 0xf0, 0xff, 0xff, 0xff, 0x7f)))).toMatch(
      /longer than its track/,
    );
    expect(refused(file(header(0, 1, [0, 96]), track(0xff, 0xff, 0xff, 0xff, 0xff)))).toMatch(/^corrupt/);
    expect(refused(file(header(0, 1, [0, 96]), track(0, 64, 64)))).toMatch(/where an event should begin/);
  });

  it('is bounded in size, tracks, events, text and time, each said in a line', () => {
    const notes = Uint8Array.from({ length: 4 * 1_000_001 }, (_, i) => [0, 0x90, 60, 1][i % 4]);
    const chunk = (events: Uint8Array): Uint8Array => {
      const whole = new Uint8Array(events.length + 12);
      whole.set(bytesOf('MTrk'));
      new DataView(whole.buffer).setUint32(4, events.length + 4);
      whole.set(events, 8);
      whole.set([0, 0xff, 0x2f, 0], events.length + 8);
      return whole;
    };
    const joined = (...chunks: Uint8Array[]): Uint8Array => {
      const whole = new Uint8Array(chunks.reduce((sum, one) => sum + one.length, 0));
      let at = 0;
      for (const one of chunks) {
        whole.set(one, at);
        at += one.length;
      }
      return whole;
    };
    expect(refused(joined(header(0, 1, [0, 96]), chunk(notes)))).toMatch(/^too-large: track 1: .*1000000 events/);
    expect(refused(joined(header(0, 1, [0, 96]), new Uint8Array(17 * 1024 * 1024)))).toMatch(
      /^too-large: .*16 are read/,
    );
    const text = new Uint8Array(200_006);
    text.set([0, 0xff, 0x01, 0x8c, 0x9a, 0x40]);
    expect(refused(joined(header(0, 1, [0, 96]), chunk(text)))).toMatch(/200000 bytes of text/);
    expect(refused(joined(header(1, 0, [0, 96]).fill(0xff, 10, 12)))).toMatch(/^too-large: .*tracks/);
    const late = Array.from({ length: 200 }, () => [0xff, 0xff, 0xff, 0x7f, 0x90, 60, 1]).flat();
    expect(refused(file(header(0, 1, [0, 1]), bytesOf('MTrk', [0, 0, 5, 124], late, [0, 0xff, 0x2f, 0])))).toMatch(
      /^too-large: it lasts \d+ hours/,
    );
  });

  it('with as many tempo changes as notes is read in time that grows with them, not with their square', () => {
    const events = Array.from({ length: 20_000 }, () => [1, 0xff, 0x51, 3, 7, 161, 32, 0, 0x90, 60, 1]).flat();
    const length = events.length + 4;
    const bytes = bytesOf('MTrk', [length >>> 24, (length >> 16) & 255, (length >> 8) & 255, length & 255]);
    const read = readSmf(file(header(0, 1, [0, 96]), Uint8Array.from([...bytes, ...events, 0, 0xff, 0x2f, 0])));
    if (!read.ok) throw new Error(read.error.message);
    expect(read.value.tracks[0].messages).toHaveLength(20_000);
    expect(read.value.endMs).toBeCloseTo((20_000 * 500) / 96, 3);
  });
});
