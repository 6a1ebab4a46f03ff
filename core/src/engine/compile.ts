import { CONTROLLER, NOTE_ON, PROGRAM } from '../midi/status';
import type { Binding, Effect, GearList, Instrument, Setlist, Show, Song, StepMessage } from '../show';
import { msAtTick, ticksPerBar } from '../timeline';
import type { Book } from './book';
import {
  BALANCE_STRIDE,
  ENTERS_WITH_MESSAGES,
  LEAVES_WITH_MESSAGES,
  RECORD_SHAPE_SHIFT,
  RECORD_STRIDE,
  SETS_PARAMETERS,
  type CompiledEntry,
  type CompiledPatch,
  type CompiledShow,
  type CompiledStep,
  type CompileNote,
  type ControlTables,
  type CountedLane,
  type StepBytes,
} from './compiled';
import { compileBindings, compileControls } from './compileControls';
import { ProgramMaps, compileInputs, compileTargets, inputPorts } from './compileGear';
import { HearingTables, Shapes } from './compileHearing';
import { SharedTables, compilePatch, type SongSurroundings } from './compileSong';

interface CompiledSong {
  song: Song;
  /** What it was compiled for. */
  around: SongSurroundings;
  patches: CompiledPatch[];
  notes: CompileNote[];
}

/** What does not depend on the gear: everything in playing order, and where programs lead. */
type RunningOrder = Pick<
  CompiledShow,
  'steps' | 'entries' | 'entryTempos' | 'records' | 'plans' | 'values' | 'mutes' | 'patches' | 'roleBindings'
> & {
  setlist: Setlist;
  songs: readonly Song[];
  around: SongSurroundings;
  programs: ProgramMaps;
  notes: CompileNote[];
};

/**
 * Flattens a show. Songs compile one by one and are kept, so that an edit compiles again only the song it touched, and
 * another
 * gear list none at all; a change of setlist layers or instruments compiles all of them anew. Values are told apart by
 * identity:
 * hand in changed songs as new objects, unchanged ones as the same objects.
 */
export class ShowCompiler {
  private around: SongSurroundings | null = null;
  private songs = new Map<string, CompiledSong>();
  private order: RunningOrder | null = null;
  private readonly shapes = new Shapes();
  private gear: GearList | null = null;
  private hearing: HearingTables | null = null;
  private controls: ControlTables | null = null;

  constructor(private readonly book: Book) {}

  /** @param gear null: no gear at all; patches can still be recalled. */
  compile(show: Pick<Show, 'songs' | 'instruments'>, setlist: Setlist, gear: GearList | null): CompiledShow {
    const { hearing, controls } = this.takeGear(gear);
    const order = this.runningOrder(show.songs, setlist, this.surroundings(show, setlist, gear));
    hearing.grow();
    const { steps, entries, entryTempos, records, plans, values, mutes, patches, roleBindings } = order;
    return {
      steps,
      entries,
      entryTempos,
      records,
      plans,
      values,
      mutes,
      patches,
      roleBindings,
      controls,
      notes: [...order.notes, ...controls.notes],
      hears: hearing.hears,
      hearsPedals: hearing.hearsPedals,
      rows: hearing.rows,
      inputs: compileInputs(gear, order.programs, this.book),
      clockInput: clockInput(gear, this.book),
      clockOutputs: Int32Array.from(
        (gear?.ports ?? []).flatMap((port) =>
          port.direction === 'out' && port.on && port.sendsClock ? [this.book.outputPort(port.alias)] : [],
        ),
      ),
      ...laneTables(show.instruments, this.book, patches),
      recallsWhereLeft: gear?.songRecall === 'left',
      sendAgain: gear?.sendAgain ?? false,
      laneCount: this.book.laneCount,
      layerCount: this.book.layerNames.length,
    };
  }

  private takeGear(gear: GearList | null): { hearing: HearingTables; controls: ControlTables } {
    if (this.hearing === null || this.controls === null || this.gear !== gear) {
      const inputs = inputPorts(gear)
        .map((port) => ({ port, number: this.book.input(port.device) }))
        .filter(({ number }) => number >= 0);
      for (const port of gear?.ports ?? []) if (port.direction === 'out') this.book.outputPort(port.alias);
      this.gear = gear;
      this.hearing = new HearingTables(this.shapes, inputs);
      this.controls = compileControls(gear, this.book);
    }
    return { hearing: this.hearing, controls: this.controls };
  }

  private surroundings(
    { songs, instruments }: Pick<Show, 'songs' | 'instruments'>,
    setlist: Setlist,
    gear: GearList | null,
  ): SongSurroundings {
    const builtInLanes = inputPorts(gear).some((port) => port.perNote && port.plays) ? 16 : 1;
    const sysexOutputs = new Set(
      (gear?.ports ?? []).flatMap((port) =>
        port.direction === 'out' && port.allowsSysex ? [port.alias as string] : [],
      ),
    );
    const old = this.around;
    // Where no role moves them, an edit of the setlist's effects compiles no song anew.
    const setlistEffects = bindsSetlistEffects(setlist, songs)
      ? [...setlist.sharedEffects.flatMap(({ effects }) => effects), ...setlist.wholeEffects]
      : NO_EFFECTS;
    const same =
      old !== null &&
      old.setlist.id === setlist.id &&
      old.setlist.name === setlist.name &&
      old.setlist.layers === setlist.layers &&
      old.setlist.standing === setlist.standing &&
      old.setlist.bindings === setlist.bindings &&
      old.setlistEffects.length === setlistEffects.length &&
      setlistEffects.every((effect, i) => old.setlistEffects[i] === effect) &&
      old.builtInLanes === builtInLanes &&
      old.sysexOutputs.size === sysexOutputs.size &&
      [...sysexOutputs].every((alias) => old.sysexOutputs.has(alias)) &&
      old.instruments.size === instruments.length &&
      instruments.every((instrument) => old.instruments.get(instrument.id) === instrument);
    if (same) return old;
    this.around = {
      setlist,
      builtInLanes,
      sysexOutputs,
      shapes: this.shapes,
      instruments: new Map(instruments.map((instrument) => [instrument.id as string, instrument])),
      shared: new SharedTables(),
      bindsLayers: setlist.bindings.some(({ action }) => 'layerId' in action),
      setlistEffects,
    };
    return this.around;
  }

  private runningOrder(songs: readonly Song[], setlist: Setlist, around: SongSurroundings): RunningOrder {
    const { order } = this;
    if (
      order !== null &&
      order.setlist === setlist &&
      order.around === around &&
      order.songs.length === songs.length &&
      songs.every((song, i) => order.songs[i] === song)
    )
      return order;
    const songsById = new Map(songs.map((song) => [song.id as string, song]));
    const notes: CompileNote[] = [];
    const steps: CompiledStep[] = [];
    const entries: CompiledEntry[] = [];
    for (const entry of setlist.entries) {
      if (entry.kind !== 'song') continue;
      const song = songsById.get(entry.songId);
      if (!song) {
        notes.push({ code: 'no-such-song', message: `${setlist.name}: a song is not there` });
        continue;
      }
      const compiled = this.song(song, around);
      notes.push(...compiled.notes);
      const first = steps.length;
      compiled.patches.forEach((patch, p) =>
        patch.balances.forEach((balance, b) => {
          const isStep = b === 0 ? song.patches[p].isStep : balance.isStep;
          steps.push({
            position: steps.length,
            entry: entries.length,
            entryId: entry.id,
            patch,
            balance,
            isStep,
            walked: isStep && !entry.skip,
          });
        }),
      );
      entries.push(compileEntry(entry.id, song, steps, first));
    }
    const programs = new ProgramMaps(setlist.programs, compileTargets(setlist, steps, entries, notes));
    const roleBindings = compileBindings([setlist.bindings.filter(({ action }) => !('layerId' in action))], this.book, {
      partOf: () => -1,
      faderOf: () => -1,
      effectsOf: () => [],
      setlistEffects: around.setlistEffects,
    });
    return (this.order = {
      setlist,
      songs: [...songs],
      around,
      notes,
      steps,
      entries,
      programs,
      roleBindings,
      entryTempos: Float64Array.from(entries, (entry) => entry.tempoBpm),
      ...recallTables(steps),
    });
  }

  private song(song: Song, around: SongSurroundings): CompiledSong {
    const known = this.songs.get(song.id);
    if (known?.song === song && known.around === around) return known;
    const notes: CompileNote[] = [];
    const compiled = {
      song,
      around,
      notes,
      patches: song.patches.map((patch) => compilePatch(song, patch, around, this.book, notes)),
    };
    this.songs.set(song.id, compiled);
    return compiled;
  }
}

const NO_EFFECTS: readonly Effect[] = [];
const movesSetlistEffect = ({ action }: Binding): boolean =>
  action.kind === 'sharedEffectValue' || action.kind === 'sharedEffectOnOff';
const bindsSetlistEffects = (setlist: Setlist, songs: readonly Song[]): boolean =>
  setlist.bindings.some(movesSetlistEffect) ||
  songs.some(
    (song) =>
      song.bindings.some(movesSetlistEffect) || song.patches.some(({ bindings }) => bindings.some(movesSetlistEffect)),
  );

/** What recalls read, of all positions one behind the other. Blends of a patch share its plan. */
function recallTables(
  steps: readonly CompiledStep[],
): Pick<CompiledShow, 'records' | 'plans' | 'values' | 'mutes' | 'patches'> {
  const numbers = new Map<CompiledPatch, number>();
  const starts: number[] = [];
  let planLength = 0;
  let valuesLength = 0;
  let mutesLength = 0;
  for (const { patch } of steps) {
    if (!numbers.has(patch)) {
      numbers.set(patch, starts.push(planLength) - 1);
      planLength += patch.plan.length;
    }
    valuesLength += patch.layers.length * BALANCE_STRIDE;
    mutesLength += patch.layers.length;
  }
  const tables = {
    records: new Int32Array(steps.length * RECORD_STRIDE),
    plans: new Int32Array(planLength),
    values: new Float64Array(valuesLength),
    mutes: new Uint8Array(mutesLength),
    patches: [...numbers.keys()],
  };
  tables.patches.forEach((patch, number) => tables.plans.set(patch.plan, starts[number]));
  let valuesAt = 0;
  let mutesAt = 0;
  steps.forEach(({ patch, balance, entry }, position) => {
    const number = numbers.get(patch)!;
    const messages =
      (patch.entering.length > 0 ? ENTERS_WITH_MESSAGES : 0) |
      (patch.leaving.length > 0 ? LEAVES_WITH_MESSAGES : 0) |
      (patch.parameters.length > 0 ? SETS_PARAMETERS : 0);
    tables.records.set(
      [
        number,
        starts[number],
        starts[number] + patch.plan.length,
        valuesAt,
        mutesAt,
        entry,
        Math.round(balance.rampMs),
        messages | (patch.shape << RECORD_SHAPE_SHIFT),
      ],
      position * RECORD_STRIDE,
    );
    tables.values.set(balance.values, valuesAt);
    tables.mutes.set(balance.mute, mutesAt);
    valuesAt += balance.values.length;
    mutesAt += balance.mute.length;
  });
  return tables;
}

function compileEntry(entryId: string, song: Song, steps: readonly CompiledStep[], first: number): CompiledEntry {
  const positionOf = (patchId: string, blendId: string | null): number => {
    for (let i = first; i < steps.length; i++)
      if (steps[i].patch.patchId === patchId && steps[i].balance.blendId === blendId) return i;
    return -1;
  };
  const cues = song.cues
    .map((cue) => ({ tick: cue.atTick, position: positionOf(cue.patchId, cue.blendId) }))
    .filter((cue) => cue.position >= 0)
    .sort((a, b) => a.tick - b.tick);
  return {
    entryId,
    songId: song.id,
    song: song.name,
    first,
    end: steps.length,
    tempoBpm: song.tempoBpm,
    endTick: song.bars * ticksPerBar(song.meter),
    cueTicks: Float64Array.from(cues, (cue) => cue.tick),
    cuePositions: Int32Array.from(cues, (cue) => cue.position),
  };
}

/** Whether any preset, or any message of a patch, on a lane gives a bank byte; and the switching time there. */
function laneTables(
  instruments: readonly Instrument[],
  book: Book,
  patches: readonly CompiledPatch[],
): Pick<CompiledShow, 'laneUsesMsb' | 'laneUsesLsb' | 'laneSwitchMs' | 'laneCounted'> {
  const laneUsesMsb = new Uint8Array(book.laneCount);
  const laneUsesLsb = new Uint8Array(book.laneCount);
  const laneSwitchMs = new Float64Array(book.laneCount);
  const laneCounted: (CountedLane | undefined)[] = [];
  const own = new Map<number, Set<number>>();
  for (const instrument of instruments) {
    if (instrument.kind !== 'outboard') continue;
    const destination = book.findOutputPort(instrument.port);
    own.set(destination, (own.get(destination) ?? new Set()).add(instrument.channel - 1));
  }
  const played = new Map<string, Set<number>>();
  for (const patch of patches)
    for (const { instrumentId, lane } of patch.layers)
      if (instrumentId !== null) played.set(instrumentId, (played.get(instrumentId) ?? new Set()).add(lane));
  for (const instrument of instruments) {
    if (instrument.kind !== 'outboard') continue;
    const destination = book.findOutputPort(instrument.port);
    if (destination < 0) continue;
    const first = book.destinations[destination].lane;
    const usesMsb = instrument.names.some((name) => name.msb !== null);
    const usesLsb = instrument.names.some((name) => name.lsb !== null);
    // Its own channel, and those on which its layers play it; a neighbour behind the same port is not touched.
    for (const lane of lanesOf(instrument.channel - 1, first, own.get(destination)!, played.get(instrument.id))) {
      if (usesMsb) laneUsesMsb[lane] = 1;
      if (usesLsb) laneUsesLsb[lane] = 1;
      laneSwitchMs[lane] = Math.max(laneSwitchMs[lane], instrument.switchMs);
      if (instrument.counted)
        laneCounted[lane] = {
          next: stepBytes(instrument.counted.next),
          previous: stepBytes(instrument.counted.previous),
          count: instrument.names.length,
        };
    }
  }
  for (const patch of patches) {
    for (const message of [...patch.entering, ...patch.leaving]) {
      if (message.kind !== 'program' && message.kind !== 'controller') continue;
      if (message.msb >= 0 || (message.kind === 'controller' && message.data1 === 0)) laneUsesMsb[message.lane] = 1;
      if (message.lsb >= 0 || (message.kind === 'controller' && message.data1 === 32)) laneUsesLsb[message.lane] = 1;
    }
  }
  return { laneUsesMsb, laneUsesLsb, laneSwitchMs, laneCounted };
}

/** An instrument's own lane, and those where layers play it on a channel that is no other instrument's own. */
const lanesOf = (
  channel: number,
  first: number,
  own: ReadonlySet<number>,
  played: ReadonlySet<number> = new Set(),
): number[] => [first + channel, ...[...played].filter((lane) => !own.has(lane - first))];

const stepBytes = (message: StepMessage): StepBytes => {
  switch (message.kind) {
    case 'controller':
      return { status: CONTROLLER, data1: message.number, data2: message.value };
    case 'program':
      return { status: PROGRAM, data1: message.number, data2: 0 };
    case 'note':
      return { status: NOTE_ON, data1: message.number, data2: 100 };
  }
};

function clockInput(gear: GearList | null, book: Book): number {
  const port = inputPorts(gear).find((candidate) => candidate.alias === gear?.clockFrom);
  return port ? book.input(port.device) : -1;
}

/** When a cue falls due after its song's tick 0, in ms. */
export const cueMs = (entry: CompiledEntry, tick: number): number => msAtTick(tick, entry.tempoBpm);
