import { Actions } from './controls/actions';
import { ControlMap } from './controls/controlMap';
import { Overrides } from './controls/overrides';
import { Arpeggiator } from './play/arpeggiator';
import { BeatGrid } from './play/beatGrid';
import { ControllerRouter } from './play/controllerRouter';
import { Devices } from './play/devices';
import { LiveSound } from './play/liveSound';
import { MessageRouter } from './play/messageRouter';
import { NoteRouter } from './play/noteRouter';
import { PlayedShow } from './playedShow';
import { EchoTeller } from './recall/echoTeller';
import { Readiness } from './recall/readiness';
import { Recaller } from './recall/recaller';
import { Restart } from './restart';
import type { EngineSink } from './sink';
import { EngineState } from './state/engineState';
import type { Registry } from './state/registry';
import { Transport } from './timeline/transport';

/** The parts of an engine, each knowing those that it needs. They share one memory, the state. */
export type EngineParts = ReturnType<typeof makeParts>;

/** @param registry the one that the compiler of its shows writes in. */
export function makeParts(registry: Registry, sink: EngineSink) {
  const state = new EngineState(registry, sink);
  /** The show that inputs have brought. */
  const played = new PlayedShow();
  // Transport and notes need each other: what it acts upon is asked for when it acts.
  const transport: Transport = new Transport(state, {
    get notes() {
      return notes;
    },
    get outboard() {
      return recaller.outboard;
    },
    recallAt: (position, cause) => actions.recallAt(position, cause),
    ended: (atEnd, outside) => actions.timelineEnded(atEnd, outside),
  });
  const beats = new BeatGrid(transport);
  const notes: NoteRouter = new NoteRouter(
    state,
    beats,
    (through) => new Arpeggiator(state, through, transport, beats),
  );
  const controllers = new ControllerRouter(state);
  const values = new Overrides(state);
  const echo = new EchoTeller(state);
  const liveSound = new LiveSound(state);
  const recaller: Recaller = new Recaller(state, notes, controllers, values, liveSound);
  const actions: Actions = new Actions({ state, recaller, notes, controllers, values, transport, beats, echo });
  const controls = new ControlMap(state, actions, values, (entry, first) => {
    const left = recaller.whereLeft.of(entry);
    return left >= 0 ? left : first;
  });
  const devices = new Devices(state, notes, controllers, controls, recaller, transport, () => played.gear);
  const router = new MessageRouter(state, devices, notes, controllers, controls, transport);
  const readiness = new Readiness(state, recaller);
  const restart = new Restart(state, recaller, values, controls, actions);
  return {
    state,
    played,
    transport,
    notes,
    values,
    echo,
    liveSound,
    recaller,
    actions,
    controls,
    devices,
    router,
    readiness,
    restart,
  };
}
