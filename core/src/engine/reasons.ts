/** Why something that came in was not used. The index is the counter's. */
export const IGNORED_REASONS = [
  'malformed',
  'unknown-port',
  'port-off',
  'doubled-port',
  'no-patch',
  'no-layer-here',
  'out-of-range',
  'stray-note-off',
  'bank-remembered',
  'no-such-program',
  'program-not-listened',
  'counter-reference',
  'counter-repeat',
  'guard',
  'mode-message',
  'pedal-ignored',
  'system-exclusive',
  'clock',
  'system',
  'too-many-notes',
  'per-note-to-outboard',
  'parameter-number-missing',
  'channel-not-listened',
  'not-ready',
  'no-one-listens',
  'counter-outside',
  'output-away',
  'role-does-nothing',
  'control-waits',
  'other-clock',
  'switch-pressure',
  'layer-muted',
  'other-channel',
] as const;
/** Why something that came in was not used. */
export type IgnoredReason = (typeof IGNORED_REASONS)[number];

/** The number of each reason, as it is counted. */
export const REASON = Object.fromEntries(IGNORED_REASONS.map((reason, index) => [reason, index])) as Record<
  IgnoredReason,
  number
>;

/** Each reason as the monitor says it. */
export const IGNORED_IN_WORDS: Record<IgnoredReason, string> = {
  malformed: 'not a MIDI message',
  'unknown-port': 'this port is not in the gear list',
  'port-off': 'this port is switched off',
  'doubled-port': 'the other port of this device is listened to',
  'no-patch': 'no patch to play',
  'no-layer-here': 'no layer here',
  'out-of-range': 'shifted beyond the last key',
  'stray-note-off': 'no note to end',
  'bank-remembered': 'bank remembered',
  'no-such-program': 'no such program in this setlist',
  'program-not-listened': 'program changes are not listened to here',
  'counter-reference': 'first number of the counter, taken as its reference',
  'counter-repeat': 'the counter stands where it stood',
  guard: 'too soon after the last hit',
  'mode-message': 'mode message, not passed on',
  'pedal-ignored': 'this pedal is ignored',
  'system-exclusive': 'system exclusive, not wanted',
  clock: 'clock',
  system: 'system message, not used',
  'too-many-notes': 'too many notes at once',
  'per-note-to-outboard': 'per-note message, outboard gear does not get it',
  'parameter-number-missing': 'data without its parameter number',
  'channel-not-listened': 'this channel is not listened to',
  'not-ready': 'the sound is not ready',
  'no-one-listens': 'no layer listens to it',
  'counter-outside': 'outside the counter’s numbers',
  'output-away': 'the output is away',
  'role-does-nothing': 'its role does nothing here',
  'control-waits': 'waits until it meets the value',
  'other-clock': 'clock of another port than the one followed',
  'switch-pressure': 'pressure of a pad that is a switch',
  'layer-muted': 'the layer here is muted',
  'other-channel': 'the layers here play from another input or channel',
};

/** What the engine warns of: it goes on all the same. */
export type WarningCode =
  | 'active-sensing-lost'
  | 'program-under-held-notes'
  | 'not-ready'
  | 'at-first-step'
  | 'at-last-step'
  | 'no-cursor'
  | 'nothing-to-recall'
  | 'input-gone'
  | 'output-gone'
  | 'input-back'
  | 'output-back'
  | 'clock-from-outside'
  | 'count-unknown';
