import { Click, songTonight, type GearList, type Instrument, type Setlist, type Song } from '../../show';
import type { Registry } from '../state/registry';
import type { CompiledClick, CompiledEntry, CompiledShow, CompiledStep, CompileNote, ControlTables } from './compiled';
import { compileBindings, compileControls } from './controls';
import { InputFilterTables, Keymaps } from './inputFilter';
import { ProgramMaps, compileInputs, compileTargets, inputPorts } from './inputs';
import { joinTables, placeEntry, type EntrySong, type PlacedEntry } from './join';
import { laneTables } from './laneTables';
import { SharedTables } from './sharedTables';
import { compileSong, holds, type KeptSong } from './song';
import { SurroundingsKeeper, type SongSurroundings } from './surroundings';

/** What a setlist is compiled from. */
export interface CompiledFrom {
  readonly songs: readonly Song[];
  readonly instruments: readonly Instrument[];
}

/** What does not depend on the gear: everything in playing order. */
type OrderTables = Pick<
  CompiledShow,
  | 'songs'
  | 'layout'
  | 'steps'
  | 'entries'
  | 'entryShifts'
  | 'entryEchoes'
  | 'records'
  | 'plans'
  | 'values'
  | 'mutes'
  | 'patches'
>;

interface RunningOrder {
  of: readonly EntrySong<KeptSong>[];
  placed: readonly PlacedEntry[];
  notes: readonly CompileNote[];
  tables: OrderTables;
}

/** Where programs lead, in one layout. */
interface Numbers {
  lines: Setlist['programs'];
  layout: object;
  programs: ProgramMaps;
  notes: readonly CompileNote[];
}

type GearTables = Pick<
  CompiledShow,
  'controls' | 'clockInput' | 'clockOutputs' | 'offsets' | 'click' | 'recallsWhereLeft' | 'sendAgain'
> & {
  of: GearList | null;
  inputFilter: InputFilterTables;
};

/**
 * Flattens a show. A song is compiled again when it, an instrument that it uses, or what of the setlist is in every
 * patch has changed; another gear list compiles no song, another name of a setlist nothing at all. Tables are made a
 * song at a time, and joined.
 *
 * Values are told apart by identity: hand in what has changed as new objects, and what has not as the same objects.
 */
export class ShowCompiler {
  private readonly keymaps = new Keymaps();
  private readonly surroundings = new SurroundingsKeeper(this.keymaps, new SharedTables());
  private songs = new Map<string, KeptSong>();
  private order: RunningOrder | null = null;
  private numbers: Numbers | null = null;
  private gear: GearTables | null = null;
  private inputs: { programs: ProgramMaps; gear: GearList | null; tables: CompiledShow['inputs'] } | null = null;
  private bindings: { of: unknown[]; tables: CompiledShow['roleBindings'] } | null = null;
  private last: {
    order: RunningOrder;
    made: unknown[];
    instruments: readonly Instrument[];
    show: CompiledShow;
  } | null = null;

  constructor(private readonly registry: Registry) {}

  /** @param gear null: no gear at all; patches can still be recalled. */
  compile(show: CompiledFrom, setlist: Setlist, gear: GearList | null): CompiledShow {
    this.registry.setlistName = setlist.name;
    const instruments = new Map(show.instruments.map((instrument) => [instrument.id as string, instrument]));
    const gearTables = this.gearTables(gear);
    const around = this.surroundings.take(instruments, setlist, gear);
    const order = this.runningOrder(show.songs, setlist, around);
    const numbers = this.numbersOf(setlist, order);
    gearTables.inputFilter.grow();
    const inputs = this.inputTables(gear, numbers.programs);
    const roleBindings = this.setlistBindings(around);
    const { sharedEffects, wholeEffects } = setlist;
    const made = [gearTables, numbers, inputs, roleBindings, sharedEffects, wholeEffects];
    return this.joined(order, show.instruments, made, () => {
      const { controls, clockInput, clockOutputs, offsets, click, recallsWhereLeft, sendAgain, inputFilter } =
        gearTables;
      const { notes, tables } = order;
      return {
        ...tables,
        roleBindings,
        controls,
        clockInput,
        clockOutputs,
        offsets,
        click,
        sharedEffects,
        wholeEffects,
        recallsWhereLeft,
        sendAgain,
        inputs,
        hears: inputFilter.hears,
        hearsPedals: inputFilter.hearsPedals,
        rows: inputFilter.rows,
        ...laneTables(show.instruments, this.registry, new Set(tables.songs)),
        laneCount: this.registry.laneCount,
        layerCount: this.registry.layers.length,
        notes: [...notes, ...numbers.notes, ...controls.notes],
      };
    });
  }

  /** The show as it was when it is made of the same things. */
  private joined(
    order: RunningOrder,
    instruments: readonly Instrument[],
    made: unknown[],
    make: () => CompiledShow,
  ): CompiledShow {
    const { last } = this;
    if (
      last !== null &&
      last.order === order &&
      last.made.every((part, i) => part === made[i]) &&
      sameItems(last.instruments, instruments)
    )
      return last.show;
    const show = make();
    this.last = { order, made, instruments, show };
    return show;
  }

  private gearTables(gear: GearList | null): GearTables {
    if (this.gear !== null && this.gear.of === gear) return this.gear;
    const { registry } = this;
    const ports = inputPorts(gear);
    const numbered = ports
      .map((port) => ({ port, number: registry.input(port.device) }))
      .filter(({ number }) => number >= 0);
    const outputs = (gear?.ports ?? []).filter((port) => port.direction === 'out');
    const numbers = outputs.map((port) => registry.outputPort(port.alias));
    const controls: ControlTables = compileControls(gear, registry);
    const clock = ports.find(({ alias }) => alias === gear?.clockFrom);
    return (this.gear = {
      of: gear,
      inputFilter: new InputFilterTables(this.keymaps, numbered),
      controls,
      clockInput: clock ? registry.input(clock.device) : -1,
      clockOutputs: outputs.flatMap(({ on, sendsClock, device, clockPulses, clockAtLoop }, i) =>
        // A clock that is followed never goes back to where it comes from.
        on && sendsClock && device !== clock?.device
          ? [{ destination: numbers[i], always: clockPulses === 'always', atLoop: clockAtLoop === 'position' }]
          : [],
      ),
      offsets: outputs.map(({ offsetMs }, i) => ({ destination: numbers[i], offsetMs })),
      click: compiledClick(gear, registry),
      recallsWhereLeft: gear?.songRecall === 'left',
      sendAgain: gear?.sendAgain ?? false,
    });
  }

  private runningOrder(songs: readonly Song[], setlist: Setlist, around: SongSurroundings): RunningOrder {
    const songsById = new Map(songs.map((song) => [song.id as string, song]));
    const notes: CompileNote[] = [];
    const of: EntrySong<KeptSong>[] = [];
    const compiled = new Map<string, KeptSong>();
    for (const entry of setlist.entries) {
      if (entry.kind !== 'song') continue;
      const own = songsById.get(entry.songId);
      if (!own) {
        notes.push({ code: 'no-such-song', message: 'a song of the setlist is not there' });
        continue;
      }
      const key = `${own.id} ${entry.bpm ?? ''}`;
      const kept = compiled.get(key) ?? this.song(key, songTonight(own, entry), around);
      compiled.set(key, kept);
      const { id: entryId, skip, keyShift, atEnd } = entry;
      of.push({ entryId, skip, keyShift, atEnd, song: kept });
      for (const note of kept.notes) notes.push(note);
    }
    this.songs = compiled;
    const { order } = this;
    if (order !== null && order.notes.length === notes.length && sameOrder(order.of, of)) return order;
    return (this.order = placedOrder(of, notes, order));
  }

  /** @param key of the song at its tempo for tonight */
  private song(key: string, song: Song, around: SongSurroundings): KeptSong {
    const known = this.songs.get(key);
    return known && holds(known, song, around) ? known : compileSong(song, around, this.registry, known?.layout);
  }

  private numbersOf({ programs: lines }: Setlist, { tables: { layout, steps, entries } }: RunningOrder): Numbers {
    const { numbers } = this;
    if (numbers !== null && numbers.lines === lines && numbers.layout === layout) return numbers;
    const notes: CompileNote[] = [];
    const programs = new ProgramMaps(lines, compileTargets(lines, steps, entries, notes));
    return (this.numbers = { lines, layout, programs, notes });
  }

  private inputTables(gear: GearList | null, programs: ProgramMaps): CompiledShow['inputs'] {
    const { inputs } = this;
    if (inputs !== null && inputs.programs === programs && inputs.gear === gear) return inputs.tables;
    const tables = compileInputs(gear, programs, this.registry);
    this.inputs = { programs, gear, tables };
    return tables;
  }

  /** What the setlist binds, but to no layer: the same for every patch. */
  private setlistBindings({ setlist, setlistEffects }: SongSurroundings): CompiledShow['roleBindings'] {
    const of = [setlist.bindings, setlistEffects];
    if (this.bindings !== null && sameItems(this.bindings.of, of)) return this.bindings.tables;
    const tables = compileBindings([setlist.bindings.filter(({ action }) => !('layerId' in action))], this.registry, {
      partOf: () => -1,
      faderOf: () => -1,
      effectsOf: () => [],
      setlistEffects,
    });
    this.bindings = { of, tables };
    return tables;
  }
}

const sameItems = (a: readonly unknown[], b: readonly unknown[]): boolean =>
  a.length === b.length && a.every((item, i) => item === b[i]);

const sameOrder = (a: readonly EntrySong[], b: readonly EntrySong[]): boolean =>
  a.length === b.length &&
  a.every(
    ({ song, entryId, skip, keyShift, atEnd }, i) =>
      song === b[i].song &&
      entryId === b[i].entryId &&
      skip === b[i].skip &&
      keyShift === b[i].keyShift &&
      atEnd === b[i].atEnd,
  );

const sameLayout = (a: readonly EntrySong[], b: readonly EntrySong[]): boolean =>
  a.length === b.length &&
  a.every(
    ({ song, entryId, skip }, i) => song.layout === b[i].song.layout && entryId === b[i].entryId && skip === b[i].skip,
  );

function placedOrder(
  of: readonly EntrySong<KeptSong>[],
  notes: readonly CompileNote[],
  old: RunningOrder | null,
): RunningOrder {
  const placed: PlacedEntry[] = [];
  const steps: CompiledStep[] = [];
  const entries: CompiledEntry[] = [];
  of.forEach((entry, number) => {
    const at = placeEntry(entry, number, steps.length, old?.placed[number]);
    placed.push(at);
    entries.push(at.compiled);
    for (const step of at.steps) steps.push(step);
  });
  return {
    of,
    placed,
    notes,
    tables: {
      songs: of.map(({ song }) => song),
      layout: old !== null && sameLayout(old.of, of) ? old.tables.layout : {},
      steps,
      entries,
      entryEchoes: entries.map(({ echoNote }) => echoNote),
      entryShifts: Int8Array.from(of, ({ keyShift }) => keyShift),
      ...joinTables(of),
    },
  };
}

function compiledClick(gear: GearList | null, registry: Registry): CompiledClick {
  const { on, to, offsetMs } = gear?.click ?? Click.parse({});
  const isPort = to.kind === 'port';
  return {
    on,
    lane: isPort ? registry.destinations[registry.outputPort(to.port)].lane + to.channel - 1 : -1,
    accentKey: isPort ? to.accentKey : 0,
    key: isPort ? to.key : 0,
    output: isPort ? '' : to.output,
    levelDb: isPort ? 0 : to.levelDb,
    offsetMs,
  };
}
