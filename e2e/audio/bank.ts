// Runs in a page: presets of the bank that ships with the application, read on the page's own thread.
import { BasicSoundBank, SoundBankLoader } from 'spessasynth_core';
import { withPadding } from '../../core/src/formats';
import type { SampleSources } from '../../web/src/host/audio/presets';
import { BankSamples } from '../../web/src/host/audio/sampled/bankSample';
import { presetFromBank } from '../../web/src/host/audio/sampled/presetFromBank';

let open: Promise<{ bank: BasicSoundBank; samples: BankSamples }> | null = null;

async function opened(): Promise<{ bank: BasicSoundBank; samples: BankSamples }> {
  await BasicSoundBank.isSF3DecoderReady;
  const bytes = withPadding(new Uint8Array(await (await fetch('/bank')).arrayBuffer()));
  return { bank: SoundBankLoader.fromArrayBuffer(bytes.buffer), samples: new BankSamples() };
}

/** Whatever presets ask for comes from the shipped bank. */
export const pageSources = (): SampleSources => ({
  async bankPreset(_hash, asked) {
    const { bank, samples } = await (open ??= opened());
    return presetFromBank(bank, asked, samples);
  },
  file: () => Promise.reject(new Error('there are no recordings here')),
  pause: () => Promise.resolve(),
});
