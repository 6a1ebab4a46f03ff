/** Sequencer-specific events (FF 7F) under the number for what is nobody's (7D): this track holds recalls, by number. */
export const RACKLE_RECALLS = '\x7dRackle recalls';
/** This track holds what Rackle sends for its recalls: reading it would say it twice. */
export const RACKLE_DERIVED = '\x7dRackle derived';

/** A mark as its bytes. */
export const markBytes = (mark: string): Uint8Array => Uint8Array.from(mark, (letter) => letter.charCodeAt(0));
