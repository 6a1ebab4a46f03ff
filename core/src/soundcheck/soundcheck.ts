import { Registry, ShowCompiler } from '../engine';
import { roleTaking } from '../controls';
import { addressNumber, programConflicts, numberText } from '../programs';
import {
  bodiesOf,
  everySetlistOf,
  playedSetlist,
  showFaults,
  type Binding,
  type GearList,
  type InputPort,
  type Layer,
  type ProgramLine,
  type Setlist,
  type Show,
  type Song,
} from '../show';
import { crowdedFindings, positionFindings } from './timeline';
import { openRoleFindings, stepFindings, unnumberedFindings } from './ways';

/** One thing that the soundcheck has found. */
export interface Finding {
  severity: 'error' | 'warning';
  code: string;
  /** Setlist, song, patch: where a player looks for it. */
  where: string;
  message: string;
  /** Why it matters on stage. */
  why: string;
}

/**
 * Everything that is wrong with a show, or with one setlist of it. Errors first; otherwise in playing order.
 * @param compiler one that is kept over edits compiles again only what they touch.
 */
export function soundcheck(
  show: Show,
  setlistId: string | null = null,
  compiler = new ShowCompiler(new Registry()),
): Finding[] {
  const every = everySetlistOf(bodiesOf(show));
  const setlists = show.setlists
    .filter((setlist) => setlistId === null || setlist.id === setlistId)
    .map((setlist) => playedSetlist(setlist, every));
  const findings = [
    ...referenceFindings(show),
    ...setlists.flatMap((setlist) => setlistFindings(show, setlist, compiler)),
  ];
  return [
    ...findings.filter((finding) => finding.severity === 'error'),
    ...findings.filter((finding) => finding.severity === 'warning'),
  ];
}

function referenceFindings(show: Show): Finding[] {
  return showFaults(show).map((fault) => ({
    severity: 'error',
    code: fault.code,
    where: fault.path.join('.'),
    message: fault.message,
    why:
      fault.code === 'zone-upside-down' || fault.code === 'velocities-upside-down'
        ? 'No key would sound there.'
        : 'What it points at cannot be played.',
  }));
}

function setlistFindings(show: Show, setlist: Setlist, compiler: ShowCompiler): Finding[] {
  const gear = show.gearLists.find((list) => list.id === setlist.gearListId) ?? show.gearLists[0] ?? null;
  return [
    ...numberFindings(show, setlist),
    ...sendFindings(show, setlist),
    ...effectFindings(show, setlist),
    ...(gear === null
      ? []
      : [
          ...reachFindings(show, setlist, gear),
          ...wayFindings(show, setlist, gear),
          ...inputFindings(show, setlist, gear),
          ...outputFindings(show, setlist, gear),
          ...compileFindings(show, setlist, gear, compiler),
          ...songsOf(show, setlist).flatMap((song) => [
            ...crowdedFindings(song, show.instruments),
            ...positionFindings(song, gear),
          ]),
        ]),
  ];
}

/** The same number twice. */
function numberFindings(show: Show, setlist: Setlist): Finding[] {
  const nameOf = targetNames(show);
  return programConflicts(setlist.programs).map((lines) => ({
    severity: 'error',
    code: 'number-twice',
    where: setlist.name,
    message: `program ${numberText(lines[0], setlist.programsFrom)} (counting from ${setlist.programsFrom}) recalls ${lines.map(nameOf).join(' and ')}`,
    why: 'The foot would get the first of them, whichever was meant.',
  }));
}

/** Sends to shared effects that this setlist does not have. */
function sendFindings(show: Show, setlist: Setlist): Finding[] {
  const there = new Set(setlist.sharedEffects.map(({ name }) => name as string));
  const missing = new Map<string, Set<string>>();
  for (const song of songsOf(show, setlist)) {
    const sends = [
      ...song.standing,
      ...song.patches.flatMap((patch) => [...patch.parts, ...patch.blends.flatMap((blend) => blend.values)]),
    ].flatMap((part) => part.sends ?? []);
    for (const { to, percent } of sends)
      if (percent > 0 && !there.has(to)) missing.set(to, (missing.get(to) ?? new Set()).add(song.name));
  }
  return [...missing].map(([name, songs]) => ({
    severity: 'warning',
    code: 'no-shared-effect',
    where: [...songs].join(', '),
    message: `${setlist.name} has no shared effect “${name}”`,
    why: 'What is sent to it is not heard; the layers themselves are.',
  }));
}

/** Roles that move an effect which is not there any more. */
function effectFindings(show: Show, setlist: Setlist): Finding[] {
  const shared = [...setlist.sharedEffects.flatMap(({ effects }) => effects), ...setlist.wholeEffects];
  const gone = (bindings: readonly Binding[], layers: readonly Layer[], where: string): Finding[] =>
    bindings.flatMap(({ role, action }): Finding[] => {
      if (!('effectId' in action)) return [];
      const effects = 'layerId' in action ? (layers.find(({ id }) => id === action.layerId)?.effects ?? []) : shared;
      return effects.some(({ id }) => id === action.effectId)
        ? []
        : [
            {
              severity: 'warning',
              code: 'no-such-effect',
              where,
              message: `${role} moves an effect that is not there any more`,
              why: 'The control does nothing there.',
            },
          ];
    });
  return [
    ...gone(setlist.bindings, setlist.layers, setlist.name),
    ...songsOf(show, setlist).flatMap((song) => [
      ...gone(song.bindings, song.layers, song.name),
      ...song.patches.flatMap((patch) => gone(patch.bindings, song.layers, `${song.name}: ${patch.name}`)),
    ]),
  ];
}

/** What hands and feet can do tonight. */
function wayFindings(show: Show, setlist: Setlist, gear: GearList): Finding[] {
  const songs = songsOf(show, setlist);
  const byId = Object.fromEntries(songs.map((song) => [song.id, song]));
  const canCall = directInputs(gear).some((input) => reachedBy(input, setlist.programs, gear).size > 0);
  return [
    ...stepFindings(setlist, byId, gear, canCall),
    ...openRoleFindings(setlist, byId, gear),
    ...unnumberedFindings(setlist, new Map(songs.map((song) => [song.id as string, song])), gear),
  ];
}

const directInputs = (gear: GearList): InputPort[] =>
  gear.ports.filter((port): port is InputPort => port.direction === 'in' && port.on && port.programs.kind === 'direct');

/** Numbers that no input of the gear list can call. */
function reachFindings(show: Show, setlist: Setlist, gear: GearList): Finding[] {
  const inputs = directInputs(gear);
  const played = new Set(setlist.entries.flatMap((entry) => (entry.kind === 'song' ? [entry.songId as string] : [])));
  const reaching = inputs.map((input) => reachedBy(input, setlist.programs, gear));
  const nameOf = targetNames(show);
  return setlist.programs.flatMap((line): Finding[] => {
    const where = `${setlist.name}: ${nameOf(line)}`;
    const number = numberText(line, setlist.programsFrom);
    if (!played.has(line.target.songId))
      return [
        {
          severity: 'warning',
          code: 'program-leads-nowhere',
          where,
          message: `program ${number} leads to a song that is not in the setlist`,
          why: 'The number does nothing tonight.',
        },
      ];
    if (reaching.some((lines) => lines.has(line))) return [];
    return [
      {
        severity: 'error',
        code: 'program-unreachable',
        where,
        message: `no input of ${gear.name} can call program ${number}${takenWords(line, inputs, gear)}`,
        why: 'The patch cannot be reached by its number.',
      },
    ];
  });
}

/** The lines that an input can call. Where banks do not count, the first of several lines with one number has it. */
function reachedBy(input: InputPort, lines: readonly ProgramLine[], gear: GearList): ReadonlySet<ProgramLine> {
  const reached = new Set<ProgramLine>();
  if (input.programs.kind !== 'direct') return reached;
  const { bank, channels } = input.programs;
  const hears = (channel: number): boolean =>
    (input.channels?.includes(channel) ?? true) && (channels?.includes(channel) ?? true);
  const heard = Array.from({ length: 16 }, (_, i) => i + 1).filter(hears);
  const taken = new Set<string>();
  for (const line of lines) {
    const seen = addressNumber({
      msb: bank === 'both' ? line.msb : 0,
      lsb: bank === 'none' ? 0 : line.lsb,
      program: line.program,
    });
    const key = `${seen} ${line.port ?? ''} ${line.channel ?? ''}`;
    const isFirst = !taken.has(key);
    taken.add(key);
    if (line.port !== null && line.port !== input.alias) continue;
    const { msb, lsb, program } = line;
    const free = heard.filter(
      (channel) =>
        (line.channel ?? channel) === channel &&
        roleTaking(gear, { port: input.alias, channel, msb, lsb, program }) === null,
    );
    if (free.length === 0) continue;
    if (isFirst || bank === 'both') reached.add(line);
  }
  return reached;
}

/** That a role has taken what would call it. */
function takenWords({ channel, msb, lsb, program }: ProgramLine, inputs: readonly InputPort[], gear: GearList): string {
  const roles = inputs.flatMap(
    ({ alias }) => roleTaking(gear, { port: alias, channel: channel ?? 1, msb, lsb, program })?.role ?? [],
  );
  return roles.length === 0 ? '' : `: “${roles[0]}” has taken it`;
}

/** Parts that only one input plays, which is not there, is off, or does not play layers. */
function inputFindings(show: Show, setlist: Setlist, gear: GearList): Finding[] {
  const playing = new Set(
    gear.ports.filter((port) => port.direction === 'in' && port.on && port.plays).map((port) => port.alias),
  );
  const missing = new Map<string, Set<string>>();
  for (const song of songsOf(show, setlist)) {
    for (const { zone } of song.patches.flatMap((patch) => patch.parts)) {
      if (zone.input !== null && !playing.has(zone.input))
        missing.set(zone.input, (missing.get(zone.input) ?? new Set()).add(song.name));
    }
  }
  return [...missing].map(([alias, songs]) => ({
    severity: 'error',
    code: 'no-input',
    where: [...songs].join(', '),
    message: `${gear.name} has no keyboard “${alias}” that plays`,
    why: 'Zones that only it plays are silent.',
  }));
}

function outputFindings(show: Show, setlist: Setlist, gear: GearList): Finding[] {
  const outputs = new Set(gear.ports.filter((port) => port.direction === 'out' && port.on).map((port) => port.alias));
  const instruments = new Map(show.instruments.map((instrument) => [instrument.id as string, instrument]));
  const missing = new Map<string, Set<string>>();
  for (const song of songsOf(show, setlist)) {
    for (const layer of song.layers) {
      const instrument = instruments.get(layer.sound.instrumentId);
      if (layer.source.kind === 'midi' && instrument?.kind === 'outboard' && !outputs.has(instrument.port))
        missing.set(instrument.port, (missing.get(instrument.port) ?? new Set()).add(song.name));
    }
  }
  return [...missing].map(([port, songs]) => ({
    severity: 'error',
    code: 'no-output',
    where: [...songs].join(', '),
    message: `${gear.name} has no output “${port}”`,
    why: 'Layers that sound there are silent.',
  }));
}

/** What the engine would leave out, and nothing else has told. */
function compileFindings(show: Show, setlist: Setlist, gear: GearList, compiler: ShowCompiler): Finding[] {
  const told = new Set([
    'no-such-song',
    'no-such-layer',
    'no-such-instrument',
    'no-such-preset',
    'program-leads-nowhere',
  ]);
  const { notes } = compiler.compile(show, setlist, gear);
  return notes
    .filter((note) => !told.has(note.code))
    .map((note) => ({
      severity: 'error',
      code: note.code,
      where: setlist.name,
      message: note.message,
      why:
        note.code === 'cue-does-nothing'
          ? 'Nothing happens when the playhead passes it.'
          : 'It is left out of the sound.',
    }));
}

function songsOf(show: Show, setlist: Setlist): Song[] {
  const ids = new Set(setlist.entries.flatMap((entry) => (entry.kind === 'song' ? [entry.songId as string] : [])));
  return show.songs.filter((song) => ids.has(song.id));
}

/** Names of what program lines lead to. */
function targetNames(show: Show): (line: ProgramLine) => string {
  const songs = new Map(show.songs.map((song) => [song.id as string, song]));
  return (line) => {
    const song = songs.get(line.target.songId);
    const patch = song?.patches.find((candidate) => candidate.id === line.target.patchId);
    const blend = patch?.blends.find((candidate) => candidate.id === line.target.blendId);
    return [song?.name ?? 'a missing song', patch?.name, blend?.name].filter((name) => name !== undefined).join(', ');
  };
}
