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
    const controls = gear.roles.flatMap(({ role, source }): SheetControl[] =>
      source.kind === 'computerKey' || source.port !== port.alias
        ? []
        : [
            {
              role,
              control:
                port.controls.find((control) => JSON.stringify(control.source) === JSON.stringify(source))?.name ?? '',
              kind: kindOf(source),
              channel: source.channel,
              number: 'number' in source ? source.number : null,
            },
          ],
    );
    const { buttons, programs } = port;
    const lines = buttons === null || programs.kind !== 'direct' ? [] : linesInOrder(setlist, songs, port);
    const room = (buttons?.count ?? 0) * (buttons?.pages ?? 0);
    const channel = programs.kind === 'direct' ? (programs.channels?.[0] ?? port.channels?.[0] ?? 1) : 1;
    const rows = lines.slice(0, room).map((line, i): SheetRow => ({
      page: Math.floor(i / buttons!.count) + 1,
      button: (i % buttons!.count) + 1,
      channel: line.channel ?? channel,
      msb: line.msb,
      lsb: line.lsb,
      program: line.program,
      target: line.target,
    }));
    if (rows.length === 0 && controls.length === 0) return [];
    const bank = programs.kind === 'direct' && programs.bank !== 'none';
    return [
      {
        port,
        rows,
        controls,
        left: Math.max(0, lines.length - room),
        sendsBank: bank && rows.some((row) => row.msb > 0 || row.lsb > 0),
      },
    ];
  });
}

/** One button of a controller, and what it recalls. */
export interface SheetButton {
  port: string;
  page: number;
  button: number;
  pages: number;
}

/** The button that the first sheet which has one gives to a target, by `targetKey`. */
export function buttonsByTarget(sheets: readonly ControllerSheet[]): Map<string, SheetButton> {
  const buttons = new Map<string, SheetButton>();
  for (const { port, rows } of sheets) {
    for (const { target, page, button } of rows) {
      const key = targetKey(target);
      if (!buttons.has(key)) buttons.set(key, { port: port.alias, page, button, pages: port.buttons?.pages ?? 1 });
    }
  }
  return buttons;
}
