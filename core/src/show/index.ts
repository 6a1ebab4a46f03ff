export { LEVEL, actionRange, type ActionRange } from './model/actionRange';
export { BUILT_INS, OF_EVERY_KIND, builtIn, type BuiltIn } from './model/builtIns';
export { GENERAL_MIDI_KITS, GENERAL_MIDI_PROGRAMS, SHIPPED_BANK } from './model/shippedBank';
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
} from './model/control';
export {
  EFFECT_KINDS,
  Effect,
  EffectChange,
  NOTE_VALUES,
  NoteValue,
  SharedEffect,
  newEffect,
  quartersOf,
} from './model/effect';
export {
  EFFECT_PARAMETERS,
  ON,
  effectChanges,
  effectParameter,
  effectValue,
  withEffectChanges,
  withEffectValue,
  type EffectParameter,
} from './model/effectParameters';
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
} from './model/gearList';
export {
  BlendId,
  BackingPartId,
  CueId,
  EditId,
  EffectId,
  EntryId,
  EverySetlistId,
  GearListId,
  InstrumentId,
  LayerId,
  LibraryItemId,
  PatchId,
  PresetId,
  SectionId,
  SetlistId,
  ShelfId,
  SongId,
  mintId,
} from './model/ids';
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
} from './model/instrument';
export {
  BYTES_IN_MB,
  LOAD_MS_PER_MB,
  PCM_BYTES_PER_SECOND,
  knownInstrument,
  soundKindName,
  soundName,
  type KnownInstrument,
} from './known';
export { LibraryItem, Shelf, SoundRef } from './model/library';
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
} from './model/layer';
export { OutMessage } from './model/outMessage';
export { withRenamedPort } from './edits/portNames';
export {
  applied,
  brokenBy,
  changesOf,
  draftOf,
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
export { broughtBack } from './broughtBack';
export {
  differences,
  differing,
  keyOfItem,
  wordOf,
  type Difference,
  type DifferenceNames,
  type Thing,
} from './differences';
export { sameBody } from './sameBody';
export {
  faultsAround,
  pointingAt,
  setlistFaults,
  showFaults,
  songFaults,
  type Fault,
  type FaultCode,
} from './references';
export { MIDDLE_Q, compressedDb, driveGains, filterQ, shelvesHz } from './model/effectSound';
export { effectCurve, type EffectCurve } from './effectCurve';
export { Meant } from './model/meant';
export { Numbering, ProgramLine, RecallTarget, Setlist, SetlistEntry } from './model/setlist';
export { EverySetlist } from './model/everySetlist';
export { canBeInEvery, everySetlistOf, madeEvery, madeOfOne, playedSetlist, withEveryBinding } from './everySetlist';
export { setsOf, type EveningSet, type SetSong } from './sets';
export { secondsOf, songIn, songTonight } from './songTonight';
export { SHOW_FORMAT, SHOW_VERSION, Show, emptyShow } from './model/show';
export { CUE_KINDS, ControllerRamp, Cue, MessageBytes, NoteTarget, type CueKind } from './model/cue';
export { Section } from './model/section';
export { Click, ClickTarget } from './model/click';
export { Name } from './model/values';
export { BackingPart, Lyric } from './model/backing';
export { backingEvents, eventsByTick, packedEvents, withBackingTicks, type BackingEvent } from './edits/backingEdits';
export { Blend, Patch, Song } from './model/song';
export {
  FASTEST_BPM,
  Meter,
  MeterEntry,
  SLOWEST_BPM,
  SongMap,
  TICKS_PER_QUARTER,
  TempoEntry,
  steadyMap,
  ticksPerBar,
  ticksPerBeat,
} from './model/songMap';
export { TAPES, Tape } from './model/values';
export { withAllBindings, withBindings } from './edits/bindingEdits';
export {
  gearFromPorts,
  gearPortFrom,
  withLearned,
  withPort,
  withSource,
  withoutLastSource,
  withoutPort,
  withoutSource,
} from './edits/gearEdits';
export {
  moved,
  copiedSetlist,
  emptySetlistLike,
  newSetlist,
  songEntry,
  withEntry,
  withMovedEntry,
  withoutEntry,
  withoutGearList,
  withoutSong,
} from './edits/setlistEdits';
export {
  changeBlendValue,
  changeLayer,
  withSound,
  changePart,
  changePatch,
  newSong,
  withBlend,
  withDuplicatedPatch,
  withLayer,
  withMovedPatch,
  withPart,
  withoutBlend,
  withoutLayer,
  withoutPart,
  withoutPatch,
} from './edits/songEdits';
export { changeCue, copiedCues, withCue, withCues, withMovedCues, withoutCue, withoutCues } from './edits/cueEdits';
export {
  changeSection,
  madeIndependent,
  madeRepeat,
  sectionAt,
  withSection,
  withSectionCues,
  withSections,
  withoutSection,
} from './edits/sectionEdits';
export { curfewMinutes, songsToDrop } from './evening';
export { finishingTimes, playingOrder, type Place } from './playingOrder';
export {
  patchItem,
  patchWithLayers,
  songFromItem,
  songItem,
  startedFrom,
  withPatchFrom,
  type Mint,
} from './edits/libraryEdits';
export { withMeant, withoutMeant, type FoundCause } from './edits/meantEdits';
export { mended, type MendStep } from './edits/mends';
export { mixOf, withBlendEffects, withCapturedBlend, withLayerEffects, type Mix } from './edits/sheetBlends';
export {
  withDuplicatedLayer,
  withJoinedLayers,
  withMovedLayer,
  withRunOn,
  withOwnLayer,
  patchesWith,
  withSplitRun,
  withStanding,
  withStandingInSetlist,
} from './edits/sheetRows';
export {
  foldsOnto,
  neighboursOf,
  withCrossover,
  withFolds,
  withSplitAt,
  type CrossedBy,
  type Fold,
} from './edits/sheetZones';
export { PLAYED_KINDS, newsBetween, type Audition, type PlayedBodies, type PlayedKind, type ShowNews } from './news';
export { fadeAt, velocityTable } from './model/velocityTable';
export { controlKey } from './model/controlKey';
export {
  isNamedBySound,
  standingStartedByRole,
  startedByRole,
  withKeptSound,
  withPatchesOf,
  withSoundLayer,
} from './edits/soundEdits';
