import { wrap, type Remote } from 'comlink';
import type { MidiFiles } from './midiFiles';
import Worker from './midiFiles.worker?worker';

let started: Remote<MidiFiles> | null = null;

/** The worker that reads and writes MIDI files, started when it is first asked for. */
export const midiFilesWorker = (): Remote<MidiFiles> => (started ??= wrap<MidiFiles>(new Worker()));
