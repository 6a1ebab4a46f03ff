import { sameBody, type Effect, type GearList, type Instrument, type Setlist } from '../../show';
import type { Keymaps } from './inputFilter';
import { inputPorts } from './inputs';
import type { SharedTables } from './sharedTables';

/** What of a setlist is in every patch: its name and order are not. */
export type SetlistPart = Pick<Setlist, 'id' | 'layers' | 'standing' | 'bindings'>;

/**
 * Everything besides the song itself that its compiled form depends on. Of the gear that is very little: see
 * `InputFilterTables`.
 */
export interface SongSurroundings {
  readonly setlist: SetlistPart;
  readonly instrument: (id: string) => Instrument | undefined;
  /** Lanes of a built-in layer: sixteen where a keyboard sends each note on a channel of its own. */
  readonly builtInLanes: 1 | 16;
  readonly sysexOutputs: ReadonlySet<string>;
  readonly keymaps: Keymaps;
  readonly shared: SharedTables;
  /** Whether the setlist binds any role to a layer; its other bindings are the same for every patch. */
  readonly bindsLayers: boolean;
  /** Effects of the setlist that roles may move. */
  readonly setlistEffects: readonly Effect[];
  /** The same object while every song compiled for it still holds, but for its instruments and the setlist's effects. */
  readonly token: object;
}

/** Keeps the surroundings of songs, and what of them has stayed the same. */
export class SurroundingsKeeper {
  private now: SongSurroundings | null = null;
  private effectsOf: Pick<Setlist, 'sharedEffects' | 'wholeEffects'> | null = null;

  constructor(
    private readonly keymaps: Keymaps,
    private readonly shared: SharedTables,
  ) {}

  take(instruments: ReadonlyMap<string, Instrument>, setlist: Setlist, gear: GearList | null): SongSurroundings {
    const builtInLanes = inputPorts(gear).some((port) => port.perNote && port.plays) ? 16 : 1;
    const sysexOutputs = new Set(
      (gear?.ports ?? []).flatMap((port) =>
        port.direction === 'out' && port.allowsSysex ? [port.alias as string] : [],
      ),
    );
    const old = this.now;
    const holds =
      old !== null &&
      old.setlist.id === setlist.id &&
      old.setlist.layers === setlist.layers &&
      old.setlist.standing === setlist.standing &&
      old.setlist.bindings === setlist.bindings &&
      old.builtInLanes === builtInLanes &&
      old.sysexOutputs.size === sysexOutputs.size &&
      [...sysexOutputs].every((alias) => old.sysexOutputs.has(alias));
    const { id, layers, standing, bindings } = setlist;
    return (this.now = {
      setlist: { id, layers, standing, bindings },
      instrument: (instrumentId) => instruments.get(instrumentId),
      builtInLanes,
      sysexOutputs,
      keymaps: this.keymaps,
      shared: this.shared,
      bindsLayers: bindings.some(({ action }) => 'layerId' in action),
      setlistEffects: this.setlistEffects(setlist),
      token: holds ? old.token : {},
    });
  }

  /** One after the other; those that did not change are the same objects as before. */
  private setlistEffects({ sharedEffects, wholeEffects }: Setlist): readonly Effect[] {
    const old = this.now?.setlistEffects ?? [];
    if (this.effectsOf?.sharedEffects === sharedEffects && this.effectsOf.wholeEffects === wholeEffects) return old;
    this.effectsOf = { sharedEffects, wholeEffects };
    const effects = [...sharedEffects.flatMap((shared) => shared.effects), ...wholeEffects].map((effect) => {
      const known = old.find(({ id }) => id === effect.id);
      return known && sameBody(known, effect) ? known : effect;
    });
    return effects.length === old.length && effects.every((effect, i) => effect === old[i]) ? old : effects;
  }
}
