import { OF_EVERY_KIND, builtIn } from './model/builtIns';
import type { PresetId } from './model/ids';
import type { Instrument } from './model/instrument';
import type { LayerSound } from './model/layer';

/** What pages, compiler and checks need to know of any instrument, wherever it is from. */
export interface KnownInstrument {
  name: string;
  kind: 'built-in' | Instrument['kind'];
  presets: readonly { id: PresetId; name: string }[];
  memoryMb: number;
  loadMs: number;
}

export const BYTES_IN_MB = 1_000_000;
/** Reading and unpacking a bank or a recording, on a machine like ours. */
export const LOAD_MS_PER_MB = 12;
/** Of a recording, both sides, as it is in memory. */
export const PCM_BYTES_PER_SECOND = 44_100 * 2 * 4;

/** The instrument of an id, built-in or stored; null when there is none. */
export function knownInstrument(id: string, stored: (id: string) => Instrument | undefined): KnownInstrument | null {
  const builtIns = builtIn(id);
  if (builtIns)
    return {
      name: builtIns.name,
      kind: 'built-in',
      presets: builtIns.presets,
      memoryMb: builtIns.memoryMb,
      loadMs: builtIns.loadMs,
    };
  const instrument = stored(id);
  if (!instrument) return null;
  const { name, kind } = instrument;
  switch (kind) {
    case 'outboard':
      return { name, kind, presets: instrument.names, memoryMb: 0, loadMs: 0 };
    case 'own': {
      const base = builtIn(instrument.of);
      return { name, kind, presets: instrument.presets, memoryMb: base?.memoryMb ?? 0, loadMs: base?.loadMs ?? 0 };
    }
    case 'bank':
      return { name, kind, presets: instrument.presets, ...weight(instrument.bytes) };
    case 'recordings':
      return {
        name,
        kind,
        presets: instrument.presets,
        ...weight(
          instrument.presets.reduce((sum, recording) => sum + recording.lengthSeconds * PCM_BYTES_PER_SECOND, 0),
        ),
      };
  }
}

const weight = (bytes: number): { memoryMb: number; loadMs: number } => ({
  memoryMb: Math.max(1, Math.round(bytes / BYTES_IN_MB)),
  loadMs: Math.round((bytes / BYTES_IN_MB) * LOAD_MS_PER_MB),
});

const capital = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1);

/** What kind of thing a sound is, for a layer's name: “Electric piano”, “Bells”. Never empty. */
export function soundKindName(
  { instrumentId, presetId }: Pick<LayerSound, 'instrumentId' | 'presetId'>,
  stored: (id: string) => Instrument | undefined,
): string {
  const instrument = stored(instrumentId);
  const builtIns = builtIn(instrument?.kind === 'own' ? instrument.of : instrumentId);
  if (builtIns && builtIns.id !== OF_EVERY_KIND) return capital(builtIns.about.split(/,| and /)[0]);
  switch (instrument?.kind) {
    case 'outboard':
      return instrument.names.find(({ id }) => id === presetId)?.folder || presetName(instrumentId, presetId, stored);
    case 'bank':
      return instrument.presets.find(({ id }) => id === presetId)?.bank === DRUM_BANK
        ? 'Drums'
        : presetName(instrumentId, presetId, stored);
    default:
      return presetName(instrumentId, presetId, stored);
  }
}

/** Where sample banks have their drums. */
const DRUM_BANK = 128;

const presetName = (instrumentId: string, presetId: string, stored: (id: string) => Instrument | undefined): string =>
  knownInstrument(instrumentId, stored)?.presets.find(({ id }) => id === presetId)?.name ?? 'Layer';

/** A sound in words: instrument and preset, or what is missing. */
export function soundName(
  sound: Pick<LayerSound, 'instrumentId' | 'presetId'>,
  stored: (id: string) => Instrument | undefined,
): { instrument: string; preset: string } {
  const known = knownInstrument(sound.instrumentId, stored);
  return {
    instrument: known?.name ?? 'no instrument',
    preset: known?.presets.find((preset) => preset.id === sound.presetId)?.name ?? 'no preset',
  };
}
