export { UNNAMED_PORT, proposedChoices, proposedTarget, type GroupTarget, type ImportChoices } from './choices';
export { readMidiContents, type FileGroup, type FileMessage, type MidiContents } from './contents';
export { songFromMidi, type ImportAround, type ImportedSong } from './songFromMidi';
export type { FileText } from './texts';
export { midiOfSetlist, midiOfSong, type MidiExport, type MidiWritten } from './midiOfSongs';
