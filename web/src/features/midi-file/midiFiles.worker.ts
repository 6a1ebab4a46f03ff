import { expose } from 'comlink';
import { MidiFiles } from './midiFiles';

expose(new MidiFiles());
