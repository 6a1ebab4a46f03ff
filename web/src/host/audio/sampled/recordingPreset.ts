import type { Recording } from '@rackle/core/show';
import { BY_VELOCITY } from './modulations';
import type { SampledPreset } from './sampledPreset';

const EDGE_FRAMES = 96;
/** It sounds as it is, and dies away soon after its key. */
const AS_RECORDED: SampledPreset['zones'][number]['envelope'] = {
  delayS: 0,
  attackS: 0.001,
  holdS: 0,
  decayS: 0,
  releaseS: 0.06,
  holdCentsPerKey: 0,
  decayCentsPerKey: 0,
  sustainDb: 0,
};

/** A recording as a preset of one zone, trimmed, with its cut ends rounded off so that they do not click. */
export function recordingAsPreset(
  recording: Recording,
  channels: readonly Float32Array[],
  sampleRate: number,
): SampledPreset {
  const from = Math.min(channels[0].length - 1, Math.round(recording.startSeconds * sampleRate));
  const to = Math.max(
    from + 1,
    Math.min(channels[0].length, Math.round((recording.endSeconds ?? Infinity) * sampleRate) || channels[0].length),
  );
  const loops = recording.plays === 'loop';
  const trimmed = channels.map((channel) => rounded(channel, from, to, loops));
  return {
    samples: [
      {
        id: JSON.stringify(recording),
        frames: trimmed[0].length,
        sides: trimmed.length === 2 ? 2 : 1,
        channels: trimmed,
        sampleRate,
      },
    ],
    zones: [
      {
        lowKey: 0,
        highKey: 127,
        lowVelocity: 0,
        highVelocity: 127,
        sample: 0,
        start: 0,
        end: trimmed[0].length,
        rootKey: recording.rootKey,
        tuneCents: 0,
        centsPerKey: recording.followsKeys ? 100 : 0,
        loop: loops ? { start: 0, end: trimmed[0].length } : null,
        loopsWhileHeld: false,
        ringing: null,
        levelDb: recording.levelDb,
        gainDb: 0,
        pan: 0,
        envelope: AS_RECORDED,
        sweep: null,
        waves: [],
        filterHz: null,
        resonanceDb: 0,
        fixedKey: null,
        fixedVelocity: null,
        group: 0,
        modulations: [BY_VELOCITY],
      },
    ],
  };
}

/** A part of a channel, with the ends that were cut rounded off. */
function rounded(channel: Float32Array, from: number, to: number, loops: boolean): Float32Array<ArrayBuffer> {
  const part = new Float32Array(channel.subarray(from, to));
  const edge = Math.min(EDGE_FRAMES, part.length >> 2);
  if (from > 0) for (let i = 0; i < edge; i++) part[i] *= i / edge;
  if (!loops && to < channel.length) for (let i = 0; i < edge; i++) part[part.length - 1 - i] *= i / edge;
  return part;
}
