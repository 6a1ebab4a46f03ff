const STRIDE = 4;
const LANE = 0;
const INDEX = 1;
/** Velocities in bits 0–6 and 8–14, `FOLLOWS`, and the shift above them with its sign. */
const ZONE = 2;
const HAS_EXTRAS = 3;

const FOLLOWS = 128;

/** One layer within a patch, as a note sees it. */
export interface PartRow {
  readonly lane: number;
  /** The layer's number in the engine. */
  readonly index: number;
  /** 0–127. */
  readonly lowVelocity: number;
  readonly highVelocity: number;
  /** Semitones. */
  readonly shift: number;
  /** Stage transposition moves it. */
  readonly follows: boolean;
  /** It plays chords, fades across its zone, is arpeggiated, or is a recording. */
  readonly hasExtras: boolean;
}

/** What a note needs to know of the layers of a patch, a row of four numbers each, by their number within the patch. */
export class PartRows {
  private readonly cells: Int32Array;

  constructor(rows: readonly PartRow[]) {
    this.cells = Int32Array.from(
      rows.flatMap(({ lane, index, lowVelocity, highVelocity, shift, follows, hasExtras }) => [
        lane,
        index,
        lowVelocity | (follows ? FOLLOWS : 0) | (highVelocity << 8) | (shift << 16),
        hasExtras ? 1 : 0,
      ]),
    );
  }

  /** First lane. @hotpath */
  lane(part: number): number {
    return this.cells[part * STRIDE + LANE];
  }

  /** @hotpath */
  index(part: number): number {
    return this.cells[part * STRIDE + INDEX];
  }

  /** Whether its zone takes a note of this velocity, 1–127. @hotpath */
  takes(part: number, velocity: number): boolean {
    const zone = this.cells[part * STRIDE + ZONE];
    return velocity >= (zone & 127) && velocity <= ((zone >> 8) & 127);
  }

  /** How far a key is shifted, in semitones; `transpose` is the stage's. @hotpath */
  shift(part: number, transpose: number): number {
    const zone = this.cells[part * STRIDE + ZONE];
    return (zone & FOLLOWS) === 0 ? zone >> 16 : (zone >> 16) + transpose;
  }

  /** @hotpath */
  hasExtras(part: number): boolean {
    return this.cells[part * STRIDE + HAS_EXTRAS] !== 0;
  }
}
