import { BYTES_IN_MB, LOAD_MS_PER_MB, PCM_BYTES_PER_SECOND, type Instrument, type LayerSound } from '../show';
import { LOT_BYTES, PRESET_LOTS } from './presetLots';

/** What is loaded and let go of together, however many presets share it. */
export interface SoundPart {
  key: string;
  /** Decoded, in memory. */
  bytes: number;
  loadMs: number;
  /** Whether this machine has loaded it; else it is reckoned from its size. */
  isMeasured: boolean;
}

const estimated = (key: string, bytes: number): SoundPart => ({
  key,
  bytes,
  loadMs: (bytes / BYTES_IN_MB) * LOAD_MS_PER_MB,
  isMeasured: false,
});

/**
 * What has to be loaded for a sound, by what its files say and times as they are usual: nothing for what is made as it is
 * played, stands elsewhere, or is not there.
 */
export function estimatedParts(
  { instrumentId, presetId }: Pick<LayerSound, 'instrumentId' | 'presetId'>,
  stored: (id: string) => Instrument | undefined,
): readonly SoundPart[] {
  const instrument = stored(instrumentId);
  switch (instrument?.kind) {
    case undefined:
      return shippedParts(presetId);
    case 'own':
      return shippedParts(instrument.presets.find(({ id }) => id === presetId)?.from ?? '');
    case 'bank': {
      const preset = instrument.presets.find(({ id }) => id === presetId);
      // How much of a bank one of its presets takes shows when it is loaded: as much as any other, until then.
      return preset
        ? [
            estimated(
              `${instrument.file} ${preset.bank}/${preset.program}`,
              instrument.bytes / instrument.presets.length,
            ),
          ]
        : [];
    }
    case 'recordings': {
      const recording = instrument.presets.find(({ id }) => id === presetId);
      return recording ? [estimated(recording.file, recording.lengthSeconds * PCM_BYTES_PER_SECOND)] : [];
    }
    case 'outboard':
      return [];
  }
}

const shippedParts = (presetId: string): SoundPart[] =>
  (PRESET_LOTS[presetId] ?? []).map((lot) => estimated(`shipped ${lot}`, LOT_BYTES[lot]));
