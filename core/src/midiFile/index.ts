export { proposedChoices, type GroupTarget, type ImportChoices } from './choices';
export { readMidiContents, type FileGroup, type MidiContents } from './contents';
export { cleanName } from './sections';
export { songFromMidi, type ImportAround, type ImportedSong } from './songFromMidi';
export { midiOfSetlist, midiOfSong, type MidiExport, type MidiWritten } from './midiOfSongs';
export { ownTracks, type OwnTrack } from './ownTracks';
