import { controlKey } from '../../show';
import {
  ON,
  actionRange,
  effectValue,
  type Action,
  type Binding,
  type Effect,
  type GearList,
  type RoleSource,
} from '../../show';
import type { Registry } from '../state/registry';
import {
  SourceKind,
  SOURCE_KINDS,
  type CompiledBinding,
  type CompiledControl,
  type CompiledEffectTarget,
  type CompileNote,
  type ControlTables,
} from './compiled';
import { inputPorts } from './inputs';

const ABSOLUTE = 0;
const HIT = new Set(['note', 'program', 'count', 'computerKey']);
const CODING_NUMBER = { absolute: ABSOLUTE, twos: 1, offset: 2, signed: 3 } as const;

/** The controls of a gear list: which source plays which role. What roles do is the show's. */
export function compileControls(gear: GearList | null, registry: Registry): ControlTables {
  const controls: CompiledControl[] = [];
  const notes: CompileNote[] = [];
  const computerKeys = new Map<string, number>();
  const devices = new Map(inputPorts(gear).map((port) => [port.alias, port.device]));
  const byPort: (Int16Array | undefined)[] = [];
  for (const role of gear?.roles ?? []) {
    const { source } = role;
    const number = controls.length;
    if (source.kind === 'computerKey') {
      if (computerKeys.has(source.code)) {
        notes.push({
          code: 'source-twice',
          message: `the computer key ${source.code} plays two roles; ${role.role} does not get it`,
        });
        continue;
      }
      computerKeys.set(source.code, number);
      controls.push(compileControl(role, registry));
      continue;
    }
    const device = devices.get(source.port);
    const port = device === undefined ? -1 : registry.input(device);
    if (port < 0) continue;
    controls.push(compileControl(role, registry));
    enter((byPort[port] ??= new Int16Array(16 * SOURCE_KINDS * 128).fill(-1)), controls, role, notes);
  }
  return { controls, byPort, computerKeys, notes };
}

function compileControl(role: RoleSource, registry: Registry): CompiledControl {
  const { source } = role;
  return {
    key: controlKey(role),
    role: role.role,
    roleNumber: registry.role(role.role),
    guardMs: role.guardMs,
    latching: role.button === 'latching',
    passOn: role.passOn,
    coding: source.kind === 'controller' ? CODING_NUMBER[source.coding] : ABSOLUTE,
    isFine: source.kind === 'controller14',
    lowest: role.lowest / 127,
    highest: role.highest / 127,
    reversed: role.reversed,
    exponent: 2 ** (role.curve / 50),
    // What is hit rather than moved stands nowhere that a value could be met at.
    pickUp: HIT.has(source.kind) ? 'atOnce' : role.pickUp,
    msb: source.kind === 'program' ? (source.msb ?? -1) : -1,
    lsb: source.kind === 'program' ? (source.lsb ?? -1) : -1,
    next: -1,
  };
}

function enter(table: Int16Array, controls: CompiledControl[], role: RoleSource, notes: CompileNote[]): void {
  const { source } = role;
  if (source.kind === 'computerKey') return;
  const control = controls.length - 1;
  let conflict = false;
  for (let i = source.channel === null ? 0 : source.channel - 1; i < (source.channel ?? 16); i++) {
    for (const [kind, number] of placesOf(source)) {
      const at = (i * SOURCE_KINDS + kind) * 128 + number;
      if (table[at] < 0) table[at] = control;
      else if (kind === SourceKind.program && hangBehind(controls, table[at], control)) continue;
      else conflict = true;
    }
  }
  if (conflict)
    notes.push({
      code: 'source-twice',
      message: `${source.port}: ${sourceWords(source)} plays two roles; ${role.role} does not get it`,
    });
}

const sourceWords = (source: RoleSource['source']): string =>
  'number' in source ? `${source.kind === 'controller14' ? 'controller' : source.kind} ${source.number}` : source.kind;

/** Where in the control table a source stands: a 14 bit controller in two places. */
function placesOf(source: RoleSource['source']): [number, number][] {
  switch (source.kind) {
    case 'note':
      return [[SourceKind.note, source.number]];
    case 'controller':
      return [[SourceKind.controller, source.number]];
    case 'controller14':
      return [
        [SourceKind.controller, source.number],
        [SourceKind.controller, source.number + 32],
      ];
    case 'program':
      return [[SourceKind.program, source.number]];
    case 'wheel':
      return [[SourceKind.wheel, 0]];
    case 'pressure':
      return [[SourceKind.pressure, 0]];
    case 'count':
      return [[SourceKind.count, source.direction === 'up' ? 1 : 0]];
    case 'computerKey':
      return [];
  }
}

/** Programs of one number in different banks stand behind one another; the same bank twice is refused. */
function hangBehind(controls: CompiledControl[], first: number, control: number): boolean {
  let last = first;
  for (let i = first; i >= 0; i = controls[i].next) {
    if (i === control) return true;
    if (controls[i].msb === controls[control].msb && controls[i].lsb === controls[control].lsb) return false;
    last = i;
  }
  controls[last] = { ...controls[last], next: control };
  return true;
}

/** Where bindings find what they move. */
export interface BoundPlaces {
  /** Number of a layer in the patch, −1 none. */
  partOf: (layerId: string) => number;
  faderOf: (part: number) => number;
  effectsOf: (part: number) => readonly Effect[];
  /** Of the setlist: in shared series and on the whole output. */
  setlistEffects: readonly Effect[];
}

/** By role number, what it does: of the scopes given (nearest first) the first that binds it. */
export function compileBindings(
  scopes: readonly (readonly Binding[])[],
  registry: Registry,
  places: BoundPlaces,
): readonly (readonly CompiledBinding[] | undefined)[] {
  const byRole: (readonly CompiledBinding[] | undefined)[] = [];
  const taken = new Set<string>();
  for (const bindings of scopes) {
    const roles = new Map<string, CompiledBinding[]>();
    for (const binding of bindings)
      if (!taken.has(binding.role))
        roles.set(binding.role, [...(roles.get(binding.role) ?? []), compileBinding(binding, registry, places)]);
    for (const [role, compiled] of roles) {
      taken.add(role);
      byRole[registry.role(role)] = compiled;
    }
  }
  return byRole;
}

function compileBinding(
  { action, low, high, onRecall }: Binding,
  registry: Registry,
  places: BoundPlaces,
): CompiledBinding {
  const staysInHand = onRecall === 'hand';
  if ('effectId' in action) return { ...compileEffectBinding(action, low, high, registry, places), staysInHand };
  const range = actionRange(action);
  return {
    action,
    part: 'layerId' in action ? places.partOf(action.layerId) : -1,
    low: low ?? range?.low ?? 0,
    high: high ?? range?.high ?? 1,
    staysInHand,
    byRatio: false,
    effect: null,
    isValue: range !== null,
  };
}

/** An effect that is not there is moved by nothing, as a layer that does not play here. */
function compileEffectBinding(
  action: Extract<Action, { effectId: unknown }>,
  low: number | null,
  high: number | null,
  registry: Registry,
  places: BoundPlaces,
): Omit<CompiledBinding, 'staysInHand'> {
  const at = 'layerId' in action ? places.partOf(action.layerId) : -1;
  const effects = 'layerId' in action ? (at < 0 ? [] : places.effectsOf(at)) : places.setlistEffects;
  const found = effects.find(({ id }) => id === action.effectId);
  const parameter = 'parameter' in action ? action.parameter : ON;
  const range = found ? actionRange(action, found.kind) : null;
  const isThere = found !== undefined && (range !== null || !('parameter' in action));
  const layerKey = 'layerId' in action ? (at < 0 ? -1 : places.faderOf(at)) : -1;
  const within = (value: number): number => Math.min(range?.high ?? 1, Math.max(range?.low ?? 0, value));
  const effect: CompiledEffectTarget | null = isThere
    ? {
        slot: registry.effectTarget(layerKey, action.effectId, parameter),
        layerKey,
        effectId: action.effectId,
        kind: found.kind,
        parameter,
        stored: effectValue(found, parameter),
      }
    : null;
  return {
    action,
    part: isThere ? at : -1,
    low: within(low ?? -Infinity),
    high: within(high ?? Infinity),
    byRatio: range?.unit === 'Hz',
    isValue: 'parameter' in action,
    effect,
  };
}
