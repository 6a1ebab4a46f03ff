export {
  CONTROL_KINDS, LearnRow, Learner, PARAMETERS, actionInWords, classOf, parameterName, computerKeyName, controlOf, inputsOf, isContinuous, kindInWords, movesValue, openRoles, proposeSources, rolesInUse, sameSource, songsInOrder, sourceConflicts, sourceInWords,
  withRenamedRole, withoutRole, type ActionNames, type ControlClass, type ControlKind, type HeardMessage, type LearnOptions, type LearnStep, type Learned, type Proposal, type RoleInUse, type RoleUse, type Scope,
} from './controls';
export { chooseSetlist, dryRun, type DryRunError, type DryRunResult, type LogRecord } from './dryRun';
export {
  Book, Engine, controlKey, IGNORED_IN_WORDS, IGNORED_REASONS, MAX_WAIT_MS, SECOND_PANIC_MS, ShowCompiler, WHOLE_DEFAULTS, WHOLE_VALUES, levelController, panController, pickedUp, velocityTable, type ControlView,
  type CompiledLayer, type CompiledPatch, type CompiledShow, type CompiledStep, type Destination, type EngineObserver, type EngineRecord, type EngineSink,
  type IgnoredReason, type RecallCause, type SoundingNote, type WarningCode,
} from './engine';
export {
  MOST_NAMES, alsoText, entriesFrom, parseAlso, guessPasted, openTable, readMidnam, readPasted, readTable, writeMidnam, writeNamesCsv,
  type MidnamDevice, type MidnamError, type MidnamErrorCode, type NameColumns, type NameRow, type NamesRead, type NotUnderstood, type PastedReading, type Table,
} from './formats/names';
export { migrations, readShowDocument, readShowFile, setlistWithActionKinds, showJsonSchema, writeShowFile, type Migration, type ShowFileError, type ShowFileErrorCode } from './formats/showFile';
export { readSmf, writeSmf, type SmfError, type SmfErrorCode, type SmfFile, type SmfMessage, type SmfTrack, type WriteMessage, type WriteTrack } from './formats/smf';
export { checkBank, checkBankHead, type BankContents, type BankError, type BankErrorCode } from './formats/soundfont';
export { controllerName, dataLength, keyName, messageInWords, midi, parseKeyName, type NameStyle } from './midi';
export {
  addressFrom, addressNumber, buttonsByTarget, controllerSheets, planNumbering, programConflicts, programText, sameTarget, targetKey, targetsInOrder, withoutNumber,
  type ControllerSheet, type NumberChange, type NumberingPlan, type SheetButton, type SheetControl, type SheetKind, type SheetRow,
} from './programs';
export { LineMaker, MESSAGE_KINDS, becameInWords, isHiddenAtFirst, kindOfStatus, type MessageKind, type MonitorLine } from './monitor';
export { assertNever, fail, invariant, ok, type Result } from './result';
export {
  Action, actionRange, Arpeggio, BankInstrument, BankPreset, Binding, Blend, BlendId, BlendValue, BUILT_INS, builtIn, ButtonRow, Carry, changeBlendValue, changeCue, changeLayer,
  changePart, changePatch, ChannelName, Coding, ControlSource, CountedSteps, Cue, CueId, DeviceControl, Effect, EFFECT_KINDS, EFFECT_PARAMETERS, EffectChange, effectChanges, EffectId, effectParameter, effectValue, emptyShow, EntryId, EntryMessage,
  FileHash, filesOf, finishingTimes, foldsOnto, gearFromPorts, GearList, GearListId, GearPort, gearPortFrom, InputPort, Instrument, InstrumentId, knownInstrument, Layer,
  LayerId, LayerSound, LayerSource, LayerValue, LibraryItem, LibraryItemId, Meter, mintId, moved, neighboursOf, NameListEntry, newEffect, newSetlist, newSong, NOTE_VALUES, NoteNames,
  NoteValue, NotReady, Numbering, OutboardInstrument, OutMessage, OutputPort, OwnInstrument, OwnPreset, Part, Patch, PatchId, patchItem, patchWithLayers, PickUp,
  PlainAction, playingOrder, PresetId, ProgramLine, ProgramListening, quartersOf, RecallTarget, Recording, RecordingsInstrument, RoleSource, Send, Setlist, SetlistEntry,
  SetlistId, SharedEffect, Shelf, ShelfId, Show, SHOW_FORMAT, SHOW_VERSION, showFaults, Song, songFaults, songFromItem, SongId, songItem, SOUND_CONTROLLER_REST, SoundDevice, soundName,
  SoundOutput, SoundParameter, SoundRef, SoundShape, startedFrom, StepMessage, Tape, TAPES, VelocityResponse, WholeValue, withBlend, withBlendEffects, withCapturedBlend, withCrossover, withCue, withDuplicatedLayer,
  withDuplicatedPatch, withEffectChanges, withEffectValue, withEntry, withFolds, withJoinedLayers, withLayer, withLayerEffects, withMovedEntry, withMovedLayer, withMovedPatch, withoutBlend, withoutCue, withoutEntry,
  withoutLayer, withoutPart, withoutPatch, withPart, withPatchFrom, withRenamedPort, withRunOn, withSplitAt, withSplitRun, withStanding, withStandingInSetlist, Zone, type ActionRange, type BuiltIn, type Fault, type FaultCode,
  type EffectParameter, type CrossedBy, type Fold, type KnownInstrument, type Mint, type Place,
} from './show';
export { soundcheck, type Finding } from './soundcheck';
export { TICKS_PER_QUARTER, formatPosition, msAtTick, parsePosition, positionAt, tickAt, tickAtMs, ticksPerBar, ticksPerBeat, type Position } from './timeline';
