export {
  CONTROL_KINDS, LearnRow, Learner, PARAMETERS, actionInWords, classOf, parameterName, computerKeyName, controlOf, inputsOf, isContinuous, kindInWords, movesValue, openRoles, proposeSources, rolesInUse, sameSource, songsInOrder, sourceConflicts, sourceInWords,
  withRenamedRole, withoutRole, type ControlClass, type ControlKind, type HeardMessage, type LearnOptions, type LearnStep, type Learned, type Proposal, type RoleInUse, type RoleUse, type Scope,
} from './controls';
export { chooseSetlist, dryRun, type DryRunError, type DryRunResult, type LogRecord } from './dryRun';
export {
  Book, Engine, controlKey, IGNORED_IN_WORDS, IGNORED_REASONS, MAX_WAIT_MS, SECOND_PANIC_MS, ShowCompiler, WHOLE_DEFAULTS, WHOLE_VALUES, levelController, panController, pickedUp, velocityTable, type ControlView,
  type CompiledLayer, type CompiledPatch, type CompiledShow, type CompiledStep, type Destination, type EngineObserver, type EngineRecord, type EngineSink,
  type IgnoredReason, type RecallCause, type SoundingNote, type WarningCode,
} from './engine';
export {
  MOST_NAMES, entriesFrom, guessPasted, openTable, readMidnam, readPasted, readTable, writeMidnam, writeNamesCsv,
  type MidnamDevice, type MidnamError, type MidnamErrorCode, type NameColumns, type NameRow, type NamesRead, type NotUnderstood, type NoteNames, type PastedReading, type Table,
} from './formats/names';
export { migrations, readShowDocument, readShowFile, setlistWithActionKinds, showJsonSchema, writeShowFile, type Migration, type ShowFileError, type ShowFileErrorCode } from './formats/showFile';
export { readSmf, writeSmf, type SmfError, type SmfErrorCode, type SmfFile, type SmfMessage, type SmfTrack, type WriteMessage, type WriteTrack } from './formats/smf';
export { controllerName, dataLength, keyName, messageInWords, midi, parseKeyName, type NameStyle } from './midi';
export {
  addressFrom, addressNumber, buttonsByTarget, controllerSheets, planNumbering, programConflicts, programText, sameTarget, targetKey, targetsInOrder, withoutNumber,
  type ControllerSheet, type NumberChange, type NumberingPlan, type SheetButton, type SheetControl, type SheetKind, type SheetRow,
} from './programs';
export { LineMaker, MESSAGE_KINDS, becameInWords, isHiddenAtFirst, kindOfStatus, type MessageKind, type MonitorLine } from './monitor';
export { assertNever, fail, invariant, ok, type Result } from './result';
export {
  Action, BUILT_INS, Binding, ButtonRow, ChannelName, Coding, CountedSteps, DeviceControl, LayerValue, Numbering, PickUp, PlainAction, SoundDevice, SoundOutput, StepMessage, WholeValue, Blend, BlendId, BlendValue, Carry, ControlSource, Cue, CueId, EntryId, GearList, GearListId, GearPort, InputPort, Instrument, InstrumentId,
  Layer, LayerId, LayerSound, LayerSource, Meter, NameListEntry, NotReady, OutMessage, OutboardInstrument, OutputPort, Part, Patch, PatchId, PresetId, ProgramLine,
  ProgramListening, RecallTarget, RoleSource, SHOW_FORMAT, SHOW_VERSION, Setlist, SetlistEntry, SetlistId, Show, Song, SongId, TAPES, Tape, VelocityResponse, Zone,
  builtIn, changeBlendValue, changeCue, changeLayer, changePart, changePatch, emptyShow, finishingTimes, gearFromPorts, gearPortFrom, mintId, moved, newSetlist, newSong, playingOrder, withBlend, withCue,
  withDuplicatedPatch, withEntry, withLayer, withMovedEntry, withMovedPatch, withPart, withoutBlend, withoutCue, withoutEntry, withoutLayer, withoutPart, withoutPatch, showFaults, songFaults, type BuiltIn, type Fault, type FaultCode, type Place,
} from './show';
export { soundcheck, type Finding } from './soundcheck';
export { TICKS_PER_QUARTER, formatPosition, msAtTick, parsePosition, positionAt, tickAt, tickAtMs, ticksPerBar, ticksPerBeat, type Position } from './timeline';
