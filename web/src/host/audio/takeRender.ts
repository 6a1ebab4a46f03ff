import type { Stereo } from '@rackle/core/loudness';
import type { LevelTake, TakeLayer, TakeMessage } from '@rackle/core/soundcheck';
import type { After } from '../timer';
import { MASTER, faderGain } from './decibels';
import { EffectChain } from './effects/effectChain';
import { loadWorklet } from './effects/worklet';
import { whiteNoise } from './noise';
import type { Presets, PresetSound } from './presets';
import { Returns } from './returns';
import { Strip, type Buses } from './strip';
import { Waves } from './waves';

const RATE = 44_100;
/** What is moved glides: so long before the first key all of it is set. */
const SET_BEFORE_S = 0.25;
/** A context can stop to have something done only between its blocks of samples. */
const BLOCK = 128;

/**
 * Renders a take as fast as it goes, through what layers of this machine go through, up to the limiter of the output,
 * which is left out: what it would have to hold down is to be seen.
 * @returns null where a sound is not to be had
 */
export async function renderTake(take: LevelTake, presets: Presets, after: After): Promise<Stereo | null> {
  const sounds: PresetSound[] = [];
  for (const { instrumentId, presetId } of take.layers) {
    const sound = await presets.find(instrumentId, presetId);
    if (sound === null) return null;
    sounds.push(sound);
  }
  const context = new OfflineAudioContext(2, Math.round((SET_BEFORE_S + take.seconds) * RATE), RATE);
  await loadWorklet(context);
  const { buses, wake } = busesOf(take, context, after);
  const strips = take.layers.map((layer, i) => stripOf(layer, sounds[i], buses, take.bpm));
  wake();
  for (const [atS, acts] of byTime(take.layers, strips)) {
    const block = (Math.ceil((SET_BEFORE_S + atS) * (RATE / BLOCK)) * BLOCK) / RATE;
    if (block >= SET_BEFORE_S + take.seconds) continue;
    void context.suspend(block).then(() => {
      for (const act of acts) act();
      return context.resume();
    });
  }
  const buffer = await context.startRendering();
  const from = Math.round(SET_BEFORE_S * RATE);
  return { left: buffer.getChannelData(0).slice(from), right: buffer.getChannelData(1).slice(from), rate: RATE };
}

/** Room, tempo delay, shared effects and the effects on the whole, as they stand in a take. */
function busesOf(
  { bpm, echo, whole, sharedEffects, wholeEffects }: LevelTake,
  context: OfflineAudioContext,
  after: After,
): { buses: Buses; wake: () => void } {
  const master = context.createGain();
  const [levelDb, roomDb, echoDb, repeats] = whole;
  master.gain.value = MASTER * faderGain(levelDb);
  const chain = new EffectChain({ context, after });
  chain.set(wholeEffects, bpm);
  master.connect(chain.input);
  chain.output.connect(context.destination);
  const returns = new Returns({ context, after });
  returns.leadTo(master);
  returns.set(sharedEffects, master);
  returns.setTempo(bpm);
  if (echo !== null) returns.setEchoNote(echo);
  returns.setRoomLevel(faderGain(roomDb));
  returns.setEchoLevel(faderGain(echoDb));
  returns.setEchoRepeats(repeats);
  return {
    buses: {
      context,
      after,
      master,
      room: returns.room,
      echo: returns.echo,
      noise: whiteNoise(context),
      waves: new Waves(context),
      shared: (name) => returns.input(name),
    },
    wake: () => {
      chain.wake();
      returns.wake();
    },
  };
}

function stripOf({ balance, effects, sends }: TakeLayer, sound: PresetSound, buses: Buses, bpm: number): Strip {
  const strip = new Strip(sound, buses, 'level', bpm);
  strip.effects(effects, bpm, 0);
  strip.balance(...balance, 0);
  strip.sends(sends, 0);
  return strip;
}

/** What is to be done when, in seconds from the beginning of the take; what holds from before is done at once. */
function byTime(layers: readonly TakeLayer[], strips: readonly Strip[]): Map<number, (() => void)[]> {
  const times = new Map<number, (() => void)[]>();
  layers.forEach(({ messages }, i) => {
    for (const message of messages) {
      const act = (): void => tell(strips[i], message);
      const [atMs, status] = message;
      if (atMs === 0 && !isNote(status)) act();
      else times.set(atMs / 1000, [...(times.get(atMs / 1000) ?? []), act]);
    }
  });
  return times;
}

const isNote = (status: number): boolean => (status & 0xe0) === 0x80;

function tell(strip: Strip, [, status, data1, data2]: TakeMessage): void {
  const channel = status & 15;
  switch (status & 0xf0) {
    case 0x90:
      return data2 > 0 ? strip.noteOn(channel, data1, data2) : strip.noteOff(channel, data1);
    case 0x80:
      return strip.noteOff(channel, data1);
    case 0xb0:
      return strip.controller(channel, data1, data2);
    case 0xe0:
      return strip.bend(channel, (data2 << 7) | data1);
    case 0xd0:
      return strip.pressure(data1);
  }
}
