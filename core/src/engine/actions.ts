import type { PlainAction } from '../show';
import type { BeatGrid } from './beatGrid';
import { RECORD_ENTRY, RECORD_STRIDE, type CompiledBinding, type CompiledShow } from './compile/compiled';
import type { ActionTaker } from './controlDesk';
import type { ControllerDesk } from './controllerDesk';
import type { EchoTeller } from './echoTeller';
import { SECOND_PANIC_MS } from './limits';
import type { NoteDesk } from './noteDesk';
import type { Playhead } from './playhead';
import type { Recaller } from './recaller';
import type { RecallCause } from './records';
import type { Rig } from './rig';
import { firstWalked, ofBlend, ofPatch, ofSong, walk, walkSongs } from './steps';
import { Taps } from './taps';
import type { ValueDesk } from './valueDesk';

export interface ActionParts {
  rig: Rig;
  recaller: Recaller;
  notes: NoteDesk;
  controllers: ControllerDesk;
  values: ValueDesk;
  playhead: Playhead;
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
  private readonly rig: Rig;
  private readonly recaller: Recaller;
  private readonly notes: NoteDesk;
  private readonly controllers: ControllerDesk;
  private readonly values: ValueDesk;
  private readonly playhead: Playhead;
  private readonly beats: BeatGrid;
  private readonly echo: EchoTeller;

  constructor(parts: ActionParts) {
    this.rig = parts.rig;
    this.recaller = parts.recaller;
    this.notes = parts.notes;
    this.controllers = parts.controllers;
    this.values = parts.values;
    this.playhead = parts.playhead;
    this.beats = parts.beats;
    this.echo = parts.echo;
  }

  recallAt(position: number, cause: RecallCause): void {
    const { rig } = this;
    const { show } = rig;
    if (show === null || !(position >= 0 && position < show.steps.length))
      return rig.warn('nothing-to-recall', String(position));
    const entryChanges = rig.entry !== show.records[position * RECORD_STRIDE + RECORD_ENTRY];
    const songChanges = rig.step !== null && entryChanges;
    this.recaller.recall(position, cause);
    this.cursor = -1;
    if (songChanges) {
      this.playhead.songChanged();
      this.beats.forget();
    }
    if (entryChanges) {
      this.playhead.takeSongTempo();
      this.echo.tell();
    }
  }

  stepBy(direction: 1 | -1, cause: RecallCause): void {
    this.act(direction > 0 ? 'nextStep' : 'previousStep', cause);
  }

  /** Does what a role does here and now. */
  carryOut(binding: CompiledBinding, cause: RecallCause): void {
    const { rig } = this;
    const { action } = binding;
    switch (action.kind) {
      case 'patch':
        return this.goTo(ofPatch(rig.show, rig.entry, action.number), cause);
      case 'song':
        return this.goTo(ofSong(rig.show, action.number), cause);
      case 'blend':
        return this.goTo(ofBlend(rig.show, rig.step, action.number), cause);
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
    else this.rig.warn('nothing-to-recall', this.rig.step?.patch.name ?? '');
  }

  act(action: PlainAction, cause: RecallCause): void {
    const { rig } = this;
    switch (action) {
      case 'panic':
        return this.panic();
      case 'play':
        return this.playhead.play();
      case 'stop':
        return this.playhead.stop();
      case 'toStart':
        return this.playhead.locate(0);
      case 'hold':
        return this.toggleHold();
      case 'tapTempo':
        return this.tap();
      case 'transposeUp':
        return this.setTranspose(rig.transpose + 1);
      case 'transposeDown':
        return this.setTranspose(rig.transpose - 1);
      case 'transposeOff':
        return this.setTranspose(0);
      case 'resend':
        return this.recaller.resend();
    }
    const { show } = rig;
    if (show === null) return;
    if (action === 'cursorNext' || action === 'cursorPrevious')
      return this.moveCursor(show, action === 'cursorNext' ? 1 : -1);
    const position = this.destinationOf(action, show);
    if (position < 0 && action === 'go') return rig.warn('no-cursor', '');
    if (position >= 0) this.recallAt(position, cause);
    else
      rig.warn(
        action === 'previousStep' || action === 'previousSong' ? 'at-first-step' : 'at-last-step',
        rig.step?.patch.name ?? '',
      );
  }

  private destinationOf(action: PlainAction, show: CompiledShow): number {
    const { step } = this.rig;
    if (action === 'go') return this.cursor;
    if (action === 'firstSong' || step === null) return firstWalked(show);
    if (action === 'firstStep') return ofPatch(show, this.rig.entry, 1);
    if (action === 'nextStep') return walk(show, step.position, 1);
    if (action === 'previousStep') return walk(show, step.position, -1);
    return walkSongs(show, step, action === 'nextSong' ? 1 : -1);
  }

  private toggleHold(): void {
    this.holding = !this.holding;
    if (this.holding) this.notes.keep();
    else this.notes.letGo();
    this.rig.record({ type: 'switch', atMs: this.rig.nowMs, of: 'hold', on: this.holding });
  }

  private tap(): void {
    const bpm = this.taps.tap(this.rig.nowMs);
    if (bpm > 0) this.playhead.setTempo(bpm);
  }

  /** Stage transposition in semitones, −24 to 24: for notes that are struck from here on. */
  private setTranspose(semitones: number): void {
    const { rig } = this;
    rig.transpose = Math.max(-24, Math.min(24, semitones));
    rig.record({ type: 'transpose', atMs: rig.nowMs, semitones: rig.transpose });
  }

  /** Moves the cursor along the steps without a sound; `go` recalls where it stands. */
  private moveCursor(show: CompiledShow, direction: 1 | -1): void {
    const from = this.cursor >= 0 ? this.cursor : (this.rig.step?.position ?? -1);
    const to = walk(show, from, direction);
    if (to >= 0) this.setCursor(to);
    else
      this.rig.warn(direction > 0 ? 'at-last-step' : 'at-first-step', show.steps[Math.round(from)]?.patch.name ?? '');
  }

  /** Puts the cursor on a position, or (−1) takes it away. */
  setCursor(position: number): void {
    this.cursor = position;
    this.rig.record({ type: 'cursor', atMs: this.rig.nowMs, position });
  }

  panic(): void {
    const { rig } = this;
    const second = rig.nowMs - this.panicMs <= SECOND_PANIC_MS;
    this.panicMs = second ? -Infinity : rig.nowMs;
    this.notes.endAll();
    this.holding = false;
    const { inputs, lanes } = rig;
    for (let i = 0; i < inputs.downCount; i++) inputs.pedalSwallowed[inputs.down[i]] = 1;
    for (let layer = 0; layer < rig.isCurrent.length; layer++) this.controllers.dropPedals(layer);
    for (let lane = 0; lane < lanes.laneCount; lane++) lanes.centreWheel(lane);
    if (second) {
      for (let destination = 0; destination < rig.book.destinations.length; destination++) {
        if (lanes.away[destination] === 0 && lanes.isTouched(destination)) lanes.silence(destination);
      }
      this.recaller.greetAgain(-1);
    }
    rig.record({ type: 'panic', atMs: rig.nowMs, strength: second ? 2 : 1 });
  }
}
