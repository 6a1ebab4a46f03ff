import { describe, expect, it } from '@jest/globals';
import { doubled } from '../src/host/audio/sampled/doubled';

const RATE = 22_050;
const tone = (hz: number, rate: number, seconds: number): Float32Array =>
  Float32Array.from({ length: rate * seconds }, (_, i) => Math.sin((2 * Math.PI * hz * i) / rate));

describe('samples at twice their rate', () => {
  it.each([110, 3000, 8000])('are the same tone: %d Hz', (hz) => {
    const made = doubled(tone(hz, RATE, 0.1));
    const meant = tone(hz, RATE * 2, 0.1);
    let worst = 0;
    for (let i = 100; i < made.length - 100; i++) worst = Math.max(worst, Math.abs(made[i] - meant[i]));
    expect(20 * Math.log10(worst)).toBeLessThan(-55);
  });

  it('have what they had at every second place', () => {
    expect([...doubled(Float32Array.of(1, 2, 3))].filter((_, i) => i % 2 === 0)).toEqual([1, 2, 3]);
  });
});
