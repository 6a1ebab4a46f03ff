/** Devices that one engine can tell apart. Their numbers come from the `Registry` and are never used again for another. */
export const MAX_INPUTS = 64;
/** Input port and channel together: `port * 16 + channel`. */
export const MAX_INPUT_CHANNELS = MAX_INPUTS * 16;
/** Notes (layer by layer) that can be down at once; more are not started, and counted. */
export const MAX_HELD = 8192;
/** Things that can be due later; more are done at once, and counted. */
export const MAX_DUE = 8192;
/** How long a note waits for a sound that is not ready, in ms. */
export const MAX_WAIT_MS = 250;
/** The shortest a note sounds that was released while it waited, in ms. */
export const MIN_LATE_NOTE_MS = 20;
/** A step this soon after a cue has stepped the same way is the same step. */
export const CUE_STEP_MS = 300;
/** A second panic within this time resets everything, in ms. */
export const SECOND_PANIC_MS = 2000;
/** A built-in sound that is cut falls by 60 dB within 30 ms, and does not click. */
export const CUT_MS = 18;
/** How long levels glide at a recall, in ms, so that they make no click. */
export const RECALL_RAMP_MS = 12;
/** Slots of last-sent values in a lane: 128 controllers, then pressure, then the wheel. */
export const PRESSURE_SLOT = 128;
/** The wheel’s place behind the controllers and pressure. */
export const WHEEL_SLOT = 129;
/** Controllers 0–127, channel pressure, wheel. */
export const VALUE_SLOTS = 130;
/** Active sensing comes at least every 300 ms (MIDI 1.0); after this it is taken as lost. */
export const SENSING_LOST_MS = 330;
