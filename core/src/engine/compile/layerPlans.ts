import { NotReady, type Carry } from './carry';

/** What plans are made from. */
interface PlannedLayer {
  readonly index: number;
  readonly lane: number;
  readonly lanes: 1 | 16;
  readonly destination: number;
  readonly outboard: boolean;
  readonly notReady: NotReady;
  readonly silent: boolean;
  readonly sendsLevel: boolean;
  readonly effects: readonly unknown[];
  readonly recording: { readonly plays: string } | null;
  readonly carry: Carry;
}

const STRIDE = 4;
const INDEX = 0;
const LANE = 1;
const DESTINATION = 2;
const FLAGS = 3;

const OUTBOARD = 1;
const STAYS = 2;
const SILENT = 4;
const SENDS_LEVEL = 8;
const SIXTEEN_LANES = 16;
const EFFECTS = 32;
const LOOPS = 64;
const CARRY_SHIFT = 7;

/**
 * What a recall needs to know of layers, a row of four numbers each, close together in memory. Rows are counted from 0;
 * those of a patch stand one behind the other, in the order of its layers.
 */
export class LayerPlans {
  private constructor(private readonly cells: Int32Array) {}

  static of(layers: readonly PlannedLayer[]): LayerPlans {
    return new LayerPlans(
      Int32Array.from(layers.flatMap((layer) => [layer.index, layer.lane, layer.destination, flagsOf(layer)])),
    );
  }

  /** All rows of some tables, one table behind the other. */
  static joined(tables: readonly LayerPlans[]): LayerPlans {
    const cells = new Int32Array(tables.reduce((sum, table) => sum + table.cells.length, 0));
    let at = 0;
    for (const table of tables) {
      cells.set(table.cells, at);
      at += table.cells.length;
    }
    return new LayerPlans(cells);
  }

  get count(): number {
    return this.cells.length / STRIDE;
  }

  /** The layer's number in the engine. @hotpath */
  index(row: number): number {
    return this.cells[row * STRIDE + INDEX];
  }

  /** Its first lane. @hotpath */
  lane(row: number): number {
    return this.cells[row * STRIDE + LANE];
  }

  /** @hotpath */
  destination(row: number): number {
    return this.cells[row * STRIDE + DESTINATION];
  }

  /** @hotpath */
  isOutboard(row: number): boolean {
    return (this.cells[row * STRIDE + FLAGS] & OUTBOARD) !== 0;
  }

  /** While its sound is not ready, the layers before it play its keys. @hotpath */
  stays(row: number): boolean {
    return (this.cells[row * STRIDE + FLAGS] & STAYS) !== 0;
  }

  /** It plays no notes. @hotpath */
  isSilent(row: number): boolean {
    return (this.cells[row * STRIDE + FLAGS] & SILENT) !== 0;
  }

  /** It is heard, and its channel is to get its level. @hotpath */
  sendsLevel(row: number): boolean {
    return (this.cells[row * STRIDE + FLAGS] & (SENDS_LEVEL | SILENT)) === SENDS_LEVEL;
  }

  /** It sounds through effects of its own. @hotpath */
  hasEffects(row: number): boolean {
    return (this.cells[row * STRIDE + FLAGS] & EFFECTS) !== 0;
  }

  /** A recording that goes round and round: nothing but a stop, or leaving it, ends it. @hotpath */
  loops(row: number): boolean {
    return (this.cells[row * STRIDE + FLAGS] & LOOPS) !== 0;
  }

  /** @hotpath */
  lanes(row: number): 1 | 16 {
    return (this.cells[row * STRIDE + FLAGS] & SIXTEEN_LANES) === 0 ? 1 : 16;
  }

  /** @hotpath */
  carry(row: number): Carry {
    return (this.cells[row * STRIDE + FLAGS] >> CARRY_SHIFT) as Carry;
  }
}

const flagsOf = (layer: PlannedLayer): number =>
  (layer.outboard ? OUTBOARD : 0) |
  (layer.notReady === NotReady.stay ? STAYS : 0) |
  (layer.silent ? SILENT : 0) |
  (layer.sendsLevel ? SENDS_LEVEL : 0) |
  (layer.effects.length > 0 ? EFFECTS : 0) |
  (layer.recording?.plays === 'loop' ? LOOPS : 0) |
  (layer.lanes === 16 ? SIXTEEN_LANES : 0) |
  (layer.carry << CARRY_SHIFT);

/** A table without rows, before the first recall. */
export const NO_PLANS = LayerPlans.of([]);
