import { roleTaking } from '../controls';
import { kindOf, type SheetKind } from './sheetKind';
import type { GearList, InputPort, ProgramLine, RecallTarget, Setlist, Song } from '../show';
import { addressNumber, targetKey, targetsInOrder } from './programMap';

/** One button of a controller and what it has to be programmed to send. Numbers as on the wire. */
export interface SheetRow {
  /** Page of the controller's own, from 1. */
  page: number;
  /** Button on that page, from 1. */
  button: number;
  channel: number;
  msb: number;
  lsb: number;
  program: number;
  target: RecallTarget;
  /** A role has this button: the number gets nowhere from here. */
  takenBy: string | null;
}

/** A control that plays a role, and what it has to send for that. */
export interface SheetControl {
  role: string;
  control: string;
  kind: SheetKind;
  channel: number | null;
  /** Key, controller or program; null where the message has none. */
  number: number | null;
}

/** What to type into a controller: its buttons with their programs. */
export interface ControllerSheet {
  port: InputPort;
  rows: SheetRow[];
  controls: SheetControl[];
  /** Numbers for which the controller has no more buttons. */
  left: number;
  /** The bank counts: bank select has to be sent before each program. */
  sendsBank: boolean;
}

/** Lines of the map that a port can call, in playing order; a song's own number stands before its patches. */
function linesInOrder(setlist: Setlist, songs: ReadonlyMap<string, Song>, port: InputPort): ProgramLine[] {
  const lines = setlist.programs.filter((line) => line.port === null || line.port === port.alias);
  const order = new Map<string, number>();
  targetsInOrder(setlist, songs).forEach((target, i) => {
    order.set(targetKey(target), i);
    const song = targetKey({ ...target, patchId: null, blendId: null });
    if (!order.has(song)) order.set(song, i - 0.5);
  });
  const seen = new Set<number>();
  return lines
    .filter((line) => order.has(targetKey(line.target)))
    .sort((a, b) => order.get(targetKey(a.target))! - order.get(targetKey(b.target))!)
    .filter((line) => {
      // The same number twice is one button: it recalls the first.
      const address = addressNumber(line);
      return seen.has(address) ? false : seen.add(address);
    });
}

/**
 * For each controller of a gear list, what its buttons have to send for a setlist. Controllers without buttons or roles
 * are left out.
 */
export function controllerSheets(
  setlist: Setlist,
  songs: ReadonlyMap<string, Song>,
  gear: GearList,
): ControllerSheet[] {
  return gear.ports.flatMap((port): ControllerSheet[] => {
    if (port.direction !== 'in') return [];
    const controls = controlsOf(gear, port);
    const { buttons, programs } = port;
    const lines = buttons === null || programs.kind !== 'direct' ? [] : linesInOrder(setlist, songs, port);
    const room = (buttons?.count ?? 0) * (buttons?.pages ?? 0);
    const rows = rowsOf(lines.slice(0, room), port, gear);
    if (rows.length === 0 && controls.length === 0) return [];
    const readsBank = programs.kind === 'direct' && programs.bank !== 'none';
    const sendsBank = readsBank && rows.some(({ msb, lsb }) => msb > 0 || lsb > 0);
    return [{ port, rows, controls, left: Math.max(0, lines.length - room), sendsBank }];
  });
}

/** Controls of a port that play roles. */
const controlsOf = (gear: GearList, port: InputPort): SheetControl[] =>
  gear.roles.flatMap(({ role, source }): SheetControl[] => {
    if (source.kind === 'computerKey' || source.port !== port.alias) return [];
    const known = port.controls.find((control) => JSON.stringify(control.source) === JSON.stringify(source));
    return [
      {
        role,
        control: known?.name ?? '',
        kind: kindOf(source),
        channel: source.channel,
        number: 'number' in source ? source.number : null,
      },
    ];
  });

/** Lines of the program map on the buttons of a controller, page after page. */
function rowsOf(
  lines: readonly ProgramLine[],
  { alias, buttons, programs, channels }: InputPort,
  gear: GearList,
): SheetRow[] {
  const count = buttons?.count ?? 1;
  const usual = (programs.kind === 'direct' ? programs.channels?.[0] : undefined) ?? channels?.[0] ?? 1;
  return lines.map(({ channel, msb, lsb, program, target }, i) => ({
    page: Math.floor(i / count) + 1,
    button: (i % count) + 1,
    channel: channel ?? usual,
    msb,
    lsb,
    program,
    target,
    takenBy: roleTaking(gear, { port: alias, channel: channel ?? usual, msb, lsb, program })?.role ?? null,
  }));
}

/** One button of a controller, and what it recalls. */
export interface SheetButton {
  port: string;
  page: number;
  button: number;
  pages: number;
  takenBy: string | null;
}

/** The button that the first sheet which has one gives to a target, by `targetKey`; one that no role has first. */
export function buttonsByTarget(sheets: readonly ControllerSheet[]): Map<string, SheetButton> {
  const buttons = new Map<string, SheetButton>();
  for (const { port, rows } of sheets) {
    for (const { target, page, button, takenBy } of rows) {
      const key = targetKey(target);
      const known = buttons.get(key);
      if (!known || (known.takenBy !== null && takenBy === null))
        buttons.set(key, { port: port.alias, page, button, pages: port.buttons?.pages ?? 1, takenBy });
    }
  }
  return buttons;
}
