import { expose, transfer } from 'comlink';
import { BasicSoundBank, SoundBankLoader } from 'spessasynth_core';
import { checkBank, withPadding, type BankContents } from '@rackle/core/formats';
import { fetchKept } from '../../../files/keptFiles';
import type { BankAsked } from './bankAsked';
import { BankSamples } from './bankSample';
import { presetFromBank } from './presetFromBank';
import type { SampledPreset } from './sampledPreset';

const KEPT_BANKS = 3;

interface OpenBank {
  bank: BasicSoundBank;
  samples: BankSamples;
}

/** Banks that are open, the last used last. */
const open = new Map<string, Promise<OpenBank>>();

async function read(
  stream: ReadableStream<Uint8Array>,
  length: number,
  onProgress: (share: number) => void,
): Promise<Uint8Array<ArrayBuffer>> {
  const bytes = new Uint8Array(length);
  const reader = stream.getReader();
  let at = 0;
  let told = 0;
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    if (at + value.length > length) throw new Error('there is more of it than was said');
    bytes.set(value, at);
    at += value.length;
    if (at - told > length / 50) {
      told = at;
      onProgress(at / length);
    }
  }
  if (at < length) throw new Error('it ended too soon');
  return bytes;
}

async function fetchBank(address: string): Promise<OpenBank> {
  await BasicSoundBank.isSF3DecoderReady;
  // Whoever reads it takes it for granted that parts are padded.
  const bytes = withPadding(new Uint8Array(await fetchKept(address)));
  // It was checked when it came in; a file that has been changed since is not trusted either.
  const checked = checkBank(bytes);
  if (!checked.ok) throw new Error(checked.error.message);
  return { bank: SoundBankLoader.fromArrayBuffer(bytes.buffer), samples: new BankSamples() };
}

function opened(address: string): Promise<OpenBank> {
  const known = open.get(address) ?? fetchBank(address);
  open.delete(address);
  open.set(address, known);
  for (const oldest of open.keys()) if (open.size > KEPT_BANKS) open.delete(oldest);
  known.catch(() => open.delete(address));
  return known;
}

let last: Promise<unknown> = Promise.resolve();

/** One thing after another, each answered before the next one begins: what was asked for first is needed first. */
function inTurn<Result>(act: () => Promise<Result>): Promise<Result> {
  const done = last.then(act);
  last = done.then(answered, answered);
  return done;
}

const answered = (): Promise<void> => new Promise((resolve) => setTimeout(resolve));

const worker = {
  /** Reads a file and checks it. Its presets, or a sentence about what is wrong. */
  async check(
    file: Blob,
    onProgress: (share: number) => void,
  ): Promise<{ contents: BankContents } | { problem: string }> {
    try {
      const checked = checkBank(await read(file.stream(), file.size, onProgress));
      return checked.ok ? { contents: checked.value } : { problem: checked.error.message };
    } catch (cause) {
      return { problem: `The file cannot be read: ${cause instanceof Error ? cause.message : 'unknown trouble'}.` };
    }
  },

  /** Opens a stored bank ahead of need. @throws Error when it cannot be opened. */
  async open(address: string): Promise<void> {
    await opened(address);
  },

  /**
   * A preset of a stored bank, ready to be played; null when the bank does not have it. @throws Error when the bank
   * cannot be opened.
   */
  async preset(address: string, asked: BankAsked): Promise<SampledPreset | null> {
    const preset = await inTurn(async () => {
      const { bank, samples } = await opened(address);
      return presetFromBank(bank, asked, samples);
    });
    return preset === null
      ? null
      : transfer(
          preset,
          preset.samples.flatMap(({ channels }) => channels.map((channel) => channel.buffer)),
        );
  },
};

/** What the worker that reads banks can be asked. */
export type BankWorker = typeof worker;

expose(worker);
