import { MAX_INPUTS } from './limits';

/** Where messages can go: an output port, or one layer of a built-in instrument. */
export type Destination =
  | { kind: 'port'; alias: string; lane: number }
  | {
      kind: 'layer';
      key: string;
      lane: number;
      lanes: 1 | 16;
      instrumentId: string;
      presetId: string;
      label: LayerLabel;
    };

/** What people call a layer, and where it stands; place null: in the whole setlist. */
export interface LayerLabel {
  instrument: string;
  place: string | null;
  layer: string;
}

/**
 * Numbers that stay the same over recompiles, so that a note released after an edit ends where it began:
 * input devices, destinations (outputs, and layers of built-in instruments), lanes, layers. Grows at compile time only.
 */
export class Registry {
  readonly inputs: string[] = [];
  readonly destinations: Destination[] = [];
  /** By layer number: what it is called, and whose it is. */
  readonly layers: { name: string; layerId: string }[] = [];
  /** Destinations that are output ports. */
  readonly ports: number[] = [];
  laneCount = 0;
  /** Of the setlist that is played: it stands in no table, so that another name compiles nothing. */
  setlistName = '';
  private readonly inputByDevice = new Map<string, number>();
  private readonly destinationByKey = new Map<string, number>();
  private readonly layerByKey = new Map<string, number>();
  private readonly roleByName = new Map<string, number>();
  private readonly layerKeys = new Map<string, number>();
  /** Layer keys by number. */
  readonly layerKeyNames: string[] = [];
  /** Parameters of effects that roles move, by slot; layer key −1: an effect of the setlist. */
  readonly effectTargets: { layerKey: number; effectId: string; parameter: string }[] = [];
  private readonly effectTargetByKey = new Map<string, number>();

  /** Number of an input device, or −1 when there are `MAX_INPUTS` already. */
  input(device: string): number {
    const known = this.inputByDevice.get(device);
    if (known !== undefined) return known;
    if (this.inputs.length >= MAX_INPUTS) return -1;
    this.inputs.push(device);
    this.inputByDevice.set(device, this.inputs.length - 1);
    return this.inputs.length - 1;
  }

  /** Number of a known input device, −1 when it has none. */
  findInput(device: string): number {
    return this.inputByDevice.get(device) ?? -1;
  }

  /** Destination of an output port: sixteen lanes, one a channel. */
  outputPort(alias: string): number {
    const known = this.destinations.length;
    const number = this.destination(`port ${alias}`, 16, (lane) => ({ kind: 'port', alias, lane }));
    if (this.destinations.length > known) this.ports.push(number);
    return number;
  }

  findOutputPort(alias: string): number {
    return this.destinationByKey.get(`port ${alias}`) ?? -1;
  }

  /** Destination of one layer of a built-in instrument: one lane, or sixteen when a per-note input plays it. */
  builtInLayer(
    key: string,
    lanes: 1 | 16,
    about: { instrumentId: string; presetId: string; label: LayerLabel },
  ): number {
    const number = this.destination(`layer ${key} ${lanes}`, lanes, (lane) => ({
      kind: 'layer',
      key,
      lane,
      lanes,
      ...about,
    }));
    // A layer that was renamed is the same one, under its new name.
    const entry = this.destinations[number];
    if (entry.kind === 'layer') entry.label = about.label;
    return number;
  }

  /** A destination in words: the alias of a port, or "Instrument / Song / Patch / Layer". */
  nameOf(destination: number): string {
    const entry = this.destinations[destination];
    if (entry.kind === 'port') return entry.alias;
    const { instrument, place, layer } = entry.label;
    return `${instrument} / ${place ?? `${this.setlistName} / standing`} / ${layer}`;
  }

  /** Number of a layer as the engine keeps it: the same key, the same number. */
  layer(key: string, name: string, layerId: string): number {
    const known = this.layerByKey.get(key);
    if (known !== undefined) {
      this.layers[known] = { name, layerId };
      return known;
    }
    this.layers.push({ name, layerId });
    this.layerByKey.set(key, this.layers.length - 1);
    return this.layers.length - 1;
  }

  /** Number of a role. */
  role(name: string): number {
    const known = this.roleByName.get(name) ?? this.roleByName.size;
    this.roleByName.set(name, known);
    return known;
  }

  /** −1 when nothing names it. */
  findRole(name: string): number {
    return this.roleByName.get(name) ?? -1;
  }

  /** Every role that a show or a gear list has named, by its number. */
  get roles(): readonly string[] {
    return [...this.roleByName.keys()];
  }

  /** Number of a song's or setlist's layer, whatever it sounds like and in whichever patch. */
  layerKey(key: string): number {
    const known = this.layerKeys.get(key);
    if (known !== undefined) return known;
    this.layerKeys.set(key, this.layerKeyNames.length);
    return this.layerKeyNames.push(key) - 1;
  }

  /** −1 when there is none of this key. */
  findLayerKey(key: string): number {
    return this.layerKeys.get(key) ?? -1;
  }

  /** Slot of a parameter of an effect that a role moves. */
  effectTarget(layerKey: number, effectId: string, parameter: string): number {
    const key = `${layerKey} ${effectId} ${parameter}`;
    const known = this.effectTargetByKey.get(key);
    if (known !== undefined) return known;
    this.effectTargetByKey.set(key, this.effectTargets.length);
    return this.effectTargets.push({ layerKey, effectId, parameter }) - 1;
  }

  get layerKeyCount(): number {
    return this.layerKeyNames.length;
  }

  private destination(key: string, lanes: number, make: (lane: number) => Destination): number {
    const known = this.destinationByKey.get(key);
    if (known !== undefined) return known;
    this.destinations.push(make(this.laneCount));
    this.laneCount += lanes;
    this.destinationByKey.set(key, this.destinations.length - 1);
    return this.destinations.length - 1;
  }
}
