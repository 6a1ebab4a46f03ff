export { BUILT_INS, builtIn, type BuiltIn } from './builtIns';
export { Action, Binding, Coding, ControlSource, DeviceControl, LayerValue, PickUp, PlainAction, RoleSource, WholeValue } from './control';
export { ButtonRow, ChannelName, GearList, GearPort, InputPort, OutputPort, ProgramListening, SoundDevice, SoundOutput } from './gearList';
export { BlendId, CueId, EntryId, GearListId, InstrumentId, LayerId, PatchId, PresetId, SetlistId, SongId, mintId } from './ids';
export { CountedSteps, Instrument, NameListEntry, OutboardInstrument, StepMessage } from './instrument';
export { BlendValue, Carry, Layer, LayerSound, LayerSource, NotReady, Part, VelocityResponse, Zone } from './layer';
export { OutMessage } from './outMessage';
export { showFaults, songFaults, type Fault, type FaultCode } from './references';
export { Numbering, ProgramLine, RecallTarget, Setlist, SetlistEntry } from './setlist';
export { SHOW_FORMAT, SHOW_VERSION, Show, emptyShow } from './show';
export { Blend, Cue, Meter, Patch, Song } from './song';
export { TAPES, Tape } from './values';
export {
  changeBlendValue, changeCue, changeLayer, changePart, changePatch, gearFromPorts, gearPortFrom, moved, newSetlist, newSong, withBlend, withCue, withDuplicatedPatch, withEntry, withLayer, withMovedEntry,
  withMovedPatch, withPart, withoutBlend, withoutCue, withoutEntry, withoutLayer, withoutPart, withoutPatch,
} from './edits';
export { finishingTimes, playingOrder, type Place } from './playingOrder';
