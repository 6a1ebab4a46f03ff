import { assertNever } from '../../result';
import type { PlainAction } from '../../show';
import type { BeatGrid } from '../play/beatGrid';
import { REASON } from '../reasons';
import type { AtEnd, CompiledBinding, CompiledShow } from '../compile/compiled';
import type { ActionTaker } from './controlMap';
import type { ControllerRouter } from '../play/controllerRouter';
import type { EchoTeller } from '../recall/echoTeller';
import { CUE_STEP_MS, SECOND_PANIC_MS } from '../state/limits';
import type { NoteRouter } from '../play/noteRouter';
import type { Transport } from '../timeline/transport';
import type { Recaller } from '../recall/recaller';
import type { RecallCause } from '../records';
import type { EngineState } from '../state/engineState';
import { firstWalked, ofBlend, ofPatch, ofSong, walk, walkSongs } from '../recall/steps';
import { Taps } from './taps';
import type { Overrides } from './overrides';

type Walk = Extract<
  PlainAction,
  'go' | 'nextStep' | 'previousStep' | 'nextSong' | 'previousSong' | 'firstSong' | 'firstStep'
>;

/** What actions act upon. */
export interface ActionParts {
  state: EngineState;
  recaller: Recaller;
  notes: NoteRouter;
  controllers: ControllerRouter;
  values: Overrides;
  transport: Transport;
  beats: BeatGrid;
  echo: EchoTeller;
}

/** What roles, pages and program changes ask for: recalls, steps, the cursor, switches, panic. */
export class Actions implements ActionTaker {
  /** Where the cursor stands; −1: nowhere. */
  cursor = -1;
  holding = false;
  private panicMs = -Infinity;
  private readonly taps = new Taps();
  private readonly state: EngineState;
  private readonly recaller: Recaller;
  private readonly notes: NoteRouter;
  private readonly controllers: ControllerRouter;
  private readonly values: Overrides;
  private readonly transport: Transport;
  private readonly beats: BeatGrid;
  private readonly echo: EchoTeller;

  constructor(parts: ActionParts) {
    this.state = parts.state;
    this.recaller = parts.recaller;
    this.notes = parts.notes;
    this.controllers = parts.controllers;
    this.values = parts.values;
    this.transport = parts.transport;
    this.beats = parts.beats;
    this.echo = parts.echo;
  }

  recallAt(position: number, cause: RecallCause): void {
    const { state } = this;
    const { show } = state;
    if (show === null || !(position >= 0 && position < show.steps.length))
      return state.warn('nothing-to-recall', String(position));
    if (cause === 'program') this.transport.recalls.calls.called(position);
    const entryChanges = state.entry !== show.records.entry(position);
    const songChanges = state.step !== null && entryChanges;
    this.recaller.recall(position, cause);
    this.cursor = -1;
    if (songChanges) {
      this.transport.songChanged();
      this.beats.forget();
    }
    if (entryChanges) {
      this.transport.takeSongTempo();
      this.echo.tell();
    }
  }

  stepBy(direction: 1 | -1, cause: RecallCause): void {
    this.act(direction > 0 ? 'nextStep' : 'previousStep', cause);
  }

  /** Does what a role does here and now. */
  carryOut(binding: CompiledBinding, cause: RecallCause): void {
    const { state } = this;
    const { action } = binding;
    switch (action.kind) {
      case 'patch':
        return this.goTo(ofPatch(state.show, state.entry, action.number), cause);
      case 'song':
        return this.goTo(ofSong(state.show, action.number), cause);
      case 'blend':
        return this.goTo(ofBlend(state.show, state.step, action.number), cause);
      case 'layerSwitch':
        this.values.toggle(binding);
        return this.recaller.mutesMoved();
      case 'presetStep': {
        const layer = this.values.stepPreset(binding);
        return layer === null ? undefined : this.recaller.presetStepped(layer);
      }
      case 'trigger':
        return this.notes.trigger(binding.part, action.key);
      case 'effectSwitch':
        return this.values.toggleEffect(action.effect);
      case 'effectOnOff':
      case 'sharedEffectOnOff':
        return this.values.switchEffect(binding);
      case 'layerValue':
      case 'layerController':
      case 'wholeValue':
      case 'effectValue':
      case 'sharedEffectValue':
        return;
      default:
        return this.act(action.kind, cause);
    }
  }

  private goTo(position: number, cause: RecallCause): void {
    if (position >= 0) this.recallAt(position, cause);
    else this.state.warn('nothing-to-recall', this.state.step?.patch.name ?? '');
  }

  act(action: PlainAction, cause: RecallCause): void {
    const { state } = this;
    switch (action) {
      case 'panic':
        return this.panic();
      case 'play':
        return this.transport.play();
      case 'stop':
        return this.transport.stop();
      case 'toStart':
        return this.transport.locate(0);
      case 'holdCues':
        return this.toggleCues();
      case 'hold':
        return this.toggleHold();
      case 'tapTempo':
        return this.tap();
      case 'transposeUp':
        return this.setTranspose(state.transpose + 1);
      case 'transposeDown':
        return this.setTranspose(state.transpose - 1);
      case 'transposeOff':
        return this.setTranspose(0);
      case 'resend':
        return this.recaller.resend();
      case 'cursorNext':
      case 'cursorPrevious':
        return this.moveCursor(action === 'cursorNext' ? 1 : -1);
      case 'go':
      case 'nextStep':
      case 'previousStep':
      case 'nextSong':
      case 'previousSong':
      case 'firstSong':
      case 'firstStep':
        return this.walkTo(action, cause);
      default:
        return assertNever(action);
    }
  }

  private walkTo(action: Walk, cause: RecallCause): void {
    const { state } = this;
    const { show } = state;
    if (show === null) return;
    if (this.hasJustBeenDone(action)) return state.ignore(REASON.guard);
    const position = this.destinationOf(action, show);
    if (position < 0 && action === 'go') return state.warn('no-cursor', '');
    if (position >= 0) this.recallAt(position, cause);
    else
      state.warn(
        action === 'previousStep' || action === 'previousSong' ? 'at-first-step' : 'at-last-step',
        state.step?.patch.name ?? '',
      );
  }

  /** A cue has just stepped the way that is asked for: foot and cue together do not go one too far. */
  private hasJustBeenDone(action: Walk): boolean {
    const { atMs, direction: cueDirection } = this.transport.recalls;
    const direction = action === 'nextStep' ? 1 : action === 'previousStep' ? -1 : 0;
    return direction !== 0 && direction === cueDirection && this.state.nowMs - atMs < CUE_STEP_MS;
  }

  private destinationOf(action: Walk, show: CompiledShow): number {
    const { step } = this.state;
    if (action === 'go') return this.cursor;
    if (action === 'firstSong' || step === null) return firstWalked(show);
    if (action === 'firstStep') return ofPatch(show, this.state.entry, 1);
    if (action === 'nextStep') return walk(show, step.position, 1);
    if (action === 'previousStep') return walk(show, step.position, -1);
    return walkSongs(show, step, action === 'nextSong' ? 1 : -1);
  }

  /** Recalls and presets of the timeline are passed over, or no longer. */
  private toggleCues(): void {
    const { player } = this.transport;
    player.holdsCues = !player.holdsCues;
    this.state.record({ type: 'switch', atMs: this.state.nowMs, of: 'hold cues', on: player.holdsCues });
  }

  /** The timeline of a song has stopped at its end: on to the next one, where the setlist says so. */
  timelineEnded(atEnd: AtEnd, outside: boolean): void {
    if (atEnd === 'stop') return;
    const { step } = this.state;
    this.act('nextSong', 'cue');
    if (atEnd === 'playNext' && !outside && this.state.step !== step) this.transport.play();
  }

  private toggleHold(): void {
    this.holding = !this.holding;
    if (this.holding) this.notes.ender.keep();
    else this.notes.ender.letGo();
    this.state.record({ type: 'switch', atMs: this.state.nowMs, of: 'hold', on: this.holding });
  }

  private tap(): void {
    const { state, transport } = this;
    const { show, nowMs } = state;
    const bpm = this.taps.tap(nowMs);
    if (bpm <= 0) return;
    // Another player's clock gives the tempo for as long as it comes.
    if (show !== null && show.clockInput >= 0 && transport.clock.isHeard(nowMs))
      return state.warn('clock-from-outside', state.portName(show.clockInput));
    transport.setTempo(bpm);
  }

  /** Stage transposition in semitones, −24 to 24: for notes that are struck from here on. */
  setTranspose(semitones: number): void {
    const { state } = this;
    state.transpose = Math.max(-24, Math.min(24, semitones));
    state.record({ type: 'transpose', atMs: state.nowMs, semitones: state.transpose });
  }

  /** Moves the cursor along the steps without a sound; `go` recalls where it stands. */
  private moveCursor(direction: 1 | -1): void {
    const { show } = this.state;
    if (show === null) return;
    const from = this.cursor >= 0 ? this.cursor : (this.state.step?.position ?? -1);
    const to = walk(show, from, direction);
    if (to >= 0) this.setCursor(to);
    else
      this.state.warn(direction > 0 ? 'at-last-step' : 'at-first-step', show.steps[Math.round(from)]?.patch.name ?? '');
  }

  /** Puts the cursor on a position, or (−1) takes it away. */
  setCursor(position: number): void {
    this.cursor = position;
    this.state.record({ type: 'cursor', atMs: this.state.nowMs, position });
  }

  panic(): void {
    const { state } = this;
    const second = state.nowMs - this.panicMs <= SECOND_PANIC_MS;
    this.panicMs = second ? -Infinity : state.nowMs;
    this.notes.endAll();
    this.holding = false;
    const { inputs, lanes } = state;
    for (let i = 0; i < inputs.downCount; i++) inputs.pedalSwallowed[inputs.down[i]] = 1;
    for (let layer = 0; layer < state.isCurrent.length; layer++) this.controllers.dropPedals(layer);
    for (let lane = 0; lane < lanes.laneCount; lane++) lanes.centreWheel(lane);
    if (second) {
      this.silence();
      this.silenceBehind(lanes.inFlight.lastMs);
      this.recaller.greetAgain(-1);
    }
    state.record({ type: 'panic', atMs: state.nowMs, strength: second ? 2 : 1 });
  }

  private silence(): void {
    const { lanes, registry } = this.state;
    for (let destination = 0; destination < registry.destinations.length; destination++)
      if (lanes.away[destination] === 0 && lanes.isTouched(destination)) lanes.silence(destination);
  }

  /** The same behind what has been handed over and cannot be called back. */
  private silenceBehind(lastMs: number): void {
    if (lastMs < this.state.nowMs) return;
    const nowMs = this.state.stampFrom(lastMs + 1);
    this.silence();
    this.state.stampFrom(nowMs);
  }
}
