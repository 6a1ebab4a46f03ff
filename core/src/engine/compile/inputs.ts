import type { GearList, InputPort, ProgramLine } from '../../show';
import type { Registry } from '../state/registry';
import type { CompiledEntry, CompiledInput, CompiledStep, CompileNote, ProgramTable, ProgramTarget } from './compiled';

/** Channels 1–16 as sixteen flags; null is all. */
export function channelFlags(channels: readonly number[] | null): Uint8Array {
  const flags = new Uint8Array(16);
  if (channels === null) flags.fill(1);
  else for (const channel of channels) flags[channel - 1] = 1;
  return flags;
}

const flagsOf = (numbers: readonly number[]): Uint8Array => {
  const flags = new Uint8Array(128);
  for (const number of numbers) flags[number] = 1;
  return flags;
};

/** The input ports of a gear list; none without one. */
export const inputPorts = (gear: GearList | null): InputPort[] =>
  (gear?.ports ?? []).filter((port): port is InputPort => port.direction === 'in');

/** By registry number, how each input is read tonight. */
export function compileInputs(gear: GearList | null, maps: ProgramMaps, registry: Registry): (CompiledInput | null)[] {
  const ports = inputPorts(gear);
  const numberOf = new Map(ports.map((port) => [port.alias, registry.input(port.device)]));
  const inputs: (CompiledInput | null)[] = registry.inputs.map(() => null);
  for (const port of ports) {
    const number = numberOf.get(port.alias)!;
    if (number >= 0)
      inputs[number] = compileInput(port, maps, port.doubleOf === null ? -1 : (numberOf.get(port.doubleOf) ?? -1));
  }
  return inputs;
}

/**
 * Program tables of inputs. Lines for any port and channel make one table for every input that reads banks in the same
 * way.
 */
export class ProgramMaps {
  private readonly anywhere: ProgramLine[] = [];
  private readonly somewhere: ProgramLine[] = [];
  private readonly known = new Map<string, ProgramTable>();

  constructor(
    lines: readonly ProgramLine[],
    private readonly targets: ReadonlyMap<ProgramLine, ProgramTarget>,
  ) {
    for (const line of lines) (line.port === null && line.channel === null ? this.anywhere : this.somewhere).push(line);
  }

  forAny(usesMsb: boolean, usesLsb: boolean): ProgramTable {
    const key = `${usesMsb} ${usesLsb}`;
    const table = this.known.get(key) ?? tableOf(this.anywhere, this.targets, usesMsb, usesLsb);
    this.known.set(key, table);
    return table;
  }

  /** What counts for one port and channel before the rest; null when there is nothing of the kind. */
  forOne(alias: string, channel: number, usesMsb: boolean, usesLsb: boolean): ProgramTable | null {
    const lines = this.somewhere.filter(
      (line) => (line.port === null || line.port === alias) && (line.channel === null || line.channel === channel),
    );
    const table = lines.length === 0 ? null : tableOf(lines, this.targets, usesMsb, usesLsb);
    return table === null || table.banks.size === 0 ? null : table;
  }
}

function tableOf(
  lines: readonly ProgramLine[],
  targets: ReadonlyMap<ProgramLine, ProgramTarget>,
  usesMsb: boolean,
  usesLsb: boolean,
): ProgramTable {
  const banks = new Map<number, Int32Array>();
  const found: ProgramTarget[] = [];
  for (const line of lines) {
    const target = targets.get(line);
    if (!target) continue;
    const bank = (usesMsb ? line.msb : 0) * 128 + (usesLsb ? line.lsb : 0);
    let programs = banks.get(bank);
    if (!programs) banks.set(bank, (programs = new Int32Array(128).fill(-1)));
    // Where two lines have one number, the first in the map has it.
    if (programs[line.program] === -1)
      programs[line.program] =
        target.isSong || target.positions.length > 1 ? -1 - found.push(target) : target.positions[0];
  }
  return { banks, targets: found };
}

function compileInput(port: InputPort, maps: ProgramMaps, doubleOf: number): CompiledInput {
  const { programs } = port;
  const direct = programs.kind === 'direct';
  const usesMsb = direct && programs.bank === 'both';
  const usesLsb = direct && programs.bank !== 'none';
  return {
    alias: port.alias,
    on: port.on,
    plays: port.plays,
    keyShift: port.keyShift,
    perNote: port.perNote,
    doubleOf,
    listens: channelFlags(port.channels),
    reversed: flagsOf(port.reversedPedals),
    ignoredPedal: flagsOf(port.ignoredPedals),
    programs: programs.kind,
    programChannels: channelFlags(programs.kind === 'off' ? [] : programs.channels),
    map: direct ? maps.forAny(usesMsb, usesLsb) : null,
    mapByChannel: Array.from({ length: 16 }, (_, channel) =>
      direct ? maps.forOne(port.alias, channel + 1, usesMsb, usesLsb) : null,
    ),
    usesMsb,
    usesLsb,
    counterLowest: programs.kind === 'counter' ? programs.lowest : 0,
    counterHighest: programs.kind === 'counter' ? programs.highest : 127,
    counterGuardMs: programs.kind === 'counter' ? programs.guardMs : 0,
  };
}

/** A song's own number passes over patches that are no steps, also in an entry that is skipped. */
function firstStepOf(steps: readonly CompiledStep[], { first, end }: CompiledEntry): number {
  for (let i = first; i < end; i++) if (steps[i].isStep) return i;
  return first;
}

/** What each line of the program map leads to; lines that lead nowhere are left out and noted. */
export function compileTargets(
  lines: readonly ProgramLine[],
  steps: readonly CompiledStep[],
  entries: readonly CompiledEntry[],
  notes: CompileNote[],
): Map<ProgramLine, ProgramTarget> {
  const byKey = new Map<string, { positions: number[]; entries: number[] }>();
  const add = (key: string, position: number, entry: number): void => {
    const known = byKey.get(key) ?? { positions: [], entries: [] };
    known.positions.push(position);
    known.entries.push(entry);
    byKey.set(key, known);
  };
  for (const step of steps)
    add(`${step.patch.songId} ${step.patch.patchId} ${step.balance.blendId ?? ''}`, step.position, step.entry);
  entries.forEach((entry, number) => {
    if (entry.end > entry.first) add(entry.songId, firstStepOf(steps, entry), number);
  });
  const targets = new Map<ProgramLine, ProgramTarget>();
  for (const line of lines) {
    const { songId, patchId, blendId } = line.target;
    const found = byKey.get(patchId === null ? songId : `${songId} ${patchId} ${blendId ?? ''}`);
    if (!found)
      notes.push({
        code: 'program-leads-nowhere',
        message: `program ${line.program} (on the wire) leads to nothing in this setlist`,
      });
    else
      targets.set(line, {
        isSong: patchId === null,
        positions: Int32Array.from(found.positions),
        entries: Int32Array.from(found.entries),
      });
  }
  return targets;
}
