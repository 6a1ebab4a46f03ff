import { roleTaking } from '../../../controls';
import { addressNumber, numberText } from '../../../programs';
import type { GearList, InputPort, ProgramLine } from '../../../show';
import type { Found, Mend } from '../../finding';
import { counts, type EveningRule } from '../../rule';
import { onPage, type Around, type Tonight } from '../../tonight';
import { movedOn } from './numberTwice';
import { targetNames } from './targetNames';

type Direct = InputPort & { programs: Extract<InputPort['programs'], { kind: 'direct' }> };

/** Inputs that call by number. */
export const directInputs = (inputs: readonly InputPort[]): Direct[] =>
  inputs.filter((port): port is Direct => port.programs.kind === 'direct');

/** Channels on which an input's programs are heard. */
const heardChannels = ({ channels, programs }: Direct): number[] =>
  Array.from({ length: 16 }, (_, i) => i + 1).filter(
    (channel) => (channels?.includes(channel) ?? true) && (programs.channels?.includes(channel) ?? true),
  );

/** The lines that an input can call. Where banks do not count, the first of several lines with one number has it. */
export function reachedBy(input: Direct, lines: readonly ProgramLine[], { gear }: Around): ReadonlySet<ProgramLine> {
  const reached = new Set<ProgramLine>();
  const { bank } = input.programs;
  const heard = heardChannels(input);
  const taken = new Set<string>();
  // Mostly there are none, and a look at each number costs nothing.
  const roles = gear.roles.filter(({ source }) => source.kind === 'program');
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
    if (!isFirst && bank !== 'both') continue;
    const { msb, lsb, program } = line;
    const isFree = heard.some(
      (channel) =>
        (line.channel ?? channel) === channel &&
        roleTaking({ roles }, { port: input.alias, channel, msb, lsb, program }) === null,
    );
    if (isFree) reached.add(line);
  }
  return reached;
}

/** Why none of the inputs gets to a line; the same words for what has the same way out. */
type Reason = { kind: 'taken'; by: string } | { kind: 'bank'; input: Direct } | { kind: 'own' } | { kind: 'none' };

function reasonOf(line: ProgramLine, inputs: readonly Direct[], { gear }: Around): Reason {
  const by = takerOf(line, inputs, gear);
  if (by !== undefined) return { kind: 'taken', by };
  const narrow = inputs.find(({ programs, alias }) => programs.bank !== 'both' && (line.port ?? alias) === alias);
  if (narrow && (line.msb > 0 || line.lsb > 0)) return { kind: 'bank', input: narrow };
  return line.port !== null || line.channel !== null ? { kind: 'own' } : { kind: 'none' };
}

const takerOf = (line: ProgramLine, inputs: readonly Direct[], gear: GearList): string | undefined =>
  inputs
    .flatMap(({ alias }) => roleTaking(gear, { ...line, port: alias, channel: line.channel ?? 1 })?.role ?? [])
    .at(0);

const wordsOf = (reason: Reason, { port, channel }: ProgramLine): string => {
  switch (reason.kind) {
    case 'taken':
      return `: “${reason.by}” has taken it`;
    case 'bank':
      return `: ${reason.input.alias} does not listen to all of its bank`;
    case 'own':
      return `: it is called by ${[port ?? '', channel === null ? '' : `channel ${channel}`].filter(Boolean).join(', ')} only`;
    case 'none':
      return '';
  }
};

function mendOf(
  reason: Reason,
  lines: readonly ProgramLine[],
  inputs: readonly Direct[],
  { setlist, around }: Tonight,
): Mend | undefined {
  const { gear } = around;
  switch (reason.kind) {
    case 'taken':
      return movedOn(setlist, lines, (one) => takerOf(one, inputs, gear) !== undefined);
    case 'bank':
      return {
        label: `let ${reason.input.alias} hear banks`,
        steps: [
          {
            kind: 'gearLists',
            id: gear.id,
            at: ['ports', { direction: 'in', alias: reason.input.alias }, 'programs', 'bank'],
            was: reason.input.programs.bank,
            now: 'both',
          },
        ],
      };
    case 'own':
      if (inputs.length === 0) return undefined;
      return {
        label: 'let any input call it',
        steps: [
          {
            kind: 'setlists',
            id: setlist.id,
            at: ['programs'],
            was: setlist.programs,
            now: setlist.programs.map((line) => (lines.includes(line) ? { ...line, port: null, channel: null } : line)),
          },
        ],
      };
    case 'none':
      return undefined;
  }
}

/** Every number of tonight can be called. */
export const numberUnreachable: EveningRule = {
  id: 'number-unreachable',
  group: 'reach',
  sure: 'every number can be called by tonight’s gear, and no role hides it',
  per: 'evening',
  counts: counts.numbers,
  find(tonight) {
    const { setlist, byId, around } = tonight;
    const inputs = directInputs(around.inputs);
    const played = new Set(setlist.entries.flatMap((entry) => (entry.kind === 'song' ? [entry.songId as string] : [])));
    const reaching = inputs.map((input) => reachedBy(input, setlist.programs, around));
    const missed = setlist.programs.filter(
      (line) => played.has(line.target.songId) && !reaching.some((lines) => lines.has(line)),
    );
    const groups = new Map<string, { reason: Reason; lines: ProgramLine[] }>();
    for (const line of missed) {
      const reason = reasonOf(line, inputs, around);
      const words = wordsOf(reason, line);
      const group = groups.get(words);
      if (group === undefined) groups.set(words, { reason, lines: [line] });
      else group.lines.push(line);
    }
    const nameOf = targetNames(byId);
    return [...groups].map(([words, { reason, lines }]): Found => {
      const what =
        lines.length === 1 ? `program ${numberText(lines[0], setlist.programsFrom)}` : `${lines.length} numbers`;
      return {
        severity: 'willFail',
        cause: `${words} ${lines.map(addressNumber).join(' ')}`.slice(0, 500),
        place: lines.map((line) => onPage(`${numberText(line, setlist.programsFrom)}: ${nameOf(line)}`, 'numbers')),
        message: `no input of ${around.gear.name} can call ${what}${words}`,
        why: 'What they recall cannot be reached by its number.',
        mend: mendOf(reason, lines, inputs, tonight),
      };
    });
  },
};
