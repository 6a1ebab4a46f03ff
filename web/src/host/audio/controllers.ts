import { midi } from '@rackle/core/midi';

export const { CC_ALL_SOUND_OFF, CC_EXPRESSION, CC_MODULATION, CC_SUSTAIN } = midi;

// Sound controllers 2 to 8 of MIDI (RP-021).
export const CC_RESONANCE = 71;
export const CC_RELEASE = 72;
export const CC_ATTACK = 73;
export const CC_BRIGHTNESS = 74;
export const CC_VIBRATO_RATE = 76;
export const CC_VIBRATO_DEPTH = 77;
