// Runs in a page: banks as they are brought in, read as the worker reads them.
import { SoundBankLoader } from 'spessasynth_core';
import { asItIs } from '../../web/src/host/audio/sampled/bankAsked';
import { presetFromBank } from '../../web/src/host/audio/sampled/presetFromBank';
import type { SampledPreset } from '../../web/src/host/audio/sampled/sampledPreset';
import { Strip, type Buses } from '../../web/src/host/audio/strip';
import { RATE, render } from './buses';
import { dbOf, peakOf } from './measures';

const BPM = 120;

function sampledStrip(preset: SampledPreset, buses: Buses): Strip {
  const buffers = preset.samples.map(({ channels, sampleRate }) => {
    const buffer = buses.context.createBuffer(channels.length, channels[0].length, sampleRate);
    channels.forEach((channel, i) => buffer.copyToChannel(channel, i));
    return buffer;
  });
  return new Strip({ kind: 'sampled', preset, buffers, effects: [] }, buses, 'bank', BPM);
}

/**
 * A preset of a bank, read as the worker reads it: the pitch of a key an octave up, and what is left a second after its
 * release.
 */
export async function bank(
  bytes: number[],
): Promise<{ presets: string[]; hz: number; after: number; silence: number }> {
  const opened = SoundBankLoader.fromArrayBuffer(Uint8Array.from(bytes).buffer);
  const preset = presetFromBank(opened, asItIs({ bank: 0, program: 0 }))!;
  const samples = await render(2, (buses) => {
    const strip = sampledStrip(preset, buses);
    return [
      [0.05, () => strip.noteOn(0, 69, 110)],
      [1, () => strip.noteOff(0, 69)],
    ];
  });
  let crossings = 0;
  for (let i = Math.round(0.3 * RATE); i < 0.8 * RATE; i++) if (samples[i - 1] < 0 && samples[i] >= 0) crossings++;
  return {
    presets: opened.presets.map(({ name }) => name),
    hz: crossings / 0.5,
    after: peakOf(samples.subarray(RATE * 1.9)),
    silence: presetFromBank(opened, asItIs({ bank: 7, program: 7 })) === null ? 0 : 1,
  };
}

/**
 * What a bank's generators do to its steady tone, by name: the brightness of it (crossings of zero a second) early and
 * late, and its level over 0.1 s from 0.4 s and from 0.9 s.
 */
export async function generators(
  bytes: number[],
  programs: number,
): Promise<{ early: number; late: number; levels: number[]; released: number }[]> {
  const opened = SoundBankLoader.fromArrayBuffer(Uint8Array.from(bytes).buffer);
  return Promise.all(
    Array.from({ length: programs }, async (_, program) => {
      const preset = presetFromBank(opened, asItIs({ bank: 0, program }))!;
      const samples = await render(2, (buses) => {
        const strip = sampledStrip(preset, buses);
        return [
          [0.05, () => strip.noteOn(0, 69, 110)],
          [1.2, () => strip.noteOff(0, 69)],
        ];
      });
      const crossings = (fromS: number, toS: number): number => {
        let count = 0;
        for (let i = Math.round(fromS * RATE); i < toS * RATE; i++) if (samples[i - 1] < 0 && samples[i] >= 0) count++;
        return count / (toS - fromS);
      };
      const level = (fromS: number, lengthS: number): number =>
        dbOf(peakOf(samples.subarray(Math.round(fromS * RATE), Math.round((fromS + lengthS) * RATE))));
      return {
        early: crossings(0.1, 0.3),
        late: crossings(0.9, 1.1),
        levels: Array.from({ length: 16 }, (__, i) => level(0.4 + i * 0.05, 0.05)),
        released: level(1.4, 0.05) - level(1.1, 0.05),
      };
    }),
  );
}

/**
 * What is heard of presets of a bank, by program, keys 57 and 69 for half a second each: the highest sample, the pitch of
 * the latter in Hz. Null: there is no such preset.
 */
export async function heard(bytes: number[], programs: number[]): Promise<({ peak: number; hz: number } | null)[]> {
  const opened = SoundBankLoader.fromArrayBuffer(Uint8Array.from(bytes).buffer);
  return Promise.all(
    programs.map(async (program) => {
      const preset = presetFromBank(opened, asItIs({ bank: 0, program }));
      if (preset === null) return null;
      const samples = await render(1.2, (buses) => {
        const strip = sampledStrip(preset, buses);
        return [
          [0.05, () => strip.noteOn(0, 57, 110)],
          [0.5, () => strip.noteOff(0, 57)],
          [0.6, () => strip.noteOn(0, 69, 110)],
        ];
      });
      let crossings = 0;
      for (let i = Math.round(0.62 * RATE); i < 0.82 * RATE; i++)
        if (samples[i - 1] < 0 && samples[i] >= 0) crossings++;
      return { peak: peakOf(samples), hz: crossings / 0.2 };
    }),
  );
}
