import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { checkBank, checkBankHead, withPadding } from '../src/formats';
import { SMALL_BANK, writeBank } from './soundfont';

const refusal = (bytes: Uint8Array): string => {
  const read = checkBank(bytes);
  return read.ok ? 'taken' : read.error.code;
};
/** Place of a chunk’s body by its id. */
const find = (bytes: Uint8Array, id: string, from = 0): number => Buffer.from(bytes).indexOf(id, from, 'latin1') + 8;
const changed = (at: number, ...values: number[]): Uint8Array => {
  const bytes = writeBank();
  bytes.set(values, at);
  return bytes;
};

describe('a SoundFont 2 bank', () => {
  it('is listed by bank and program under its own names, drums last', () => {
    const read = checkBank(writeBank());
    expect(read).toMatchObject({
      ok: true,
      value: {
        name: 'Lantern Row',
        samples: 2,
        warnings: [],
        presets: [
          { name: 'Lamp', bank: 0, program: 0 },
          { name: 'Lamp, low and high', bank: 0, program: 5 },
          { name: 'Shutters', bank: 128, program: 0 },
        ],
      },
    });
  });

  it('whose parts of odd length are not padded is read as one whose parts are', () => {
    // A byte more in its samples, and none behind it to make that even.
    const padded = Buffer.from(writeBank());
    const smpl = find(padded, 'smpl') - 8;
    const end = smpl + 8 + padded.readUInt32LE(smpl + 4);
    const odd = Buffer.concat([padded.subarray(0, end), Buffer.from([0x4c]), padded.subarray(end)]);
    for (const at of [4, find(padded, 'LIST', smpl - 12) - 4, smpl + 4])
      odd.writeUInt32LE(odd.readUInt32LE(at) + 1, at);
    expect(checkBank(odd)).toEqual(checkBank(padded));
    const made = withPadding(odd);
    expect(made.length).toBe(odd.length + 1);
    expect(withPadding(made)).toBe(made);
    expect(withPadding(padded)).toBe(padded);
    // And what lies about its lengths is refused as before.
    expect(refusal(odd.subarray(0, odd.length - 1))).toBe('cut-short');
  });

  it('whose samples say that they reach beyond its end is refused', () => {
    const at = find(writeBank(), 'smpl') - 4;
    expect(refusal(changed(at, 0, 0, 0, 0x10))).toBe('cut-short');
  });

  it('with compressed samples is read too, and refused when it is cut short', () => {
    const bytes = new Uint8Array(readFileSync(join(__dirname, 'fixtures/lantern-row.sf3')));
    expect(checkBank(bytes)).toMatchObject({
      ok: true,
      value: {
        name: 'Lantern Row',
        samples: 2,
        presets: [{ name: 'Lamp' }, { name: 'Lamp, low and high' }, { name: 'Shutters' }],
      },
    });
    for (let length = 0; length < bytes.length; length += 61)
      expect(refusal(bytes.subarray(0, length))).not.toBe('taken');
  });

  it('that is cut short is refused at every length', () => {
    const whole = writeBank();
    for (let length = 0; length < whole.length; length += length < 64 || length > whole.length - 400 ? 1 : 97)
      expect(refusal(whole.subarray(0, length))).not.toBe('taken');
  });

  it('that says wrong sizes, leads to what is not there or ends in the middle of an entry is refused, and which is told', () => {
    const bytes = writeBank();
    expect(refusal(changed(0, 0x52, 0x49, 0x46, 0x58))).toBe('not-a-bank');
    // The preset table says that it is a byte longer, then much longer.
    const phdr = find(bytes, 'phdr');
    expect(refusal(changed(phdr - 4, bytes[phdr - 4] + 1))).not.toBe('taken');
    expect(refusal(changed(phdr - 2, 0xff))).toBe('cut-short');
    // The first preset's zone, its instrument, and the first instrument's sample.
    expect(refusal(changed(phdr + 24, 0xff, 0x7f))).toBe('broken');
    expect(refusal(changed(find(bytes, 'pgen') + 2, 99))).toBe('broken');
    expect(refusal(changed(find(bytes, 'igen') + 10, 99))).toBe('broken');
    expect(refusal(writeBank({ presets: [] }))).toBe('empty');
    const error = checkBank(changed(find(bytes, 'pgen') + 2, 99));
    expect(!error.ok && error.error.message).toContain('instrument that is not there');
  });

  it('whose samples or loops lie is taken, with what is wrong in words', () => {
    const [tone, shutter] = SMALL_BANK.samples;
    const warnings = (samples: typeof SMALL_BANK.samples): string[] => {
      const read = checkBank(writeBank({ samples }));
      return read.ok ? read.value.warnings : ['refused'];
    };
    expect(warnings([{ ...tone, loop: [1000, 900_000] }, shutter])).toEqual([
      '“Lamp tone” loops outside of itself; it plays without a loop.',
    ]);
    expect(warnings([{ ...tone, end: 9_000_000 }, shutter])[0]).toContain('ends outside of the file');
    expect(warnings([{ ...tone, end: 0 }, shutter])[0]).toContain('silent');
    expect(warnings([tone, { ...shutter, rate: 0 }])[0]).toContain('no sample rate');
  });

  it('with any byte changed never throws, and what is taken has presets that can be called', () => {
    const whole = writeBank();
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: whole.length - 1 }), fc.integer({ min: 0, max: 255 })), {
          minLength: 1,
          maxLength: 6,
        }),
        (changes) => {
          const bytes = whole.slice();
          for (const [at, value] of changes) bytes[at] = value;
          const read = checkBank(bytes);
          if (read.ok)
            for (const { program, name } of read.value.presets)
              expect(program >= 0 && program <= 127 && name !== '').toBe(true);
        },
      ),
      { seed: 11, numRuns: 3000 },
    );
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 300 }), (bytes) => void checkBank(bytes)),
      { seed: 12, numRuns: 500 },
    );
  });

  it('is known by its first twelve bytes', () => {
    const bytes = writeBank();
    expect(checkBankHead(bytes.subarray(0, 12), bytes.length)).toBeNull();
    expect(checkBankHead(bytes.subarray(0, 12), bytes.length - 1)).toContain('cut short');
    expect(checkBankHead(new Uint8Array(3), 3)).toContain('not a SoundFont');
  });
});
