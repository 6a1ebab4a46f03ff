import type { SampleData } from './sampledPreset';

/** How many bytes are copied before others have their turn. */
const AT_ONCE_BYTES = 1_000_000;
const RATES = { least: 3000, most: 192_000 };

/** Numbers that are there for whoever plays them: each sample of a file once, whatever presets share it. */
export class SampleBuffers {
  private readonly buffers = new Map<string, { buffer: AudioBuffer; uses: number }>();

  /** @param pause lets others have their turn */
  constructor(private readonly pause: () => Promise<void>) {}

  /** Memory that they take, in bytes. */
  get bytes(): number {
    let sum = 0;
    for (const { buffer } of this.buffers.values()) sum += bytesOf(buffer);
    return sum;
  }

  /** What those of these keys take, each once. */
  bytesOf(keys: readonly string[]): number {
    return [...new Set(keys)].reduce((sum, key) => {
      const entry = this.buffers.get(key);
      return entry ? sum + bytesOf(entry.buffer) : sum;
    }, 0);
  }

  /** Those of a file that are here; nobody lets go of them before `end` is called. */
  hold(file: string): { ids: string[]; end: () => void } {
    const prefix = `${file} `;
    const keys = [...this.buffers.keys()].filter((key) => key.startsWith(prefix));
    for (const key of keys) this.buffers.get(key)!.uses++;
    return { ids: keys.map((key) => key.slice(prefix.length)), end: () => this.letGo(keys) };
  }

  /** Buffers of samples, in their order, to be let go of by their keys. Numbers that have come are taken over. */
  async take(
    file: string,
    samples: readonly SampleData[],
  ): Promise<{ buffers: AudioBuffer[]; keys: readonly string[] }> {
    const keys = samples.map(({ id }) => `${file} ${id}`);
    const buffers: AudioBuffer[] = [];
    let copied = 0;
    for (const [i, sample] of samples.entries()) {
      const known = this.buffers.get(keys[i]);
      const entry = known ?? { buffer: this.made(sample), uses: 0 };
      entry.uses++;
      this.buffers.set(keys[i], entry);
      buffers.push(entry.buffer);
      // The buffer holds the numbers now.
      sample.channels = [];
      if (known) continue;
      copied += bytesOf(entry.buffer);
      if (copied < AT_ONCE_BYTES) continue;
      copied = 0;
      await this.pause();
    }
    return { buffers, keys };
  }

  letGo(keys: readonly string[]): void {
    for (const key of keys) {
      const entry = this.buffers.get(key);
      if (entry && --entry.uses === 0) this.buffers.delete(key);
    }
  }

  private made({ channels, sampleRate }: SampleData): AudioBuffer {
    const frames = Math.max(1, ...channels.map(({ length }) => length));
    const buffer = new AudioBuffer({
      numberOfChannels: Math.max(1, channels.length),
      length: frames,
      sampleRate: Math.min(RATES.most, Math.max(RATES.least, sampleRate)),
    });
    channels.forEach((channel, i) => buffer.copyToChannel(channel, i));
    return buffer;
  }
}

/** What a buffer takes in memory. */
export const bytesOf = ({ length, numberOfChannels }: AudioBuffer): number =>
  length * numberOfChannels * Float32Array.BYTES_PER_ELEMENT;
