import { classOf, roleTaking } from '../../controls';
import type { EngineInput } from '../../engine';
import { CC_BANK_LSB, CC_BANK_MSB, CONTROLLER, NOTE_OFF, NOTE_ON, PROGRAM } from '../../midi/status';
import type { Binding, InputPort, Place, ProgramLine, RoleSource } from '../../show';
import type { Tonight } from '../tonight';
import { messageInput as message } from './messageInput';
import type { Pair } from './pairs';

/** What comes in when a control is pressed, and let go of. */
export interface Press {
  down: readonly EngineInput[];
  up: readonly EngineInput[];
  /** A second press sooner than that is none, ms. */
  guardMs: number;
}

/** Heard as they are: a port that doubles another one waits for it to be away. */
const heardPorts = ({ around }: Tonight): InputPort[] => around.inputs.filter(({ doubleOf }) => doubleOf === null);

/**
 * The switch that steps from one recall to the other, where they follow each other and tonight's gear has one; null: none.
 * @param stops where “next” stops, in running order
 */
export function stepPress({ from, to }: Pair, stops: readonly Place[], tonight: Tonight): Press | null {
  const at = stops.findIndex(({ position }) => position === from.position);
  if (at < 0) return null;
  const isAt = (place: Place | undefined): boolean => place?.position === to.position;
  const action = isAt(stops[at + 1]) ? 'nextStep' : isAt(stops[at - 1]) ? 'previousStep' : null;
  if (action === null) return null;
  const roles = rolesDoing(action, from, tonight);
  for (const source of tonight.around.gear.roles) {
    const press = roles.has(source.role) ? pressOf(source, tonight) : null;
    if (press !== null) return press;
  }
  return null;
}

/** Roles that do one thing at a press, and nothing else, in a patch: the nearest scope that binds a role wins. */
function rolesDoing(action: Binding['action']['kind'], { song, patch }: Place, { around }: Tonight): Set<string> {
  const nearest = new Map<string, Binding[]>();
  for (const bindings of [around.setlist.bindings, song.bindings, patch.bindings])
    for (const [role, own] of byRole(bindings)) nearest.set(role, own);
  return new Set(
    [...nearest].flatMap(([role, own]) => (own.every((binding) => binding.action.kind === action) ? [role] : [])),
  );
}

function byRole(bindings: readonly Binding[]): Map<string, Binding[]> {
  const roles = new Map<string, Binding[]>();
  for (const binding of bindings) roles.set(binding.role, [...(roles.get(binding.role) ?? []), binding]);
  return roles;
}

/** Of what can be pressed and is the same at every press; knobs, counters and buttons that stay down are not. */
function pressOf(control: RoleSource, tonight: Tonight): Press | null {
  const { source, guardMs, reversed, lowest, highest } = control;
  if (source.kind === 'computerKey') return null;
  const port = heardPorts(tonight).find(({ alias }) => alias === source.port);
  if (port === undefined) return null;
  const { device } = port;
  const channel = (source.channel ?? port.channels?.[0] ?? 1) - 1;
  switch (classOf(control, true)) {
    case 'momentary':
      if (source.kind !== 'controller' || reversed) return null;
      return {
        down: [message(device, CONTROLLER | channel, source.number, highest)],
        up: [message(device, CONTROLLER | channel, source.number, lowest)],
        guardMs,
      };
    case 'note':
      if (source.kind !== 'note') return null;
      return {
        down: [message(device, NOTE_ON | channel, source.number, 100)],
        up: [message(device, NOTE_OFF | channel, source.number, 64)],
        guardMs,
      };
    case 'program':
      if (source.kind !== 'program') return null;
      return {
        down: [
          ...bankSelect(device, channel, source.msb ?? 0, source.lsb ?? 0),
          message(device, PROGRAM | channel, source.number, 0),
        ],
        up: [],
        guardMs,
      };
    default:
      return null;
  }
}

const bankSelect = (device: string, channel: number, msb: number, lsb: number): EngineInput[] => [
  message(device, CONTROLLER | channel, CC_BANK_MSB, msb),
  message(device, CONTROLLER | channel, CC_BANK_LSB, lsb),
];

/** The number that recalls a patch or blend, from the first port that may send it; null: it has none of its own. */
export function numberPress({ to }: Pair, tonight: Tonight): Press | null {
  const { setlist } = tonight;
  // Where a song stands twice, its number recalls the one that is nearer.
  const isOnce = setlist.entries.filter((entry) => entry.kind === 'song' && entry.songId === to.song.id).length === 1;
  const line = setlist.programs.find(
    ({ target }) =>
      target.songId === to.song.id && target.patchId === to.patch.id && target.blendId === (to.blend?.id ?? null),
  );
  if (!isOnce || line === undefined) return null;
  for (const port of heardPorts(tonight)) {
    const channel = listeningTo(line, port);
    if (channel === null) continue;
    const { msb, lsb, program } = line;
    if (roleTaking(tonight.around.gear, { port: port.alias, channel, msb, lsb, program }) !== null) continue;
    const { device } = port;
    return {
      down: [...bankSelect(device, channel - 1, msb, lsb), message(device, PROGRAM | (channel - 1), program, 0)],
      up: [],
      guardMs: 0,
    };
  }
  return null;
}

/** The channel on which a port may send a number, 1–16; null: it may not. */
function listeningTo({ port: alias, channel, msb, lsb }: ProgramLine, port: InputPort): number | null {
  const { programs } = port;
  if (programs.kind !== 'direct' || (alias !== null && alias !== port.alias)) return null;
  if ((msb !== 0 && programs.bank !== 'both') || (lsb !== 0 && programs.bank === 'none')) return null;
  const channels = [programs.channels, port.channels].filter((some) => some !== null);
  const listens = (one: number): boolean => channels.every((some) => some.includes(one));
  if (channel !== null) return listens(channel) ? channel : null;
  return [...(channels[0] ?? [1])].find(listens) ?? null;
}
