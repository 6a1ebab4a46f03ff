export { MidiFileOut } from './MidiFileOut';
export { isMidiFile, useMidiFileIn, type MidiFileIn } from './MidiFileIn';
