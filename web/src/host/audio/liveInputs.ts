import { BENCH_INPUT } from '../../protocol';
import type { After } from '../timer';
import { FeedbackGuard } from './feedbackGuard';

const GUARD_EVERY_MS = 60;
const FFT_SIZE = 2048;
const LOOP_HZ = [196, 247, 294, 247, 220, 262, 330, 262];
const LOOP_STEP_S = 0.3;

/** The sound itself, without what browsers do to voices in calls. */
const AS_IT_IS = { echoCancellation: false, noiseSuppression: false, autoGainControl: false };

interface LiveInput {
  /** Where its sound can be taken from: in stereo, and mono to both sides. */
  stereo: GainNode;
  mono: GainNode;
  gate: GainNode;
  analyser: AnalyserNode;
  guard: FeedbackGuard;
}

/** Audio inputs by name, opened when a layer first wants one. One that begins to howl is shut, and said. */
export class LiveInputs {
  private readonly inputs = new Map<string, LiveInput>();
  private benchLoop: GainNode | null = null;
  private loopOn = false;
  private watches = false;

  constructor(
    private readonly context: AudioContext,
    private readonly after: After,
    private readonly onTrouble: (text: string) => void,
  ) {}

  /** A node with the sound of an input; silent until it is there. */
  node(name: string, mono: boolean): AudioNode {
    const input = this.inputs.get(name) ?? this.open(name);
    return mono ? input.mono : input.stereo;
  }

  /** Lets the simulated input play its loop, or be silent. */
  setBenchLoop(on: boolean): void {
    this.loopOn = on;
    this.benchLoop?.gain.setTargetAtTime(on ? 1 : 0, this.context.currentTime, 0.01);
  }

  private open(name: string): LiveInput {
    const { context } = this;
    const gate = context.createGain();
    const stereo = context.createGain();
    const mono = context.createGain();
    // Down to one channel, which the rest of the way takes to both sides.
    mono.channelCount = 1;
    mono.channelCountMode = 'explicit';
    const analyser = context.createAnalyser();
    analyser.fftSize = FFT_SIZE;
    analyser.smoothingTimeConstant = 0;
    gate.connect(stereo);
    gate.connect(mono);
    gate.connect(analyser);
    const input: LiveInput = { gate, stereo, mono, analyser, guard: new FeedbackGuard(context.sampleRate, FFT_SIZE) };
    this.inputs.set(name, input);
    if (name === BENCH_INPUT) this.playLoop(gate);
    else void this.connect(name, gate);
    if (!this.watches) this.watch();
    return input;
  }

  private async connect(name: string, gate: GainNode): Promise<void> {
    try {
      // Inputs have names only once the browser has been allowed to use one. Another input than the one that was asked
      // for is never taken:
      // it may stand in front of a loudspeaker.
      const allowed = await navigator.mediaDevices.getUserMedia({ audio: AS_IT_IS });
      for (const track of allowed.getTracks()) track.stop();
      const found = (await navigator.mediaDevices.enumerateDevices()).find(
        (device) => device.kind === 'audioinput' && device.label === name,
      );
      if (!found) throw new Error('there is no such input');
      const stream = await navigator.mediaDevices.getUserMedia({
        audio: { ...AS_IT_IS, deviceId: { exact: found.deviceId } },
      });
      this.context.createMediaStreamSource(stream).connect(gate);
    } catch {
      this.onTrouble(
        `The audio input “${name}” is not there, or this browser does not allow it. Its layers are silent; everything else goes on.`,
      );
    }
  }

  /** A few plucked notes, round and round. */
  private playLoop(gate: GainNode): void {
    const { context } = this;
    const length = Math.round(LOOP_HZ.length * LOOP_STEP_S * context.sampleRate);
    const buffer = context.createBuffer(1, length, context.sampleRate);
    const samples = buffer.getChannelData(0);
    LOOP_HZ.forEach((hz, step) => {
      const from = Math.round(step * LOOP_STEP_S * context.sampleRate);
      for (let i = from; i < length && i < from + LOOP_STEP_S * context.sampleRate; i++) {
        const s = (i - from) / context.sampleRate;
        samples[i] +=
          0.25 *
          Math.exp(-6 * s) *
          Math.min(1, s / 0.004) *
          Math.min(1, (LOOP_STEP_S - s) / 0.01) *
          (Math.sin(2 * Math.PI * hz * s) + 0.4 * Math.sin(4 * Math.PI * hz * s));
      }
    });
    const source = context.createBufferSource();
    source.buffer = buffer;
    source.loop = true;
    this.benchLoop = context.createGain();
    this.benchLoop.gain.value = this.loopOn ? 1 : 0;
    source.connect(this.benchLoop).connect(gate);
    source.start();
  }

  private watch(): void {
    this.watches = true;
    this.after(GUARD_EVERY_MS, () => this.watch());
    for (const [name, { gate, analyser, guard }] of this.inputs) {
      const spectrum = new Float32Array(analyser.frequencyBinCount);
      analyser.getFloatFrequencyData(spectrum);
      if (!guard.hear(spectrum)) continue;
      gate.gain.setTargetAtTime(0, this.context.currentTime, 0.01);
      this.onTrouble(`“${name}” began to howl and was shut. Turn it down, then mute and open its layer again.`);
    }
  }

  /** An input that was shut may sound again. */
  reopen(name: string): void {
    const input = this.inputs.get(name);
    if (!input?.guard.isShut) return;
    input.guard.reset();
    input.gate.gain.setTargetAtTime(1, this.context.currentTime, 0.01);
  }
}
