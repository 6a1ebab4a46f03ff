export { actionRange, type ActionRange } from './actionRange';
export { BUILT_INS, builtIn, type BuiltIn } from './builtIns';
export {
  Action,
  Binding,
  Coding,
  ControlSource,
  DeviceControl,
  LayerValue,
  PickUp,
  PlainAction,
  RoleSource,
  WholeValue,
} from './control';
export {
  EFFECT_KINDS,
  Effect,
  EffectChange,
  NOTE_VALUES,
  NoteValue,
  SharedEffect,
  newEffect,
  quartersOf,
} from './effect';
export {
  EFFECT_PARAMETERS,
  ON,
  effectChanges,
  effectParameter,
  effectValue,
  withEffectChanges,
  withEffectValue,
  type EffectParameter,
} from './effectParameters';
export {
  ButtonRow,
  ChannelName,
  GearList,
  GearPort,
  InputPort,
  OutputPort,
  ProgramListening,
  SoundDevice,
  SoundOutput,
} from './gearList';
export {
  BlendId,
  CueId,
  EditId,
  EffectId,
  EntryId,
  GearListId,
  InstrumentId,
  LayerId,
  LibraryItemId,
  PatchId,
  PresetId,
  SetlistId,
  ShelfId,
  SongId,
  mintId,
} from './ids';
export {
  BankInstrument,
  BankPreset,
  CountedSteps,
  EntryMessage,
  FileHash,
  Instrument,
  NameListEntry,
  NoteNames,
  OutboardInstrument,
  OwnInstrument,
  OwnPreset,
  Recording,
  RecordingsInstrument,
  SoundShape,
  StepMessage,
  filesOf,
} from './instrument';
export { knownInstrument, soundName, type KnownInstrument } from './known';
export { LibraryItem, Shelf, SoundRef } from './library';
export {
  Arpeggio,
  BlendValue,
  Carry,
  Layer,
  LayerSound,
  LayerSource,
  NotReady,
  Part,
  SOUND_CONTROLLER_REST,
  Send,
  SoundParameter,
  VelocityResponse,
  Zone,
} from './layer';
export { OutMessage } from './outMessage';
export { withRenamedPort } from './portNames';
export {
  applied,
  brokenBy,
  changesOf,
  conflicting,
  folded,
  invalid,
  inverted,
  refusalOf,
  type Change,
  type Draft,
  type Edit,
  type Refusal,
} from './changes';
export {
  KINDS,
  KIND_NAMES,
  bodiesOf,
  bodyOf,
  noBodies,
  referencesOf,
  withRenamedIds,
  type Bodies,
  type Body,
  type Kind,
  type Kinds,
} from './kinds';
export { differences, wordOf, type DifferenceNames } from './differences';
export { sameBody } from './sameBody';
export { faultsAround, pointingAt, showFaults, songFaults, type Fault, type FaultCode } from './references';
export { Numbering, ProgramLine, RecallTarget, Setlist, SetlistEntry } from './setlist';
export { SHOW_FORMAT, SHOW_VERSION, Show, emptyShow } from './show';
export { Blend, Cue, Meter, Patch, Song } from './song';
export { TAPES, Tape } from './values';
export {
  changeBlendValue,
  changeCue,
  changeLayer,
  withSound,
  changePart,
  changePatch,
  gearFromPorts,
  gearPortFrom,
  moved,
  newSetlist,
  newSong,
  withBlend,
  withCue,
  withDuplicatedPatch,
  withEntry,
  withLayer,
  withMovedEntry,
  withMovedPatch,
  withPart,
  withoutBlend,
  withoutCue,
  withoutEntry,
  withoutLayer,
  withoutPart,
  withoutPatch,
} from './edits';
export { finishingTimes, playingOrder, type Place } from './playingOrder';
export {
  patchItem,
  patchWithLayers,
  songFromItem,
  songItem,
  startedFrom,
  withPatchFrom,
  type Mint,
} from './libraryEdits';
export { withBlendEffects, withCapturedBlend, withLayerEffects } from './sheetBlends';
export {
  withDuplicatedLayer,
  withJoinedLayers,
  withMovedLayer,
  withRunOn,
  withSplitRun,
  withStanding,
  withStandingInSetlist,
} from './sheetRows';
export {
  foldsOnto,
  neighboursOf,
  withCrossover,
  withFolds,
  withSplitAt,
  type CrossedBy,
  type Fold,
} from './sheetZones';
export { PLAYED_KINDS, newsBetween, type Audition, type PlayedBodies, type PlayedKind, type ShowNews } from './news';
export { fadeAt, velocityTable } from './velocityTable';
export { controlKey } from './controlKey';
