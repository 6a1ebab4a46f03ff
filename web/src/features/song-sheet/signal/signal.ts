import type { LayerChange } from '../../shared-layers';
import type { Blend, Instrument, KnownInstrument, Layer, Mix, Part, Song } from '@rackle/core/show';

/** What a blend may change of a layer's balance. */
export type BalanceChange = Partial<
  Pick<Blend['values'][number], 'levelDb' | 'pan' | 'mute' | 'room' | 'echo' | 'sends' | 'articulation' | 'parameters'>
>;

/** A layer in one patch or blend, as its signal line shows it, and how it is changed. */
export interface Signal {
  readonly song: Song;
  readonly layer: Layer;
  readonly part: Part;
  readonly blend: Blend | null;
  /** The patch that is looked at. */
  readonly patchId: string;
  /** It plays in every patch of the song. */
  readonly stands: boolean;
  readonly middleC: 'C3' | 'C4';
  /** Edits of one value at this place are one step of undo. */
  readonly at: string;
  /** What the blend changes of it. */
  readonly change: Blend['values'][number] | undefined;
  /** As it stands here: the patch's, where the blend has nothing of its own. */
  readonly balance: Mix;
  readonly known: KnownInstrument | null;
  /** The instrument, where it stands outside this machine. */
  readonly outboard: Extract<Instrument, { kind: 'outboard' }> | null;
  readonly live: Extract<Layer['source'], { kind: 'live' }> | null;
  /** It sounds in this machine. */
  readonly inside: boolean;
  setSong: (label: string, next: Song, mergeKey?: string) => void;
  /** Changes the layer: where other patches play it too, it is asked which are meant. */
  setLayer: (label: string, next: Partial<Layer>, mergeKey?: string) => void;
  changeLayer: (label: string, apply: LayerChange['apply'], mergeKey?: string) => void;
  setPart: (label: string, apply: (part: Part) => Part, mergeKey?: string) => void;
  setZone: (label: string, next: Partial<Part['zone']>) => void;
  setBalance: (label: string, values: BalanceChange, mergeKey: string) => void;
}
