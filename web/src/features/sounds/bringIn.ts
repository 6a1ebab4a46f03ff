import { proxy } from 'comlink';
import {
  BankInstrument,
  Recording,
  RecordingsInstrument,
  type Instrument,
  type InstrumentId,
  type PresetId,
} from '@rackle/core/show';
import { ownBankWorker } from '../../host/audio/sampled/bankWorker';
import { storeFile } from '../../show/api';
import { newId } from '../../state/ids';

const LARGEST_BYTES = 1_000_000_000;
/** Names of files that hold a bank. */
export const BANK_FILE = /\.sf[23]$/i;

/** What a file has become. */
export type BroughtIn = { ok: true; instrument: Instrument; notes: string[] } | { ok: false; problem: string };

const failed = (problem: string): BroughtIn => ({ ok: false, problem });
const nameOf = (file: File): string =>
  file.name
    .replace(/\.[^.]+$/, '')
    .replace(/[_]+/g, ' ')
    .trim()
    .slice(0, 120) || 'Without a name';

/** A sample bank: checked in a worker, stored by the server, and listed as an instrument. `signal` breaks it off. */
export async function bringInBank(
  file: File,
  onProgress: (share: number) => void,
  signal: AbortSignal,
): Promise<BroughtIn> {
  if (file.size > LARGEST_BYTES) return failed(`${file.name} is larger than 1 GB. Nothing was stored.`);
  const { remote, end } = ownBankWorker();
  const broken = new Promise<null>((resolve) => signal.addEventListener('abort', () => resolve(null)));
  try {
    const checked = await Promise.race([
      remote.check(
        file,
        proxy((share: number) => onProgress(share * 0.6)),
      ),
      broken,
    ]);
    if (checked === null) return failed('Broken off. Nothing was stored.');
    if ('problem' in checked) return failed(`${file.name}: ${checked.problem} Nothing was stored.`);
    onProgress(0.7);
    const stored = await Promise.race([storeFile(file, 'bank', signal), broken]);
    if (stored === null) return failed('Broken off. Nothing was stored.');
    if ('problem' in stored) return failed(`${file.name}: ${stored.problem}`);
    onProgress(1);
    const { contents } = checked;
    const id = newId<InstrumentId>('bank');
    const instrument = BankInstrument.parse({
      kind: 'bank',
      id,
      name: contents.name || nameOf(file),
      file: stored.hash,
      fileName: file.name.slice(0, 255),
      bytes: stored.bytes,
      presets: contents.presets
        .slice(0, 4096)
        .map((preset) => ({ id: `${id}/${preset.bank}/${preset.program}`, ...preset }))
        .filter((preset, i, all) => all.findIndex((other) => other.id === preset.id) === i),
    });
    return { ok: true, instrument, notes: contents.warnings };
  } finally {
    end();
  }
}

/**
 * A recording: whatever the browser decodes, stored and put into an instrument of recordings (a new one when there is
 * none).
 */
export async function bringInRecording(
  file: File,
  into: RecordingsInstrument | null,
  signal: AbortSignal,
): Promise<BroughtIn> {
  if (file.size > LARGEST_BYTES) return failed(`${file.name} is larger than 1 GB. Nothing was stored.`);
  let lengthSeconds: number;
  try {
    lengthSeconds = (await new OfflineAudioContext(1, 1, 44_100).decodeAudioData(await file.arrayBuffer())).duration;
  } catch {
    return failed(`${file.name} is no sound that this browser can read. WAV always works. Nothing was stored.`);
  }
  const stored = await storeFile(file, 'recording', signal);
  if ('problem' in stored) return failed(`${file.name}: ${stored.problem}`);
  const recording = Recording.parse({
    id: newId<PresetId>('recording'),
    name: nameOf(file),
    file: stored.hash,
    fileName: file.name.slice(0, 255),
    lengthSeconds: Math.min(3600, lengthSeconds),
  });
  const instrument =
    into ??
    RecordingsInstrument.parse({ kind: 'recordings', id: newId<InstrumentId>('recordings'), name: 'My recordings' });
  return { ok: true, instrument: { ...instrument, presets: [...instrument.presets, recording] }, notes: [] };
}
