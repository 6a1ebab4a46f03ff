/** Keys and velocities that play one recording, both ends inclusive. */
export interface OutlineZone {
  lowKey: number;
  highKey: number;
  lowVelocity: number;
  highVelocity: number;
  /** The same for the same recording. */
  sample: number;
}

/** A built-in preset, to be looked at. */
export interface PresetOutline {
  /** None: it is made as it is played. */
  zones: readonly OutlineZone[];
  /** Level of middle C over time, struck at velocity 100, let go of after `HELD_S`: seconds, dB below its top. */
  envelope: readonly { s: number; db: number }[];
}

/** How long the note of the envelope is held. */
export const HELD_S = 2;
/** Lower than that nothing is drawn. */
export const SOFTEST_DB = -60;
